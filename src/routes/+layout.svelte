<script lang="ts">
	import '../app.css';
	import { onMount } from 'svelte';
	import { setPerson } from '$lib/ui/api';
	import { usedBy } from '$lib/ui/frame/device';
	import { restoreTheme } from '$lib/ui/frame/theme';

	let { data, children } = $props();
	$effect.pre(() => {
		setPerson(data.actor?.userId);
		if (data.actor) usedBy(data.actor.userId);
	});
	onMount(() => {
		restoreTheme();
		// Tests and slow phones: a control works once the page is alive.
		document.documentElement.dataset.alive = 'true';
	});
</script>

{@render children()}
