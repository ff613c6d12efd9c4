<script lang="ts">
	import { levelDiagram, type LevelDiagram } from '#core/budget/levelDiagram';
	import type { HopPlanInput } from '#core/budget/planInput';
	import type { HopPlan } from '#core/budget/hopPlan';
	import { farEnd, type End } from '#core/ends';
	import { dbm, fixed } from '../format';

	let { input, plan }: { input: HopPlanInput; plan: HopPlan } = $props();

	const WIDTH = 460;
	const HEIGHT = 300;
	const TOP = 14;
	const BOTTOM = 286;
	const LEFT = 46;

	const diagrams = $derived(
		(['B', 'A'] as const).map((end) => drawn(levelDiagram(input, plan, end), end))
	);

	/** A staircase from the transmitter's side to the receiver's: left to right from A to B, and back. */
	function drawn(diagram: LevelDiagram, end: End) {
		const levels = [diagram.transmitDbm, ...diagram.steps.map(({ levelDbm }) => levelDbm)];
		const threshold =
			diagram.thresholds.find(({ modulation }) => modulation === input.operatingModulation) ??
			diagram.thresholds.at(-1);
		const top = Math.ceil((Math.max(...levels) + 6) / 20) * 20;
		const bottom = Math.floor((Math.min(...levels, threshold?.dbm ?? 0) - 6) / 20) * 20;
		const y = (level: number): number => TOP + ((top - level) / (top - bottom)) * (BOTTOM - TOP);
		const wide = (WIDTH - LEFT) / levels.length;
		const x = (i: number): number => (end === 'B' ? LEFT + i * wide : WIDTH - i * wide);
		const path = levels
			.map((level, i) => `${i === 0 ? 'M' : 'L'}${x(i)} ${y(level)}H${x(i + 1)}`)
			.join('');
		const scale: number[] = [];
		for (let at = top; at >= bottom; at -= 20) scale.push(at);
		const overload = { words: 'overload', level: diagram.overloadDbm, colour: 'var(--ink)' };
		const marks = [
			...(threshold
				? [
						{
							...{ words: `threshold ${threshold.modulation}`, level: threshold.dbm },
							...{ colour: 'var(--trouble)', dash: '7 4', atReceiver: false }
						}
					]
				: []),
			{ ...overload, dash: '2 4', atReceiver: true }
		];
		return { diagram, marks, path, scale, x, y };
	}
</script>

<div class="grid gap-x-8 gap-y-5 lg:grid-cols-2" data-testid="level-diagram">
	{#each diagrams as { diagram, marks, path, scale, x, y } (diagram.receivingEnd)}
		{@const end = diagram.receivingEnd}
		{@const from = farEnd(end)}
		{@const levels = [
			{ name: `transmitter at ${from}`, changeDb: 0, levelDbm: diagram.transmitDbm },
			...diagram.steps
		]}
		<figure class="end-{from} m-0">
			<figcaption class="font-bold">
				{from} to {end}: <span class="num">{dbm(diagram.transmitDbm)}</span> sent,
				<span class="num">{dbm(levels.at(-1)!.levelDbm)}</span> received
			</figcaption>
			<svg
				viewBox="0 0 {WIDTH} {HEIGHT}"
				class="mt-1 block w-full"
				role="img"
				aria-label="Levels from {from} to {end}: {levels
					.map(({ name, levelDbm }) => `${name} ${fixed(levelDbm, 1)} dBm`)
					.join(', ')}"
			>
				{#each scale as level (level)}
					<line x1={LEFT} x2={WIDTH} y1={y(level)} y2={y(level)} stroke="var(--line)" />
					<text
						class="num"
						x={LEFT - 6}
						y={y(level) + 4}
						text-anchor="end"
						font-size="11"
						fill="var(--quiet)">{fixed(level, 0)}</text
					>
				{/each}
				{#each marks as { words, level, colour, dash, atReceiver } (words)}
					{@const right = atReceiver === (end === 'B')}
					<line
						x1={LEFT}
						x2={WIDTH}
						y1={y(level)}
						y2={y(level)}
						stroke={colour}
						stroke-width="1.5"
						stroke-dasharray={dash}
					/>
					<text
						x={right ? WIDTH - 4 : LEFT + 4}
						y={y(level) - 4}
						text-anchor={right ? 'end' : 'start'}
						font-size="11"
						fill={colour}>{words} {fixed(level, 1)}</text
					>
				{/each}
				<path d={path} fill="none" stroke="var(--end)" stroke-width="3" />
				{#each diagram.steps as step, i (step.name)}
					{@const middle = (x(i + 1) + x(i + 2)) / 2}
					<text
						class="num"
						x={middle}
						y={y(step.levelDbm) + (step.changeDb < 0 ? 14 : -6)}
						text-anchor="middle"
						font-size="11"
						fill="var(--ink)">{fixed(step.changeDb, 1, true)}</text
					>
				{/each}
			</svg>
			<ol class="text-quiet mt-1 flex flex-wrap gap-x-3 text-[0.82rem]">
				{#each diagram.steps as step (step.name)}
					<li>
						{step.name}
						<span class="num text-ink">{fixed(step.changeDb, 1, true)}</span>
					</li>
				{/each}
			</ol>
		</figure>
	{/each}
</div>
