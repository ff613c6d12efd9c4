<script lang="ts">
	import type { HopPlan } from '#core/budget/hopPlan';
	import { ENDS, type End, type PerEnd } from '#core/ends';
	import type { FieldRecord } from '#core/record/records';
	import { isOfSecond } from '#core/record/secondDish';

	interface Props {
		/** What is shown, in its order. */
		records: readonly FieldRecord[];
		/** Of the hop of each dish, the first before the second. */
		plans: PerEnd<HopPlan>[];
		/** How many of them have passed. */
		position: number;
		/** The record at the place, in words. */
		words: string;
	}

	let { records, plans, position = $bindable(), words }: Props = $props();

	const GAP = 14;
	const TOP = 16;
	const LEFT = 34;
	const RIGHT = 12;
	let width = $state(800);
	let strip: HTMLElement | undefined = $state();

	const top = (end: End): number => TOP + (end === 'A' ? 0 : LANE + GAP);
	const x = (place: number): number =>
		LEFT + (place / Math.max(1, records.length)) * (width - LEFT - RIGHT);

	/** How far every reading hangs below its plan; levels above it hang by nothing. */
	const hanging = $derived(
		records.flatMap((record, i) => {
			if (record.kind !== 'reading' || record.payload.levelDbm === null) return [];
			const second = isOfSecond(record);
			const plan = plans[second ? 1 : 0];
			if (!plan) return [];
			const belowDb =
				plan[record.end].received[record.end].plannedLevelDbm - record.payload.levelDbm;
			return [{ place: i + 1, end: record.end, second, belowDb: Math.max(0, belowDb) }];
		})
	);
	/** Where no level was read a lane needs no depth. */
	const LANE = $derived(hanging.length ? 66 : 26);
	const HEIGHT = $derived(TOP + 2 * LANE + GAP + 22);
	/** Whole tens, so that the scale has a round end. */
	const mostDb = $derived(
		10 * Math.ceil(Math.max(10, ...hanging.map(({ belowDb }) => belowDb)) / 10)
	);
	const depth = (belowDb: number): number => (belowDb / mostDb) * (LANE - 6);
	const bar = $derived(Math.max(1.5, Math.min(7, (0.7 * (width - LEFT)) / (records.length || 1))));
	/** Everything else of an end is a mark at the foot of its lane. */
	const marks = $derived(
		records.flatMap(({ kind, end }, i) => (kind === 'reading' ? [] : [{ place: i + 1, end }]))
	);
	/** From one hand-over to the next. */
	const batons = $derived.by(() => {
		const runs: { end: End; from: number; to: number }[] = [];
		records.forEach((record, i) => {
			if (record.kind !== 'baton') return;
			const last = runs.at(-1);
			if (last) last.to = i + 1;
			else runs.push({ end: record.payload.to === 'A' ? 'B' : 'A', from: 0, to: i + 1 });
			runs.push({ end: record.payload.to, from: i + 1, to: records.length });
		});
		return runs;
	});

	const clamp = (place: number): number => Math.max(0, Math.min(records.length, place));
	function toPointer(event: PointerEvent): void {
		const box = strip!.getBoundingClientRect();
		const share = (event.clientX - box.left - LEFT) / (width - LEFT - RIGHT);
		position = clamp(Math.round(share * records.length));
	}
	const KEYS: Record<string, (at: number) => number> = {
		ArrowRight: (at) => at + 1,
		ArrowUp: (at) => at + 1,
		ArrowLeft: (at) => at - 1,
		ArrowDown: (at) => at - 1,
		PageUp: (at) => at + 10,
		PageDown: (at) => at - 10,
		Home: () => 0,
		End: () => records.length
	};
	function pressed(event: KeyboardEvent): void {
		const move = KEYS[event.key];
		if (!move) return;
		event.preventDefault();
		position = clamp(move(position));
	}
</script>

<div
	bind:this={strip}
	bind:clientWidth={width}
	class="cursor-pointer touch-pan-y select-none"
	role="slider"
	tabindex="0"
	aria-label="Place in the record"
	aria-valuemin="0"
	aria-valuemax={records.length}
	aria-valuenow={position}
	aria-valuetext="{position} of {records.length}: {words}"
	onkeydown={pressed}
	onpointerdown={(event) => {
		strip!.setPointerCapture(event.pointerId);
		toPointer(event);
	}}
	onpointermove={(event) => {
		if (strip!.hasPointerCapture(event.pointerId)) toPointer(event);
	}}
>
	<svg {width} height={HEIGHT} class="block" aria-hidden="true">
		{#each ENDS as end (end)}
			{@const at = top(end)}
			<g class="end-{end}">
				<text x="2" y={at + 15} font-weight="700" font-size="17" fill="var(--end)">{end}</text>
				<line x1={LEFT} x2={width - RIGHT} y1={at} y2={at} stroke="var(--ink)" stroke-width="1.2" />
				{#each batons.filter((run) => run.end === end) as run (run.from)}
					<line
						x1={x(run.from)}
						x2={x(run.to)}
						y1={at - 5}
						y2={at - 5}
						stroke="var(--end)"
						stroke-width="4"
					/>
				{/each}
				{#each hanging.filter((one) => one.end === end) as one (one.place)}
					<line
						x1={x(one.place)}
						x2={x(one.place)}
						y1={at}
						y2={at + Math.max(2, depth(one.belowDb))}
						stroke="var(--end)"
						stroke-width={one.second ? bar / 2 : bar}
						stroke-opacity={one.place > position ? 0.3 : 1}
					/>
				{/each}
				{#each marks.filter((one) => one.end === end) as one (one.place)}
					<line
						x1={x(one.place)}
						x2={x(one.place)}
						y1={at + LANE - 5}
						y2={at + LANE}
						stroke="var(--end)"
						stroke-width="1.5"
						stroke-opacity={one.place > position ? 0.3 : 1}
					/>
				{/each}
				{#if hanging.length}
					<text x="0" y={at + LANE - 8} font-size="11" class="num" fill="var(--quiet)"
						>−{mostDb} dB</text
					>
				{/if}
			</g>
		{/each}
		<!-- A plumb line hangs at the place that is looked at. -->
		<line
			x1={x(position)}
			x2={x(position)}
			y1="2"
			y2={HEIGHT - 18}
			stroke="var(--ink)"
			stroke-width="2"
		/>
		<path
			d="M{x(position) - 7} {HEIGHT - 19}h14l-7 17z"
			fill="var(--ink)"
			stroke="var(--card)"
			stroke-width="1.5"
		/>
	</svg>
</div>
<p class="text-quiet flex flex-wrap gap-x-5 text-sm">
	{#if hanging.length}
		<span>Each stroke hangs as far below the plan as the level that was read.</span>
		{#if plans.length > 1}<span>Thin: the second dishes.</span>{/if}
	{/if}
	{#if batons.length}<span>Bar above: who holds the baton.</span>{/if}
	<span
		>{hanging.length
			? 'Marks at the foot: whatever else was recorded.'
			: 'A mark for every record.'}</span
	>
</p>
