<script lang="ts">
	import type { Axis, End } from '#core/ends';
	import { recordsOf } from '#core/record/records';
	import { readingLevelDbm } from '#core/radio/levelCurve';
	import { adjusterAngleDeg } from '#core/sweep/adjusterScale';
	import { calibrateAdjuster } from '#core/sweep/calibrateAdjuster';
	import { fixed } from '../format';
	import type { BenchHop } from '../hop/benchHop';
	import type { AlignBench } from './bench.svelte';
	import Sheet from './Sheet.svelte';

	interface Props {
		open: boolean;
		end: End;
		live: BenchHop;
		bench: AlignBench;
	}

	let { open = $bindable(), end, live, bench }: Props = $props();
	let axis: Axis = $state('azimuth');
	const adjuster = $derived(live.revision.input.ends[end].mount[axis]);
	const sweep = $derived(
		recordsOf(live.weighed, 'sweep', end)
			.filter((record) => record.payload.axis === axis)
			.at(-1)
	);
	const since = $derived(
		recordsOf(live.weighed, 'calibration', end).filter((record) => record.payload.axis === axis)
	);
	/** A sweep from before the newest calibration is in an older scale. */
	const usable = $derived(sweep !== undefined && sweep.seq > (since.at(-1)?.seq ?? 0));
	const found = $derived.by(() => {
		const analysis = sweep && live.analysisOf(sweep.id);
		if (!open || !sweep || !analysis || !usable) return undefined;
		const samples = sweep.payload.samples.flatMap(({ positionDeg, levelV }) => {
			const levelDbm = readingLevelDbm(bench.curve.read(levelV));
			return levelDbm === undefined ? [] : [{ positionDeg, levelDbm }];
		});
		return calibrateAdjuster(
			adjuster,
			samples,
			analysis,
			live.revision.plan.dish[end].beamwidthDeg
		);
	});
	const present = $derived(adjusterAngleDeg(adjuster, 1));
</script>

<Sheet
	bind:open
	title="Measure the adjuster"
	description="For a mount whose thread or arm is not known: the beam is the ruler."
>
	<div class="flex flex-col gap-4">
		<div class="grid grid-cols-2 gap-2" role="group" aria-label="Axis">
			{#each ['azimuth', 'tilt'] as const as option (option)}
				<button
					type="button"
					class="btn {axis === option ? 'btn-main' : ''}"
					aria-pressed={axis === option}
					onclick={() => (axis = option)}>{option}</button
				>
			{/each}
		</div>
		<p>
			Now one turn counts as <strong class="num">{fixed(present, 3)}°</strong>{since.length
				? ', measured here'
				: ' by the plan’s mount'}.
		</p>
		{#if !found}
			<p>
				Sweep the {axis} over the main lobe first, a beam to either side with a reading every quarter
				of a turn; then come back here.
			</p>
		{:else if found.kind === 'unusable'}
			<p>{found.reason}</p>
		{:else}
			<p>
				The lobe of the last sweep is <strong class="num">{fixed(found.widthTurns, 2)} turns</strong
				>
				wide at 3 dB; this dish’s beam is
				<span class="num">{fixed(live.revision.plan.dish[end].beamwidthDeg, 2)}°</span>. So one turn
				is
				<strong class="num"
					>{fixed(found.degPerTurn, 3)}° ± {fixed(found.sigmaDegPerTurn, 3)}°</strong
				>.
			</p>
			<button
				class="btn btn-main btn-big"
				disabled={!live.mayRecord}
				onclick={async () => {
					await live.add(end, 'calibration', {
						axis,
						degPerTurn: found.degPerTurn,
						sigmaDegPerTurn: found.sigmaDegPerTurn,
						sweepId: sweep!.id
					});
					open = false;
				}}>Count turns so from now on</button
			>
			<p class="text-quiet text-sm">
				Earlier readings of this end are in the old scale and no longer count for its aim.
			</p>
		{/if}
	</div>
</Sheet>
