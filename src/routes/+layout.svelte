<script lang="ts">
	import '../app.css';
	import { onMount } from 'svelte';
	import { restoreTheme } from '$lib/ui/frame/theme';

	let { children } = $props();
	onMount(() => {
		restoreTheme();
		// Tests and slow phones: a control works once the page is alive.
		document.documentElement.dataset.alive = 'true';
	});
</script>

{@render children()}
