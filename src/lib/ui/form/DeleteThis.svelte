<script lang="ts">
	import { callApi } from '../api';
	import AskFirst from './AskFirst.svelte';
	import Notice from './Notice.svelte';
	import { Saving } from './saving.svelte';

	interface Props {
		/** What it is, such as `site`. */
		what: string;
		name: string;
		/** Its address in the API. */
		path: string;
		/** What it means that it is gone. */
		means: string;
		ongone: () => void;
	}

	let { what, name, path, means, ongone }: Props = $props();
	let asking = $state(false);
	const working = new Saving();

	async function remove(): Promise<void> {
		if (await working.run(() => callApi('DELETE', path))) ongone();
	}
</script>

<section class="border-line mt-8 flex flex-col gap-3 border-t pt-4" aria-label="Delete this {what}">
	<div>
		<button type="button" class="btn" disabled={working.busy} onclick={() => (asking = true)}
			>Delete this {what}</button
		>
	</div>
	{#if working.message}<Notice kind="trouble">{working.message}</Notice>{/if}
</section>
<AskFirst
	bind:open={asking}
	title="Delete {name}?"
	{means}
	yes="Delete the {what}"
	onyes={() => void remove()}
/>
