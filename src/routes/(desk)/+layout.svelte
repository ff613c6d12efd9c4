<script lang="ts">
	import DeskHeader from '$lib/ui/frame/DeskHeader.svelte';

	let { data, children } = $props();
</script>

<DeskHeader actor={data.actor} />
<main id="work" class="mx-auto max-w-6xl px-4 py-7">{@render children()}</main>
