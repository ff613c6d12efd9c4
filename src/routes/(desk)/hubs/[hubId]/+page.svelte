<script lang="ts">
	import { goto, invalidateAll } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { callApi } from '$lib/ui/api';
	import AskFirst from '$lib/ui/form/AskFirst.svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import HubEditor from '$lib/ui/hub/HubEditor.svelte';

	let { data } = $props();
	let asking = $state(false);
	const working = new Saving();

	async function remove(): Promise<void> {
		if (await working.run(() => callApi('DELETE', `/hubs/${data.hub.id}`)))
			await goto(resolve('/hubs'));
	}
</script>

<svelte:head><title>{data.hub.name} · Skiaxis</title></svelte:head>
<div class="mb-3 flex flex-wrap items-baseline gap-x-4">
	<h1>{data.hub.name}</h1>
	<p class="text-quiet">at {data.hub.site.name}</p>
</div>
{#key data.hub.id}
	<HubEditor
		hub={data.hub}
		parts={data.parts}
		mayEdit={data.mayEdit}
		onsaved={() => void invalidateAll()}
	/>
{/key}
{#if data.mayEdit}
	<section class="border-line mt-8 flex flex-col gap-3 border-t pt-4" aria-label="Delete this hub">
		<div>
			<button type="button" class="btn" disabled={working.busy} onclick={() => (asking = true)}
				>Delete this hub</button
			>
		</div>
		{#if working.message}<Notice kind="trouble">{working.message}</Notice>{/if}
	</section>
	<AskFirst
		bind:open={asking}
		title="Delete {data.hub.name}?"
		means="It is gone for good, with its units and terminals. The site stays."
		yes="Delete the hub"
		onyes={() => void remove()}
	/>
{/if}
