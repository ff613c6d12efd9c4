<script lang="ts">
	import { ENDS, type End } from '#core/ends';
	import type { ClearanceVerdict } from '#core/path/clearanceSchool';
	import { fixed } from '../format';
	import { measure, toShown, unitOf } from '../units.svelte';
	import { profileShape } from './profileShape';

	interface Props {
		verdict: ClearanceVerdict;
		/** Which of the school's rules is drawn. */
		shown: number;
		siteNames: Record<End, string>;
		heightsAglM: Record<End, number>;
		groundAmslM: Record<End, number>;
		obstacles: readonly { name: string; distanceKm: number; heightM: number }[];
		onheight: (end: End, aglM: number) => void;
		onobstacle: (index: number, change: { distanceKm?: number; heightM?: number }) => void;
		onadd: (distanceKm: number) => void;
	}

	let {
		verdict,
		shown,
		siteNames,
		heightsAglM,
		groundAmslM,
		obstacles,
		onheight,
		onobstacle,
		onadd
	}: Props = $props();

	// Drawn in the pixels there are, so that its words are as large on a phone as at a desk.
	let boxWidth = $state(960);
	const WIDTH = $derived(Math.max(280, boxWidth));
	const HEIGHT = $derived(boxWidth < 600 ? 230 : 300);
	let svg: SVGSVGElement | undefined = $state();
	let dragged: { kind: 'antenna'; end: End } | { kind: 'obstacle'; index: number } | undefined =
		$state();
	const check = $derived(verdict.checks[Math.min(shown, verdict.checks.length - 1)]!);
	const shape = $derived(profileShape(check, WIDTH, HEIGHT));
	// While something is dragged the scale stands still, or it would run away under the finger.
	let held: { top: number; low: number } | undefined = $state();
	const scale = $derived(held ?? { top: shape.topM, low: shape.lowM });
	const drawn = $derived(profileShape(check, WIDTH, HEIGHT, scale));

	function place(event: PointerEvent): { distanceKm: number; amslM: number } {
		const box = svg!.getBoundingClientRect();
		const x = ((event.clientX - box.left) / box.width) * WIDTH;
		const y = ((event.clientY - box.top) / box.height) * HEIGHT;
		return { distanceKm: drawn.distanceAt(x) / 1000, amslM: drawn.heightAt(y) };
	}

	function take(event: PointerEvent, what: NonNullable<typeof dragged>): void {
		event.preventDefault();
		svg?.setPointerCapture(event.pointerId);
		held = { top: shape.topM, low: shape.lowM };
		dragged = what;
	}

	const rounded = (value: number): number => Math.round(value * 2) / 2;

	function move(event: PointerEvent): void {
		if (!dragged) return;
		const at = place(event);
		if (dragged.kind === 'antenna') {
			const agl = rounded(at.amslM - groundAmslM[dragged.end]);
			onheight(dragged.end, Math.min(400, Math.max(0.5, agl)));
		} else {
			const obstacle = obstacles[dragged.index]!;
			const ground = drawn.groundAt(obstacle.distanceKm * 1000);
			onobstacle(dragged.index, {
				distanceKm: Math.min(drawn.lengthM / 1000, Math.max(0, at.distanceKm)),
				heightM: Math.min(500, Math.max(0, rounded(at.amslM - ground)))
			});
		}
	}

	function drop(): void {
		dragged = undefined;
		held = undefined;
	}

	function antennaKey(event: KeyboardEvent, end: End): void {
		const step = { ArrowUp: 0.5, ArrowDown: -0.5, PageUp: 5, PageDown: -5 }[event.key];
		if (step === undefined) return;
		event.preventDefault();
		onheight(end, Math.min(400, Math.max(0.5, heightsAglM[end] + step)));
	}

	function obstacleKey(event: KeyboardEvent, index: number): void {
		const obstacle = obstacles[index]!;
		const sideways = drawn.lengthM / 1000 / 100;
		const change = {
			ArrowUp: { heightM: obstacle.heightM + 0.5 },
			ArrowDown: { heightM: Math.max(0, obstacle.heightM - 0.5) },
			ArrowLeft: { distanceKm: Math.max(0, obstacle.distanceKm - sideways) },
			ArrowRight: { distanceKm: Math.min(drawn.lengthM / 1000, obstacle.distanceKm + sideways) }
		}[event.key];
		if (!change) return;
		event.preventDefault();
		onobstacle(index, change);
	}
	/** A lattice from the ground to the antenna, as the masts of the hop’s page. */
	function mast(x: number, foot: number, head: number): string {
		const tall = foot - head;
		if (tall < 4) return `M${x},${foot}V${head}`;
		const half = (at: number): number => 5 - 2.5 * (at / tall);
		const bays = Math.max(1, Math.round(tall / 11));
		let path = `M${x - 5},${foot}L${x - 2.5},${head}H${x + 2.5}L${x + 5},${foot}`;
		for (let i = 0; i < bays; i++) {
			const [low, high] = [(i / bays) * tall, ((i + 1) / bays) * tall];
			const side = i % 2 ? -1 : 1;
			path += `M${x - side * half(low)},${foot - low}L${x + side * half(high)},${foot - high}`;
		}
		return path;
	}
	const worstRatio = $derived(fixed(check.worstRatio, 2));
	const summary = $derived(
		`Profile of ${measure(drawn.lengthM / 1000, 'km', 2)}; least clearance ${worstRatio} F1 at ${measure((check.clearance.worst?.distanceM ?? 0) / 1000, 'km', 2)} from A, wanted ${fixed(check.wantedRatio, 1)} F1.`
	);
</script>

<figure class="m-0" bind:clientWidth={boxWidth}>
	<svg
		bind:this={svg}
		viewBox="0 0 {WIDTH} {HEIGHT}"
		class="block w-full touch-none select-none"
		role="group"
		aria-label={summary}
		onpointermove={move}
		onpointerup={drop}
		onpointercancel={drop}
		ondblclick={(event) => onadd(place(event as unknown as PointerEvent).distanceKm)}
	>
		{#each drawn.heightTicks as tick (tick)}
			<line
				x1="54"
				x2={WIDTH - 12}
				y1={drawn.y(tick)}
				y2={drawn.y(tick)}
				stroke="var(--line)"
				stroke-width="0.7"
			/>
			<text
				x="48"
				y={drawn.y(tick) + 4}
				text-anchor="end"
				class="num"
				font-size="12"
				fill="var(--quiet)">{fixed(toShown(tick, 'm'), 0)}</text
			>
		{/each}
		<text x="48" y="12" text-anchor="end" font-size="12" fill="var(--quiet)">{unitOf('m')}</text>
		{#each drawn.distanceTicks as tick (tick)}
			<line
				x1={drawn.x(tick)}
				x2={drawn.x(tick)}
				y1={HEIGHT - 26}
				y2={HEIGHT - 21}
				stroke="var(--quiet)"
			/>
			<text
				x={drawn.x(tick)}
				y={HEIGHT - 7}
				text-anchor="middle"
				class="num"
				font-size="12"
				fill="var(--quiet)">{fixed(toShown(tick / 1000, 'km'), 1)} {unitOf('km')}</text
			>
		{/each}
		<path d={drawn.zone} fill="var(--well-3)" opacity="0.35" />
		<path d={drawn.room} fill="var(--well-4)" opacity="0.8" />
		<path d={drawn.hachures} stroke="var(--quiet)" stroke-width="0.9" opacity="0.75" />
		<path d={drawn.ground} fill="none" stroke="var(--ink)" stroke-width="1.6" />
		{#each drawn.inTheRoom as path, i (i)}
			<path d={path} fill="var(--trouble)" stroke="var(--trouble)" data-testid="in-the-room" />
		{/each}
		{#each drawn.obstacles as path, i (i)}
			<path d={path} fill="var(--well-5)" stroke="var(--ink)" stroke-width="0.8" />
		{/each}
		<path d={drawn.ray} fill="none" stroke="var(--ink)" stroke-width="2" />
		{#if check.clearance.worst}
			{@const worst = check.clearance.worst}
			<line
				x1={drawn.x(worst.distanceM)}
				x2={drawn.x(worst.distanceM)}
				y1={drawn.y(worst.rayAmslM)}
				y2={drawn.y(worst.surfaceAmslM + worst.bulgeM)}
				stroke={check.holds ? 'var(--ink)' : 'var(--trouble)'}
				stroke-width="2.5"
			/>
			<text
				x={drawn.x(worst.distanceM) + (drawn.x(worst.distanceM) > WIDTH * 0.7 ? -8 : 8)}
				y={Math.min(HEIGHT - 36, Math.max(16, drawn.y(worst.surfaceAmslM + worst.bulgeM) - 8))}
				text-anchor={drawn.x(worst.distanceM) > WIDTH * 0.7 ? 'end' : 'start'}
				font-size="13"
				font-weight="700"
				fill={check.holds ? 'var(--ink)' : 'var(--trouble)'}
				>{check.holds ? '' : '▲ '}{worstRatio} F1{worst.obstacle ? `, ${worst.obstacle}` : ''}</text
			>
		{/if}
		{#each ENDS as end (end)}
			{@const x = end === 'A' ? drawn.x(0) : drawn.x(drawn.lengthM)}
			{@const y = drawn.y(groundAmslM[end] + heightsAglM[end])}
			<path
				d={mast(x, drawn.y(groundAmslM[end]), y)}
				fill="none"
				stroke="var(--end-{end.toLowerCase()})"
				stroke-width="1.8"
			/>
			<g
				role="slider"
				tabindex="0"
				aria-label="Antenna height at {end}, {siteNames[end]}"
				aria-valuenow={heightsAglM[end]}
				aria-valuemin="0.5"
				aria-valuemax="400"
				aria-valuetext={measure(heightsAglM[end], 'm', 1)}
				class="cursor-ns-resize"
				onpointerdown={(event) => take(event, { kind: 'antenna', end })}
				onkeydown={(event) => antennaKey(event, end)}
			>
				<circle cx={x} cy={y} r="20" fill="transparent" />
				<circle
					cx={x}
					cy={y}
					r="8"
					fill="var(--card)"
					stroke="var(--end-{end.toLowerCase()})"
					stroke-width="4"
				/>
			</g>
			<text
				x={end === 'A' ? x + 16 : x - 16}
				y={Math.max(14, y - 12)}
				text-anchor={end === 'A' ? 'start' : 'end'}
				font-size="13"
				font-weight="700"
				fill="var(--end-{end.toLowerCase()})">{end} {measure(heightsAglM[end], 'm', 1)}</text
			>
		{/each}
		{#each obstacles as obstacle, index (index)}
			{@const x = drawn.x(obstacle.distanceKm * 1000)}
			{@const y = drawn.y(drawn.topOf(obstacle.distanceKm * 1000, obstacle.heightM))}
			<g
				role="slider"
				tabindex="0"
				aria-label="Height of {obstacle.name || `obstacle ${index + 1}`}"
				aria-valuenow={obstacle.heightM}
				aria-valuemin="0"
				aria-valuemax="500"
				aria-valuetext="{measure(obstacle.heightM, 'm', 1)} high, {measure(
					obstacle.distanceKm,
					'km',
					2
				)} from A"
				class="cursor-move"
				onpointerdown={(event) => take(event, { kind: 'obstacle', index })}
				onkeydown={(event) => obstacleKey(event, index)}
			>
				<circle cx={x} cy={y} r="18" fill="transparent" />
				<rect
					x={x - 6}
					y={y - 6}
					width="12"
					height="12"
					fill="var(--card)"
					stroke="var(--ink)"
					stroke-width="2.5"
				/>
			</g>
		{/each}
	</svg>
	<figcaption class="text-quiet text-sm">
		Drag an antenna or an obstacle; double-click to add an obstacle. Under the ray hangs the room
		that the rule wants, {fixed(check.wantedRatio, 1)} F1; the paler belly is the whole first zone. The
		ground is drawn with the bulge of the earth at k = {fixed(check.kFactor, 2)}.
	</figcaption>
</figure>
