<script lang="ts">
	import CloudSun from '@lucide/svelte/icons/cloud-sun';
	import Moon from '@lucide/svelte/icons/moon';
	import Sun from '@lucide/svelte/icons/sun';
	import { onMount } from 'svelte';
	import { currentTheme, restoreTheme, setTheme, themeAfter, type Theme } from './theme';

	const WORDS: Record<Theme, string> = {
		day: 'Use the day theme',
		sun: 'Use the theme for full sun',
		night: 'Use the night theme'
	};
	let theme: Theme = $state('day');
	const next = $derived(themeAfter(theme));
	onMount(() => {
		// This may come before the page around it has set the theme.
		restoreTheme();
		theme = currentTheme();
	});

	function toggle(): void {
		theme = next;
		setTheme(theme);
	}
</script>

<button
	type="button"
	class="inline-flex h-12 w-12 items-center justify-center rounded-lg"
	onclick={toggle}
	aria-label={WORDS[next]}
	title={WORDS[next]}
>
	{#if next === 'night'}<Moon size={22} />{:else if next === 'sun'}<Sun size={22} />{:else}<CloudSun
			size={22}
		/>{/if}
</button>
