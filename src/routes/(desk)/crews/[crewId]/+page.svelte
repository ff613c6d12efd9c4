<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import CrewForm from '$lib/ui/crew/CrewForm.svelte';
	import DeleteThis from '$lib/ui/form/DeleteThis.svelte';

	let { data } = $props();
	const away = (): void => void goto(resolve('/crews'));
</script>

<svelte:head><title>{data.crew.name} · Skiaxis</title></svelte:head>
<h1 class="mb-5">{data.crew.name}</h1>
<CrewForm crew={data.crew} people={data.people} onsaved={away} />
<DeleteThis
	what="crew"
	name={data.crew.name}
	path="/crews/{data.crew.id}"
	means="It is gone with its people and their phone numbers; accounts stay. A crew that is assigned to an end is not deleted."
	ongone={away}
/>
