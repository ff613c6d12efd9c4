<script lang="ts">
	import type { EChartsCoreOption } from 'echarts/core';
	import type { End } from '#core/ends';
	import { heightCurve } from '#core/path/antennaHeights';
	import type { ClearanceVerdict } from '#core/path/clearanceSchool';
	import { chartAxis, endColour, type Colour } from '../chart/axis';
	import Chart from '../chart/Chart.svelte';
	import { fixed } from '../format';
	import { measure, toShown, unitOf } from '../units.svelte';

	interface Props {
		verdict: ClearanceVerdict;
		groundAmslM: Record<End, number>;
		heightsAglM: Record<End, number>;
		onheights: (heights: Record<End, number>) => void;
	}

	let { verdict, groundAmslM, heightsAglM, onheights }: Props = $props();
	/** Room of the axes around the drawing, px. */
	const EDGE = { left: 46, right: 12, top: 10, bottom: 42 };
	const mostM = $derived(
		Math.ceil(Math.max(60, 1.4 * Math.max(heightsAglM.A, heightsAglM.B)) / 20) * 20
	);
	const curve = $derived(
		heightCurve(verdict, groundAmslM.A, groundAmslM.A + mostM, 41).map((pair) => ({
			a: pair.aAmslM - groundAmslM.A,
			b: Math.min(mostM, Math.max(0, pair.bAmslM - groundAmslM.B))
		}))
	);
	let box: HTMLElement | undefined = $state();
	let dragging = $state(false);
	const across = $derived(heightsAglM.A / mostM);
	const up = $derived(heightsAglM.B / mostM);

	function option(colour: Colour): EChartsCoreOption {
		const axis = (end: End, nameGap: number): object =>
			chartAxis(colour, {
				name: `height at ${end}, ${unitOf('m')}`,
				nameGap,
				nameTextStyle: { color: endColour(colour, end) },
				min: 0,
				max: mostM,
				interval: mostM / 4,
				axisLabel: { formatter: (m: number) => fixed(toShown(m, 'm'), 0) },
				splitLine: { show: false }
			});
		return {
			animation: false,
			grid: EDGE,
			xAxis: axis('A', 26),
			yAxis: axis('B', 32),
			series: [
				{
					type: 'line',
					showSymbol: false,
					data: curve.map(({ a, b }) => [a, b]),
					lineStyle: { color: colour('--ink'), width: 2 },
					// What lies above the curve clears the path.
					areaStyle: { color: colour('--well-2'), opacity: 1, origin: 'end' }
				}
			]
		};
	}

	function place(event: PointerEvent): void {
		if (!dragging) return;
		const { left, top, width, height } = box!.getBoundingClientRect();
		const bounded = (value: number): number =>
			Math.min(mostM, Math.max(0.5, Math.round(value * 2) / 2));
		onheights({
			A: bounded(((event.clientX - left) / width) * mostM),
			B: bounded((1 - (event.clientY - top) / height) * mostM)
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
	<div class="relative">
		<Chart class="h-64 w-full" label="Least height at B for each height at A" {option} />
		<div
			bind:this={box}
			class="pointer-events-none absolute"
			style:left="{EDGE.left}px"
			style:right="{EDGE.right}px"
			style:top="{EDGE.top}px"
			style:bottom="{EDGE.bottom}px"
		>
			<div
				role="slider"
				tabindex="0"
				aria-label="Antenna heights at A and B together"
				aria-valuenow={heightsAglM.A}
				aria-valuetext="A {measure(heightsAglM.A, 'm', 1)}, B {measure(
					heightsAglM.B,
					'm',
					1
				)}, {verdict.holds ? 'clear' : 'short'}"
				class="pointer-events-auto absolute flex h-11 w-11 -translate-x-1/2 translate-y-1/2 cursor-move touch-none items-center justify-center rounded-full"
				style:left="{100 * across}%"
				style:bottom="{100 * up}%"
				onpointerdown={(event) => {
					event.preventDefault();
					event.currentTarget.setPointerCapture(event.pointerId);
					event.currentTarget.focus();
					dragging = true;
				}}
				onpointermove={place}
				onpointerup={() => (dragging = false)}
				onpointercancel={() => (dragging = false)}
				onkeydown={key}
			>
				<span
					class="border-ink block h-4 w-4 rounded-full border-[2.5px] {verdict.holds
						? 'bg-card'
						: 'bg-trouble'}"
				></span>
			</div>
		</div>
	</div>
</figure>
