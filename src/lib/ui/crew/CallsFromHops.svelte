<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { alertOf } from '#core/record/alerts';
	import type { End } from '#core/ends';
	import { alarms } from '../hop/alarms.svelte';
	import AlertShown from '../hop/AlertShown.svelte';
	import { FeedStream } from '../hop/feedStream.svelte';

	interface Place {
		hopId: string;
		hopName: string;
		end: End;
		/** Place of the latest record when the page was opened: what was there calls nobody. */
		lastSeq: number;
	}

	/** Where somebody works today: the far end of each can call them. */
	let { places }: { places: readonly Place[] } = $props();
	/** Who called last. */
	let caller: Place | undefined = $state.raw();

	function hear(place: Place): FeedStream {
		let after = place.lastSeq;
		return new FeedStream(place.hopId, {
			after: () => after,
			taken: (record) => {
				after = Math.max(after, record.seq);
				const alert = alertOf(record, place.end);
				if (!alert) return;
				caller = place;
				alarms.call(
					places.length > 1 ? { ...alert, words: `${place.hopName}: ${alert.words}` } : alert
				);
			},
			opened: () => undefined
		});
	}

	onMount(() => {
		const stop = alarms.start();
		const streams = untrack(() => places).map(hear);
		for (const stream of streams) stream.connect();
		return () => {
			for (const stream of streams) stream.stop();
			stop();
		};
	});
</script>

<AlertShown end={caller?.end ?? 'A'} />
