<script lang="ts">
	import CloudSun from '@lucide/svelte/icons/cloud-sun';
	import Moon from '@lucide/svelte/icons/moon';
	import Sun from '@lucide/svelte/icons/sun';
	import SunMoon from '@lucide/svelte/icons/sun-moon';
	import { onMount } from 'svelte';
	import { choiceAfter, currentChoice, setTheme, type ThemeChoice } from './theme';

	const WORDS: Record<ThemeChoice, string> = {
		day: 'Use the day theme',
		sun: 'Use the theme for full sun',
		night: 'Use the night theme',
		device: 'Use the theme that this device is set to'
	};
	const ICONS = { day: CloudSun, sun: Sun, night: Moon, device: SunMoon };
	let choice: ThemeChoice = $state('day');
	const next = $derived(choiceAfter(choice));
	const Icon = $derived(ICONS[next]);
	onMount(() => (choice = currentChoice()));

	function toggle(): void {
		choice = next;
		setTheme(choice);
	}
</script>

<button
	type="button"
	class="inline-flex h-12 w-12 items-center justify-center rounded-lg"
	onclick={toggle}
	aria-label={WORDS[next]}
	title={WORDS[next]}
>
	<Icon size={22} />
</button>
