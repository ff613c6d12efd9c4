<script lang="ts">
	import type { End } from '#core/ends';
	import { heightCurve } from '#core/path/antennaHeights';
	import type { ClearanceVerdict } from '#core/path/clearanceSchool';
	import { fixed } from '../format';
	import { measure, toShown, unitOf } from '../units.svelte';

	interface Props {
		verdict: ClearanceVerdict;
		groundAmslM: Record<End, number>;
		heightsAglM: Record<End, number>;
		onheights: (heights: Record<End, number>) => void;
	}

	let { verdict, groundAmslM, heightsAglM, onheights }: Props = $props();
	const SIZE = 230;
	const EDGE = 40;
	const mostM = $derived(Math.max(60, 1.4 * Math.max(heightsAglM.A, heightsAglM.B)));
	const x = (aglM: number): number => EDGE + (aglM / mostM) * (SIZE - EDGE - 8);
	const y = (aglM: number): number => SIZE - EDGE + 8 - (aglM / mostM) * (SIZE - EDGE - 4);
	const curve = $derived(
		heightCurve(verdict, groundAmslM.A, groundAmslM.A + mostM, 41).map((pair) => ({
			a: pair.aAmslM - groundAmslM.A,
			b: Math.min(mostM, Math.max(0, pair.bAmslM - groundAmslM.B))
		}))
	);
	const line = $derived(curve.map((p) => `${x(p.a).toFixed(1)},${y(p.b).toFixed(1)}`).join('L'));
	let svg: SVGSVGElement | undefined = $state();
	let dragging = $state(false);
	const ticks = $derived([0, 0.25, 0.5, 0.75, 1].map((share) => share * mostM));

	function place(event: PointerEvent): void {
		if (!dragging) return;
		const box = svg!.getBoundingClientRect();
		const px = ((event.clientX - box.left) / box.width) * SIZE;
		const py = ((event.clientY - box.top) / box.height) * SIZE;
		const bounded = (value: number): number =>
			Math.min(mostM, Math.max(0.5, Math.round(value * 2) / 2));
		onheights({
			A: bounded(((px - EDGE) / (SIZE - EDGE - 8)) * mostM),
			B: bounded(((SIZE - EDGE + 8 - py) / (SIZE - EDGE - 4)) * mostM)
		});
	}

	function key(event: KeyboardEvent): void {
		const change = {
			ArrowLeft: [-0.5, 0],
			ArrowRight: [0.5, 0],
			ArrowUp: [0, 0.5],
			ArrowDown: [0, -0.5]
		}[event.key];
		if (!change) return;
		event.preventDefault();
		onheights({
			A: Math.max(0.5, heightsAglM.A + change[0]!),
			B: Math.max(0.5, heightsAglM.B + change[1]!)
		});
	}
</script>

<figure class="m-0 max-w-72">
	<figcaption class="mb-1 text-sm font-semibold">Heights that clear the path</figcaption>
	<svg
		bind:this={svg}
		viewBox="0 0 {SIZE} {SIZE}"
		class="block w-full touch-none select-none"
		role="group"
		aria-label="Least height at B for each height at A"
		onpointermove={place}
		onpointerup={() => (dragging = false)}
		onpointercancel={() => (dragging = false)}
	>
		<path
			d="M{x(0)},{y(mostM)}H{x(mostM)}V{y(0)}L{[...curve]
				.reverse()
				.map((p) => `${x(p.a).toFixed(1)},${y(p.b).toFixed(1)}`)
				.join('L')}Z"
			fill="var(--well-2)"
		/>
		<path
			d="M{x(0)},{y(0)}V{y(mostM)}M{x(0)},{y(0)}H{x(mostM)}"
			stroke="var(--quiet)"
			fill="none"
		/>
		{#each ticks as tick (tick)}
			<text
				x={EDGE - 5}
				y={y(tick) + 4}
				text-anchor="end"
				font-size="10"
				class="num"
				fill="var(--quiet)">{fixed(toShown(tick, 'm'), 0)}</text
			>
			<text
				x={x(tick)}
				y={y(0) + 14}
				text-anchor="middle"
				font-size="10"
				class="num"
				fill="var(--quiet)">{fixed(toShown(tick, 'm'), 0)}</text
			>
		{/each}
		<text x={x(mostM / 2)} y={SIZE - 4} text-anchor="middle" font-size="11" fill="var(--end-a)"
			>height at A, {unitOf('m')}</text
		>
		<text
			transform="translate(10 {y(mostM / 2)}) rotate(-90)"
			text-anchor="middle"
			font-size="11"
			fill="var(--end-b)">height at B, {unitOf('m')}</text
		>
		<path d="M{line}" fill="none" stroke="var(--ink)" stroke-width="2" />
		<g
			role="slider"
			tabindex="0"
			aria-label="Antenna heights at A and B together"
			aria-valuenow={heightsAglM.A}
			aria-valuetext="A {measure(heightsAglM.A, 'm', 1)}, B {measure(
				heightsAglM.B,
				'm',
				1
			)}, {verdict.holds ? 'clear' : 'short'}"
			class="cursor-move"
			onpointerdown={(event) => {
				event.preventDefault();
				svg?.setPointerCapture(event.pointerId);
				dragging = true;
			}}
			onkeydown={key}
		>
			<circle cx={x(heightsAglM.A)} cy={y(heightsAglM.B)} r="18" fill="transparent" />
			<circle
				cx={x(heightsAglM.A)}
				cy={y(heightsAglM.B)}
				r="7"
				fill={verdict.holds ? 'var(--card)' : 'var(--trouble)'}
				stroke="var(--ink)"
				stroke-width="2.5"
			/>
		</g>
	</svg>
</figure>
