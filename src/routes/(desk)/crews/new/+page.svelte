<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import CrewForm from '$lib/ui/crew/CrewForm.svelte';

	let { data } = $props();
</script>

<svelte:head><title>Make a crew · Skiaxis</title></svelte:head>
<h1 class="mb-5">Make a crew</h1>
<CrewForm people={data.people} onsaved={() => void goto(resolve('/crews'))} />
