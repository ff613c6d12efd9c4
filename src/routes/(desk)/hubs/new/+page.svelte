<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import HubEditor from '$lib/ui/hub/HubEditor.svelte';

	let { data } = $props();
</script>

<svelte:head><title>A new hub · Skiaxis</title></svelte:head>
<h1 class="mb-4">A new hub</h1>
<HubEditor
	parts={data.parts}
	mayEdit
	onsaved={({ id }) => void goto(resolve('/(desk)/hubs/[hubId]', { hubId: id }))}
/>
