<script lang="ts">
	import Moon from '@lucide/svelte/icons/moon';
	import Sun from '@lucide/svelte/icons/sun';
	import { onMount } from 'svelte';
	import { currentTheme, setTheme, type Theme } from './theme';

	let theme: Theme = $state('day');
	onMount(() => {
		theme = currentTheme();
	});

	function toggle(): void {
		theme = theme === 'night' ? 'day' : 'night';
		setTheme(theme);
	}
</script>

<button
	type="button"
	class="inline-flex h-12 w-12 items-center justify-center rounded-lg"
	onclick={toggle}
	aria-label={theme === 'night' ? 'Use the day theme' : 'Use the night theme'}
>
	{#if theme === 'night'}<Sun size={22} />{:else}<Moon size={22} />{/if}
</button>
