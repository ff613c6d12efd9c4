<script lang="ts">
	import type { Adjuster } from '#core/catalogue/parts';
	import type { End } from '#core/ends';
	import type { EndReadings } from '#core/guide/endReadings';
	import type { Location } from '#core/locate/locator';
	import { adjusterTurns } from '#core/sweep/adjusterScale';
	import { fixed } from '../format';

	interface Props {
		end: End;
		own: EndReadings;
		location: Location | undefined;
		beamwidthDeg: number;
		floorDbm: number;
		mount: { azimuth: Adjuster; tilt: Adjuster };
		/** Where the next step goes, if it is a move. */
		target: { azimuthDeg: number; tiltDeg: number } | undefined;
		inTurns: boolean;
	}

	let { end, own, location, beamwidthDeg, floorDbm, mount, target, inTurns }: Props = $props();
	let canvas: HTMLCanvasElement | undefined = $state();

	const SIZE = 340;
	const EDGE = 44;
	/** Once found, the view closes in on dish and place; before, it holds all that was read. */
	const view = $derived.by(() => {
		const beam = beamwidthDeg;
		const found =
			location?.boresight && location.probability > 0.7 ? location.boresight : undefined;
		const middle = location?.boresight ?? own;
		const places = [own, middle, target ?? middle, ...(found ? [] : own.readings)];
		const xs = places.map((place) => place.azimuthDeg);
		const ys = places.map((place) => place.tiltDeg);
		const [west, east] = [Math.min(...xs), Math.max(...xs)];
		const [low, high] = [Math.min(...ys), Math.max(...ys)];
		const margin = (found ? 1.6 : 0.6) * beam;
		const half = Math.max(2 * beam, (east - west) / 2 + margin, (high - low) / 2 + margin);
		return { x: (west + east) / 2, y: (low + high) / 2, half };
	});
	const inView = (place: { azimuthDeg: number; tiltDeg: number }): boolean =>
		Math.abs(place.azimuthDeg - view.x) <= view.half &&
		Math.abs(place.tiltDeg - view.y) <= view.half;
	const px = (deg: number): number =>
		EDGE + ((deg - view.x + view.half) / (2 * view.half)) * (SIZE - EDGE - 6);
	const py = (deg: number): number =>
		6 + ((view.y + view.half - deg) / (2 * view.half)) * (SIZE - EDGE - 6);
	const ticks = $derived([-0.9, -0.45, 0, 0.45, 0.9].map((share) => share * view.half));
	const label = (axis: 'azimuth' | 'tilt', deg: number): string =>
		inTurns
			? fixed(adjusterTurns(mount[axis], Math.max(-80, Math.min(80, deg))), 1, true)
			: fixed(deg, 1, true);
	const best = $derived(own.readings.reduce((top, r) => Math.max(top, r.levelDbm), -Infinity));
	const shown = $derived(own.readings.filter(inView).slice(-400));
	const highest = $derived(shown.find((r) => r.levelDbm === best));

	$effect(() => {
		if (!canvas || !location) return;
		const { map } = location;
		const context = canvas.getContext('2d');
		if (!context) return;
		const ink = getComputedStyle(canvas).getPropertyValue('--ink').trim();
		context.clearRect(0, 0, SIZE, SIZE);
		// Dots and ellipses that reach over the frame end at it.
		context.save();
		context.beginPath();
		context.rect(EDGE, 6, SIZE - EDGE - 6, SIZE - EDGE - 6);
		context.clip();
		let top = 0;
		for (const mass of map.mass) top = Math.max(top, mass);
		const cell = (map.stepDeg / (2 * view.half)) * (SIZE - EDGE - 6);
		context.fillStyle = ink;
		for (let i = 0; i < map.mass.length; i++) {
			const share = map.mass[i]! / top;
			if (share < 0.01) continue;
			// About the likeliest place the cells are too coarse: it is drawn as its own uncertainty.
			if (
				near(
					map.westDeg + (i % map.columns) * map.stepDeg,
					map.bottomDeg + Math.floor(i / map.columns) * map.stepDeg
				)
			)
				continue;
			// Stippled: the likelier, the larger the dot. The root lifts what is not excluded into sight.
			context.globalAlpha = 0.75;
			context.beginPath();
			context.arc(
				px(map.westDeg + (i % map.columns) * map.stepDeg),
				py(map.bottomDeg + Math.floor(i / map.columns) * map.stepDeg),
				Math.max(0.5, 0.48 * cell * Math.sqrt(share)),
				0,
				2 * Math.PI
			);
			context.fill();
		}
		const boresight = location.boresight;
		if (boresight) {
			const perDeg = (SIZE - EDGE - 6) / (2 * view.half);
			context.strokeStyle = ink;
			for (const sigmas of [2.5, 1.7, 1]) {
				context.lineWidth = 1.6 / sigmas;
				context.beginPath();
				context.ellipse(
					px(boresight.azimuthDeg),
					py(boresight.tiltDeg),
					Math.max(2, sigmas * boresight.told.azimuthDeg * perDeg),
					Math.max(2, sigmas * boresight.told.tiltDeg * perDeg),
					0,
					0,
					2 * Math.PI
				);
				context.globalAlpha = 0.14 * location.probability;
				context.fill();
				context.globalAlpha = location.probability;
				context.stroke();
			}
		}
		context.restore();
	});
	const percent = $derived(
		location?.boresight ? Math.round(100 * location.probability) : undefined
	);
	const near = (azimuthDeg: number, tiltDeg: number): boolean =>
		location?.boresight != null &&
		Math.hypot(azimuthDeg - location.boresight.azimuthDeg, tiltDeg - location.boresight.tiltDeg) <
			0.9 * beamwidthDeg;
	const beamPx = $derived((beamwidthDeg / (2 * view.half)) * (SIZE - EDGE - 6));
</script>

<figure class="m-0 max-w-md" aria-label="Sky map of {end}">
	<figcaption class="flex flex-wrap justify-between gap-x-4">
		<span class="font-bold">Where the far end may be</span>
		<span class="text-quiet num text-sm" data-testid="sky-sure"
			>{percent === undefined
				? 'nothing heard yet'
				: `${Math.min(99, percent)} % in one beam`}</span
		>
	</figcaption>
	<div class="relative mt-1" style:aspect-ratio="1">
		<canvas
			bind:this={canvas}
			width={SIZE}
			height={SIZE}
			class="absolute inset-0 h-full w-full"
			aria-hidden="true"
		></canvas>
		<svg
			viewBox="0 0 {SIZE} {SIZE}"
			class="absolute inset-0 h-full w-full"
			role="img"
			aria-label={location?.boresight
				? `Most probable at azimuth ${label('azimuth', location.boresight.azimuthDeg)}, tilt ${label('tilt', location.boresight.tiltDeg)} ${inTurns ? 'turns' : 'degrees'}; ${own.readings.length} readings`
				: `${own.readings.length} readings, nothing heard yet`}
		>
			<rect
				x={EDGE}
				y="6"
				width={SIZE - EDGE - 6}
				height={SIZE - EDGE - 6}
				fill="none"
				stroke="var(--ink)"
				stroke-width="1.5"
			/>
			{#each ticks as tick (tick)}
				{#each [6, SIZE - EDGE] as edge (edge)}
					<line
						x1={px(view.x + tick)}
						x2={px(view.x + tick)}
						y1={edge}
						y2={edge + (edge === 6 ? 7 : -7)}
						stroke="var(--ink)"
					/>
				{/each}
				{#each [EDGE, SIZE - 6] as edge (edge)}
					<line
						x1={edge}
						x2={edge + (edge === EDGE ? 7 : -7)}
						y1={py(view.y + tick)}
						y2={py(view.y + tick)}
						stroke="var(--ink)"
					/>
				{/each}
				<text
					x={px(view.x + tick)}
					y={SIZE - 17}
					text-anchor="middle"
					font-size="11"
					class="num"
					fill="var(--quiet)">{label('azimuth', view.x + tick)}</text
				>
				<text
					x={EDGE - 4}
					y={py(view.y + tick) + 4}
					text-anchor="end"
					font-size="11"
					class="num"
					fill="var(--quiet)">{label('tilt', view.y + tick)}</text
				>
			{/each}
			<text
				x={(EDGE + SIZE) / 2}
				y={SIZE - 3}
				text-anchor="middle"
				font-size="11"
				fill="var(--quiet)">azimuth, {inTurns ? 'turns' : '°'} · tilt upward</text
			>
			<!-- Where this dish points now, on both axes. -->
			<g stroke="var(--end-{end.toLowerCase()})" stroke-width="0.9" stroke-opacity="0.7">
				<line x1={px(own.azimuthDeg)} x2={px(own.azimuthDeg)} y1="6" y2={SIZE - EDGE} />
				<line x1={EDGE} x2={SIZE - 6} y1={py(own.tiltDeg)} y2={py(own.tiltDeg)} />
			</g>
			{#each shown as reading, i (i)}
				<circle
					cx={px(reading.azimuthDeg)}
					cy={py(reading.tiltDeg)}
					r={1.6 +
						4.4 *
							Math.max(
								0,
								Math.min(1, (reading.levelDbm - floorDbm) / Math.max(10, best - floorDbm))
							)}
					fill="var(--end-{end.toLowerCase()})"
					fill-opacity="0.45"
				/>
			{/each}
			{#if location?.boresight}
				<circle
					cx={px(location.boresight.azimuthDeg)}
					cy={py(location.boresight.tiltDeg)}
					r={beamPx / 2}
					fill="none"
					stroke="var(--ink)"
					stroke-dasharray="4 3"
				/>
			{/if}
			{#if target}
				<line
					x1={px(own.azimuthDeg)}
					y1={py(own.tiltDeg)}
					x2={px(target.azimuthDeg)}
					y2={py(target.tiltDeg)}
					stroke="var(--end-{end.toLowerCase()})"
					stroke-width="4"
				/>
				<circle
					cx={px(target.azimuthDeg)}
					cy={py(target.tiltDeg)}
					r="6"
					fill="var(--end-{end.toLowerCase()})"
				/>
			{/if}
			<circle
				cx={px(own.azimuthDeg)}
				cy={py(own.tiltDeg)}
				r="7"
				fill="var(--card)"
				stroke="var(--end-{end.toLowerCase()})"
				stroke-width="3.5"
			/>
			{#if highest && Number.isFinite(best)}
				<text
					x={px(highest.azimuthDeg)}
					y={py(highest.tiltDeg) - 13}
					text-anchor="middle"
					font-size="12"
					font-weight="700"
					paint-order="stroke"
					stroke="var(--card)"
					stroke-width="4"
					class="num"
					fill="var(--end-{end.toLowerCase()})">{fixed(best, 1)}</text
				>
			{/if}
		</svg>
	</div>
	<p class="text-quiet text-sm">
		Ring and cross: this dish, now. Coloured dots: what was read since the far end last moved,
		larger is stronger. Stippled, then contoured: where the far end may be; dashed: one beam about
		the likeliest place.
	</p>
</figure>
