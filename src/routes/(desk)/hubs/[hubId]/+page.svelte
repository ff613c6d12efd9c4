<script lang="ts">
	import { goto, invalidateAll } from '$app/navigation';
	import { resolve } from '$app/paths';
	import DeleteThis from '$lib/ui/form/DeleteThis.svelte';
	import Fold from '$lib/ui/form/Fold.svelte';
	import HubEditor from '$lib/ui/hub/HubEditor.svelte';
	import HubIssue from '$lib/ui/hub/HubIssue.svelte';
	import ImportNote from '$lib/ui/frame/ImportNote.svelte';
	import HubPractice from '$lib/ui/hub/HubPractice.svelte';

	let { data } = $props();
</script>

<svelte:head><title>{data.hub.name} · Skiaxis</title></svelte:head>
<div class="mb-3 flex flex-wrap items-baseline gap-x-4">
	<h1>{data.hub.name}</h1>
	<p class="text-quiet">at {data.hub.site.name}</p>
</div>
<ImportNote provenance={data.hub.provenance} />
<HubIssue
	hub={data.hub}
	issued={data.issued}
	mayEdit={data.mayEdit}
	onissued={() => void invalidateAll()}
/>
{#key data.hub.id}
	<HubEditor
		hub={data.hub}
		parts={data.parts}
		mayEdit={data.mayEdit}
		onsaved={() => void invalidateAll()}
	/>
{/key}
{#if data.mayEdit}
	<Fold title="For practice">
		{#key data.hub.id}
			<HubPractice
				hub={data.hub}
				terminals={data.hub.plan.terminals}
				onsaved={() => void invalidateAll()}
			/>
		{/key}
	</Fold>
	<DeleteThis
		what="hub"
		name={data.hub.name}
		path="/hubs/{data.hub.id}"
		means="It is gone for good, with its units and terminals. The site stays."
		ongone={() => void goto(resolve('/hubs'))}
	/>
{/if}
