<script lang="ts">
	import type { HubPlan, UnitPlan } from '#core/hub/hubFigures';
	import { offFaceOf } from '#core/hub/scanWindow';
	import { fixed } from '../format';

	interface Props {
		plan: HubPlan;
		unit: UnitPlan;
		number: number;
		chosen: string | undefined;
		onchoose: (id: string) => void;
	}

	let { plan, unit, number, chosen, onchoose }: Props = $props();

	let boxWidth = $state(480);
	const WIDTH = $derived(Math.max(260, boxWidth));
	const scan = $derived(unit.unit.part.scan);
	/** A good half more than the window on every side: what lies just outside is seen. */
	const acrossDeg = $derived(Math.min(180, 1.5 * scan.azimuthDeg));
	const aboveDeg = $derived(Math.min(90, 1.6 * scan.elevationDeg));
	const HEIGHT = $derived(Math.max(150, Math.min(300, (WIDTH * aboveDeg) / acrossDeg)));
	const x = (deg: number): number => WIDTH / 2 + (deg / acrossDeg) * (WIDTH / 2 - 8);
	const y = (deg: number): number => HEIGHT / 2 - (deg / aboveDeg) * (HEIGHT / 2 - 8);
	const seen = $derived(
		plan.terminals.flatMap(({ terminal, path, served }, i) => {
			const off = offFaceOf(path.vector, unit.unit);
			if (Math.abs(off.acrossDeg) > acrossDeg || Math.abs(off.aboveDeg) > aboveDeg) return [];
			const own = served?.unit.id === unit.unit.id;
			return [{ i, id: terminal.id, name: terminal.name, own, served: served !== null, ...off }];
		})
	);
	/** The horizon in the frame of a tilted unit: a line only where it does not tilt. */
	const horizon = $derived(
		Array.from({ length: 41 }, (_, i) => -acrossDeg + (i / 20) * acrossDeg)
			.map((deg) => {
				const heading = ((unit.unit.headingDeg + deg) * Math.PI) / 180;
				const off = offFaceOf([Math.cos(heading), Math.sin(heading), 0], unit.unit);
				return `${x(off.acrossDeg).toFixed(1)},${y(off.aboveDeg).toFixed(1)}`;
			})
			.join('L')
	);
</script>

<figure bind:clientWidth={boxWidth} class="m-0 min-w-0" data-testid="unit-window">
	<figcaption class="mb-1 text-sm">
		<strong>As {unit.unit.name} sees it</strong>
		<span class="text-quiet num"
			>±{fixed(scan.azimuthDeg, 0)}° across, ±{fixed(scan.elevationDeg, 0)}° up and down</span
		>
	</figcaption>
	<svg
		viewBox="0 0 {WIDTH} {HEIGHT}"
		width={WIDTH}
		height={HEIGHT}
		class="block max-w-full"
		role="img"
		aria-label="Terminals in the window of {unit.unit.name}: {seen
			.filter(({ own }) => own)
			.map(({ name }) => name)
			.join(', ') || 'none'}"
	>
		<rect width={WIDTH} height={HEIGHT} fill="var(--land)" />
		<rect
			x={x(-scan.azimuthDeg)}
			y={y(scan.elevationDeg)}
			width={x(scan.azimuthDeg) - x(-scan.azimuthDeg)}
			height={y(-scan.elevationDeg) - y(scan.elevationDeg)}
			fill="var(--paper)"
			stroke="var(--ink)"
			stroke-width="1.6"
		/>
		<path
			d="M{horizon}"
			fill="none"
			stroke="var(--quiet)"
			stroke-width="1"
			stroke-dasharray="5 4"
		/>
		<path
			d="M{x(0) - 7},{y(0)}h14M{x(0)},{y(0) - 7}v14"
			stroke="var(--ink)"
			stroke-width="1.4"
			fill="none"
		/>
		{#each seen as { i, id, acrossDeg: across, aboveDeg: above, own, served } (id)}
			<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
			<g class="cursor-pointer" onclick={() => onchoose(id)}>
				<circle cx={x(across)} cy={y(above)} r="14" fill="transparent" />
				{#if chosen === id}
					<circle
						cx={x(across)}
						cy={y(above)}
						r="8"
						fill="none"
						stroke="var(--ink)"
						stroke-width="2"
					/>
				{/if}
				<circle
					cx={x(across)}
					cy={y(above)}
					r="4"
					fill={own ? 'var(--ink)' : 'var(--paper)'}
					stroke={served ? 'var(--ink)' : 'var(--trouble)'}
					stroke-width="1.6"
				/>
				<text
					x={x(across) + 9}
					y={y(above) - 6}
					class="num text-[11px] font-semibold"
					fill={served ? 'var(--ink)' : 'var(--trouble)'}>{i + 1}</text
				>
			</g>
		{/each}
	</svg>
	<p class="text-quiet text-sm">
		Unit {number}: the dashed line is the horizon. Filled, it serves; hollow, another does, or none.
	</p>
</figure>
