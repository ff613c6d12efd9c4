<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { alertOf } from '#core/record/alerts';
	import type { End } from '#core/ends';
	import { alarms } from './alarms.svelte';
	import AlertShown from './AlertShown.svelte';
	import type { LiveHop } from './liveHop.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();

	onMount(() => alarms.start());

	/** The last record that was looked at: what was there when the page opened calls nobody. */
	let looked = untrack(() => live.lastSeq);
	$effect(() => {
		const { records, lastSeq } = live;
		if (lastSeq <= looked) return;
		untrack(() => {
			// One crew for both ends is called by nobody: it is there.
			const calls =
				live.recorded.crews === 1
					? []
					: records
							.filter(({ seq }) => seq > looked && seq <= lastSeq)
							.flatMap((record) => alertOf(record, end) ?? []);
			looked = lastSeq;
			// What came after it may have settled it: after a while without connection much comes at once.
			const { baton } = live.recorded;
			const standing = calls.filter(
				({ kind }) => !['baton', 'asked'].includes(kind) || baton === end
			);
			// Of several at once what asks for something comes before what is only said.
			const newest = standing.findLast(({ kind }) => kind !== 'message') ?? standing.at(-1);
			if (newest) alarms.call(newest);
		});
	});
</script>

<AlertShown {end} />
