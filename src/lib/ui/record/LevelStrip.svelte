<script lang="ts">
	import type { HopPlan } from '#core/budget/hopPlan';
	import { ENDS } from '#core/ends';
	import { recordsOf, type FieldRecord } from '#core/record/records';

	interface Props {
		records: readonly FieldRecord[];
		plan: HopPlan;
		/** How many records have passed. */
		position: number;
	}

	let { records, plan, position }: Props = $props();
	const W = 1000;
	const H = 150;
	const x = (seq: number): number => (seq / Math.max(1, records.length)) * W;
	const lines = $derived(
		ENDS.map((end) => ({
			end,
			points: recordsOf(records, 'reading', end).flatMap(({ seq, payload }) =>
				payload.levelDbm === null
					? []
					: [{ seq, below: plan.received[end].plannedLevelDbm - payload.levelDbm }]
			)
		}))
	);
	const most = $derived(
		Math.max(10, ...lines.flatMap((line) => line.points.map((point) => point.below)))
	);
	const y = (below: number): number => 12 + (Math.max(-4, below) / (most + 4)) * (H - 24);
	const batons = $derived(recordsOf(records, 'baton'));
	/** Steps: a level holds until the next reading. */
	const path = (points: readonly { seq: number; below: number }[]): string =>
		points
			.map(
				(p, i) =>
					`${i === 0 ? 'M' : 'H'}${x(p.seq).toFixed(1)}${i === 0 ? ` ${y(p.below).toFixed(1)}` : `V${y(p.below).toFixed(1)}`}`
			)
			.join('');
</script>

<svg
	viewBox="0 0 {W} {H}"
	class="border-line block h-36 w-full border"
	preserveAspectRatio="none"
	role="img"
	aria-label="dB below plan at both ends over the record; 0 at the top"
>
	<path
		d="M0 {y(0)}H{W}"
		stroke="var(--ink)"
		stroke-dasharray="6 4"
		vector-effect="non-scaling-stroke"
	/>
	{#each batons as baton (baton.id)}
		<path
			d="M{x(baton.seq)} 0V{H}"
			stroke="var(--line)"
			stroke-width="2"
			vector-effect="non-scaling-stroke"
		/>
	{/each}
	{#each lines as { end, points } (end)}
		<path
			d={path(points)}
			fill="none"
			stroke="var(--end-{end.toLowerCase()})"
			stroke-width="2.5"
			stroke-dasharray={end === 'B' ? '7 3' : undefined}
			vector-effect="non-scaling-stroke"
		/>
	{/each}
	<path
		d="M{x(position)} 0V{H}"
		stroke="var(--ink)"
		stroke-width="3"
		vector-effect="non-scaling-stroke"
	/>
</svg>
<p class="text-quiet flex flex-wrap gap-x-5 text-sm">
	<span
		><strong class="text-end-a">A</strong> solid, <strong class="text-end-b">B</strong> dashed</span
	>
	<span>dashed ink: the plan; deeper is shorter of it, to {most.toFixed(0)} dB</span>
	<span>pale lines: the baton passes</span>
</p>
