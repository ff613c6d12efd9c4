<script lang="ts">
	import { onMount } from 'svelte';
	import { resolve } from '$app/paths';
	import Notice from '../form/Notice.svelte';
	import { readAllWaiting, type OwnPhoto, type Waiting } from './outbox';
	import { saveText, unsentText } from './unsentFile';

	interface Props {
		/** Who looks; an administrator may save what others left, by name. */
		person: { userId: string; displayName: string; role: string };
	}

	interface Heap {
		hopId: string;
		ownerId: string | undefined;
		name: string;
		records: Waiting[];
		photos: OwnPhoto[];
	}

	let { person }: Props = $props();
	let heaps: Heap[] = $state.raw([]);

	onMount(() => {
		void readAllWaiting()
			.then(({ records, photos }) => (heaps = heapsOf(records, photos)))
			.catch(() => undefined);
	});

	function heapsOf(records: readonly Waiting[], photos: readonly OwnPhoto[]): Heap[] {
		const found: Record<string, Heap> = {};
		const heapOf = ({ hopId, owner }: Waiting | OwnPhoto): Heap =>
			(found[`${hopId}/${owner?.id ?? ''}`] ??= {
				hopId,
				ownerId: owner?.id,
				name: owner?.name ?? '',
				records: [],
				photos: []
			});
		for (const waiting of records) heapOf(waiting).records.push(waiting);
		for (const photo of photos) heapOf(photo).photos.push(photo);
		return Object.values(found);
	}

	const isOwn = ({ ownerId }: Heap): boolean => !ownerId || ownerId === person.userId;
	/** The page of the end or station where it was made, which sends it. */
	function addressOf({ hopId, records, photos }: Heap): string {
		const station = records[0]?.record.station;
		if (station)
			return `${resolve('/hubs/[hubId]/work', { hubId: hopId })}?at=${encodeURIComponent(station)}`;
		const end = (records[0]?.record ?? photos[0])?.end === 'B' ? 'b' : 'a';
		return resolve('/hops/[hopId]/[end=end]/[stage=stage]', { hopId, end, stage: 'align' });
	}
	const count = ({ records, photos }: Heap): number => records.length + photos.length;

	async function save(heap: Heap): Promise<void> {
		const text = await unsentText({
			hopId: heap.hopId,
			name: heap.name,
			writtenBy: person.displayName,
			records: heap.records.map(({ record }) => record),
			photos: heap.photos
		});
		saveText(text, `unsent-${heap.hopId.slice(0, 8)}.json`);
	}
</script>

{#if heaps.length > 0}
	<div class="mb-5 flex flex-col gap-2" data-testid="waiting-here">
		{#each heaps as heap (`${heap.hopId}/${heap.ownerId}`)}
			<Notice kind="caution">
				<p>
					<span class="num">{count(heap)}</span>
					{count(heap) === 1 ? 'record or photo' : 'records and photos'} of
					{isOwn(heap) ? 'yours' : heap.name}
					{count(heap) === 1 ? 'waits' : 'wait'} on this device{isOwn(heap)
						? '.'
						: `, to be sent when ${heap.name} signs in here.`}
				</p>
				<div class="mt-2 flex flex-wrap gap-3">
					{#if isOwn(heap)}
						<a class="btn" href={addressOf(heap)}
							>Open the {heap.records[0]?.record.station ? 'hub' : 'hop'} and send</a
						>
					{:else if person.role === 'administrator'}
						<button class="btn" onclick={() => void save(heap)}>Save as a file</button>
					{/if}
				</div>
			</Notice>
		{/each}
	</div>
{/if}
