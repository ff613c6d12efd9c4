<script lang="ts">
	import { originOf, originWords, type Provenance } from '#core/provenance/provenance';
	import { untrack } from 'svelte';
	import type { StationProgress } from '#core/bringup/bringUp';
	import { sayHubRecord } from '#core/bringup/hubRecords';
	import { Draft } from '../form/draft.svelte';
	import Fold from '../form/Fold.svelte';
	import TextField from '../form/TextField.svelte';
	import { moment } from '../moment.svelte';
	import { spoken } from '../units.svelte';
	import type { LiveHub } from './liveHub.svelte';

	interface Props {
		live: LiveHub;
		at: StationProgress;
		/** How the hub was taken in; null where it was made here. */
		provenance: Provenance | null;
	}

	let { live, at, provenance }: Props = $props();
	/** Of a record that came with an import, from where. */
	const elsewhere = (seq: number): string =>
		originWords(originOf(provenance, { what: 'record', seq }));
	/** The newest first; older ones stay in the record. */
	const MOST_LINES = 60;
	const own = $derived(live.records.filter(({ station }) => station === at.station.id).reverse());
	const stepOf = (key: string): { title: string; unit: string } | undefined => {
		const step = at.build.steps.find((one) => one.step.key === key)?.step;
		return step && { title: step.title, unit: step.quantity?.unit ?? '' };
	};
	const draft = untrack(() => new Draft(live.placeOf(at.station.id, 'note'), { text: '' }));
	let tried = $state(false);

	async function keep(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		tried = true;
		const text = draft.values.text.trim();
		if (!text) return;
		draft.clear();
		tried = false;
		await live.add(at.station.id, 'note', { text });
	}
</script>

<Fold title="What was recorded here">
	<div class="flex flex-col gap-3 pt-2" data-testid="station-record">
		{#if live.mayRecord}
			<form class="flex flex-wrap items-end gap-3" onsubmit={keep} novalidate>
				<div class="min-w-52 flex-1">
					<TextField
						label="A note"
						name="note"
						bind:value={draft.values.text}
						error={tried && !draft.values.text.trim() ? 'Write something first.' : undefined}
					/>
				</div>
				<button class="btn">Keep the note</button>
			</form>
		{/if}
		{#if own.length === 0}<p class="text-quiet">Nothing yet.</p>{/if}
		<ol class="border-line border-t">
			{#each own.slice(0, MOST_LINES) as record (record.id)}
				<li class="border-line flex flex-col border-b py-1.5">
					<span>{spoken(sayHubRecord(record, stepOf))}</span>
					<span class="text-quiet text-sm"
						>{moment(record.recordedAt)}, {record.recordedBy}{elsewhere(record.seq)
							? ` · ${elsewhere(record.seq)}`
							: ''}</span
					>
				</li>
			{/each}
		</ol>
		{#if own.length > MOST_LINES}
			<p class="text-quiet text-sm">{own.length - MOST_LINES} older ones stay in the record.</p>
		{/if}
	</div>
</Fold>
