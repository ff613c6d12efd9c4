<script lang="ts">
	import type { End } from '#core/ends';
	import type { BayState, Stage } from '#core/stage/stages';
	import { STAGE_WORDS, STATE_WORDS } from './stageWords';

	interface Props {
		end: End;
		side: 'left' | 'right';
		bays: readonly BayState[];
		/** The stage shown now, on the mast of the end one stands at. */
		here?: Stage | undefined;
		href: (stage: Stage) => string;
	}

	let { end, side, bays, here, href }: Props = $props();

	const HEIGHT = 600;
	const TOP = 14;
	const FOOT = 590;
	const bayHeight = $derived((FOOT - TOP) / bays.length);
	// A lattice mast tapers: half-width at a height, in drawing units.
	const half = (y: number): number => 11 + 12 * ((y - TOP) / (FOOT - TOP));
	const shapes = $derived(
		bays.map((bay, i) => {
			const bottom = FOOT - i * bayHeight;
			const top = bottom - bayHeight;
			const corners = [
				[30 - half(top), top],
				[30 + half(top), top],
				[30 + half(bottom), bottom],
				[30 - half(bottom), bottom]
			] as const;
			const middle = (top + bottom) / 2;
			const rung = `M${30 - half(middle)} ${middle}H${30 + half(middle)}`;
			const cross = (y0: number, y1: number): string =>
				`M${30 - half(y0)} ${y0}L${30 + half(y1)} ${y1}M${30 + half(y0)} ${y0}L${30 - half(y1)} ${y1}`;
			return {
				bay,
				middle,
				outline: corners.map((corner) => corner.join(',')).join(' '),
				lattice: `${cross(top, middle)}${cross(middle, bottom)}${rung}`
			};
		})
	);
	const filled = (bay: BayState): boolean => bay.state === 'done' || bay.state === 'open';
</script>

<nav
	class="end-{end} relative h-full min-h-[26rem] w-full"
	aria-label="Stages of end {end}"
	data-testid="mast-{end}"
>
	<svg
		viewBox="0 0 60 {HEIGHT}"
		preserveAspectRatio="none"
		class="absolute inset-y-0 h-full w-[54px] {side === 'left' ? 'left-0' : 'right-0'}"
		aria-hidden="true"
	>
		<path d="M30 2V14" stroke="var(--ink)" stroke-width="3" />
		{#each shapes as shape (shape.bay.stage)}
			<polygon
				points={shape.outline}
				fill={shape.bay.state === 'done'
					? 'var(--fill)'
					: shape.bay.state === 'open'
						? 'var(--end-fill)'
						: 'var(--paper)'}
				stroke="var(--ink)"
				stroke-width="1.6"
				vector-effect="non-scaling-stroke"
			/>
			<path
				d={shape.lattice}
				stroke={filled(shape.bay) ? 'var(--on-fill)' : 'var(--ink)'}
				stroke-opacity={filled(shape.bay) ? 0.75 : 0.35}
				stroke-width="1"
				fill="none"
				vector-effect="non-scaling-stroke"
			/>
		{/each}
	</svg>
	<ol class="absolute inset-0 flex flex-col-reverse py-[1.5%]">
		{#each shapes as { bay } (bay.stage)}
			<li class="flex flex-1">
				<a
					href={href(bay.stage)}
					title={bay.note}
					aria-current={here === bay.stage ? 'step' : undefined}
					class="group flex w-full items-center no-underline {side === 'right'
						? 'flex-row-reverse text-right'
						: ''}"
				>
					<span class="flex w-[54px] shrink-0 justify-center" aria-hidden="true">
						{#if bay.state === 'trouble'}
							<span class="bg-paper text-trouble rounded px-1 text-xl leading-none">▲</span>
						{:else if bay.state === 'waiting'}
							<span class="bg-ink block h-1 w-4"></span>
						{/if}
					</span>
					<span class="min-w-0 px-2.5 leading-tight">
						<span
							class="block {here === bay.stage
								? 'text-end-own border-b-[3px] pb-0.5 font-bold'
								: bay.state === 'later' || bay.state === 'waiting'
									? 'text-quiet group-hover:underline'
									: 'font-semibold group-hover:underline'}"
							style:border-color="var(--end)">{STAGE_WORDS[bay.stage]}</span
						>
						<span class="text-quiet block text-[0.8rem]">{STATE_WORDS[bay.state]}</span>
					</span>
				</a>
			</li>
		{/each}
	</ol>
</nav>
