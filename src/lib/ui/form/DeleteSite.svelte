<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { callApi } from '../api';
	import AskFirst from './AskFirst.svelte';
	import Notice from './Notice.svelte';
	import { Saving } from './saving.svelte';

	let { site }: { site: { id: string; name: string } } = $props();
	let asking = $state(false);
	const working = new Saving();

	async function remove(): Promise<void> {
		if (await working.run(() => callApi('DELETE', `/sites/${site.id}`)))
			await goto(resolve('/sites'));
	}
</script>

<section class="border-line mt-8 flex flex-col gap-3 border-t pt-4" aria-label="Delete this site">
	<div>
		<button type="button" class="btn" disabled={working.busy} onclick={() => (asking = true)}
			>Delete this site</button
		>
	</div>
	{#if working.message}<Notice kind="trouble">{working.message}</Notice>{/if}
</section>
<AskFirst
	bind:open={asking}
	title="Delete {site.name}?"
	means="It is gone for good, with its attachments. A site at which a hop or a hub stands is not deleted."
	yes="Delete the site"
	onyes={() => void remove()}
/>
