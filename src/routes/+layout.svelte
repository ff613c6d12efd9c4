<script lang="ts">
	import '../app.css';
	import { afterNavigate } from '$app/navigation';
	import { onMount, tick } from 'svelte';
	import { setPerson } from '$lib/ui/api';
	import { usedBy } from '$lib/ui/frame/device';
	import { focusHeading, focusNamed, keepFocus } from '$lib/ui/frame/focus';
	import { shortcuts } from '$lib/ui/frame/shortcuts.svelte';
	import { followTheme } from '$lib/ui/frame/theme';
	import NotHere from '$lib/ui/form/NotHere.svelte';
	import { tellLocalTime } from '$lib/ui/moment.svelte';
	import { session } from '$lib/ui/session.svelte';

	let { data, children } = $props();
	$effect.pre(() => {
		setPerson(data.actor?.userId);
		if (data.actor) usedBy(data.actor.userId);
	});
	onMount(() => {
		tellLocalTime();
		const stops = [followTheme(), keepFocus(), shortcuts.start()];
		// Tests and slow phones: a control works once the page is alive.
		document.documentElement.dataset.alive = 'true';
		return () => {
			for (const stop of stops) stop();
		};
	});
	// Another page begins with its title, or with the place that was asked for; a page that came afresh is left to the browser.
	afterNavigate(async ({ from, to, type }) => {
		if (type === 'enter' || from?.url.pathname === to?.url.pathname) return;
		await tick();
		if (!focusNamed(to?.url.hash ?? '')) focusHeading(document.getElementById('work'));
	});
</script>

<a class="skip" href="#work">Skip to the work</a>
{#if session.ended}
	{#await import('$lib/ui/frame/SessionEnded.svelte') then { default: SessionEnded }}
		<SessionEnded />
	{:catch}<NotHere />{/await}
{/if}
{@render children()}
{#if shortcuts.list.ever}
	{#await import('$lib/ui/frame/ShortcutList.svelte') then { default: ShortcutList }}
		<ShortcutList />
	{:catch}<NotHere />{/await}
{/if}
