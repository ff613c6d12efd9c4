<script lang="ts">
	import { ENDS, type End, type PerEnd } from '#core/ends';
	import type { EndStanding } from '#core/stage/standing';
	import { dayWords } from './dayWords';
	import EndCell from './EndCell.svelte';

	interface Props {
		hop: {
			id: string;
			sites: PerEnd<string>;
			ends: PerEnd<EndStanding>;
			/** Who is there next, or was last; left out where it is not told. */
			crews?: readonly { end: End; name: string; day: string }[];
		};
		/** Now, ms; 0 where the page is not alive yet. */
		nowMs: number;
	}

	/** Both ends of a hop, side by side in the columns that they are put into. */
	let { hop, nowMs }: Props = $props();
	const crewAt = (end: End): string | undefined => {
		const there = hop.crews?.find((one) => one.end === end);
		return there && `${there.name}, ${dayWords(there.day)}`;
	};
</script>

{#each ENDS as end (end)}
	<EndCell
		hopId={hop.id}
		{end}
		site={hop.sites[end]}
		standing={hop.ends[end]}
		crew={crewAt(end)}
		{nowMs}
	/>
{/each}
