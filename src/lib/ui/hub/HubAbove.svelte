<script lang="ts">
	import type { GeoPoint } from '#core/geodesy/geodesic';
	import { wrapBearingDeg } from '#core/units/angle';
	import type { HubPlan, TerminalPlan } from '#core/hub/hubFigures';
	import { bearing } from '../format';
	import { measure } from '../units.svelte';
	import { FromAbove } from './fromAbove';
	import { standingOf, strokeOf } from './hubWords';

	interface Props {
		plan: HubPlan;
		hub: GeoPoint;
		/** Heading of each unit as it is typed, while the plan still follows. */
		headings: readonly (number | undefined)[];
		chosen: string | undefined;
		/** Whether units may be turned and terminals placed. */
		mayEdit: boolean;
		/** The next press places a terminal. */
		placing: boolean;
		/** How the links stand that are being brought up; absent while it is planned. */
		links?: ReadonlyMap<string, 'linked' | 'trouble'>;
		onchoose: (id: string) => void;
		onturn: (unit: number, headingDeg: number) => void;
		onplace: (place: GeoPoint) => void;
	}

	let { plan, hub, headings, chosen, mayEdit, placing, links, onchoose, onturn, onplace }: Props =
		$props();
	type Mark = 'on' | 'off' | 'open';
	/** By the plan a terminal is served or not; while it is brought up it is linked, in trouble, or neither yet. */
	function markOf(id: string, unit: number): Mark {
		if (!links) return unit >= 0 ? 'on' : 'off';
		const link = links.get(id);
		return link === 'linked' ? 'on' : link === 'trouble' ? 'off' : 'open';
	}
	const wordsOf = (id: string, terminal: TerminalPlan, mark: Mark): string =>
		links
			? { on: 'linked', off: 'in trouble', open: 'not linked yet' }[mark]
			: standingOf(terminal);

	let boxWidth = $state(560);
	let svg: SVGSVGElement | undefined = $state();
	let turning: number | undefined = $state();
	const size = $derived(Math.max(280, Math.min(boxWidth, 600)));
	const view = $derived(
		new FromAbove(
			size,
			plan.terminals.map(({ path }) => path.pathKm * 1000)
		)
	);
	const units = $derived(
		plan.units.map(({ unit }, i) => {
			const heading = headings[i] ?? unit.headingDeg;
			// Two units that look the same way keep handles that can be told apart.
			const under = plan.units
				.slice(0, i)
				.filter((_, j) => Math.abs(((headings[j]! - heading + 540) % 360) - 180) < 8).length;
			return {
				unit,
				heading,
				fixed: unit.how === 'wall',
				wedge: view.wedge(heading, unit.part.scan.azimuthDeg),
				handle: view.at(heading, view.rim + 14 - 32 * under),
				line: view.at(heading, view.rim)
			};
		})
	);
	const terminals = $derived(
		plan.terminals.map((terminal, i) => {
			const { path, served } = terminal;
			const unit = served ? plan.units.findIndex(({ unit: { id } }) => id === served.unit.id) : -1;
			return {
				...{ i, unit, terminal },
				id: terminal.terminal.id,
				mark: markOf(terminal.terminal.id, unit),
				name: terminal.terminal.name,
				at: view.place(path.bearingDeg, path.pathKm * 1000),
				label: view.at(path.bearingDeg, view.radius(path.pathKm * 1000) + 16)
			};
		})
	);

	function pressed(event: PointerEvent): { x: number; y: number } {
		const box = svg!.getBoundingClientRect();
		return {
			x: ((event.clientX - box.left) / box.width) * size,
			y: ((event.clientY - box.top) / box.height) * size
		};
	}
	function take(event: PointerEvent, unit: number): void {
		if (!mayEdit) return;
		event.preventDefault();
		svg?.setPointerCapture(event.pointerId);
		turning = unit;
	}
	function move(event: PointerEvent): void {
		if (turning === undefined) return;
		const { x, y } = pressed(event);
		onturn(turning, Math.round(view.bearingOf(x, y) * 2) / 2);
	}
	function press(event: MouseEvent): void {
		if (!placing) return;
		const { x, y } = pressed(event as PointerEvent);
		onplace(view.placeOf(hub, x, y));
	}
	const STEPS: Record<string, number> = {
		ArrowRight: 1,
		ArrowUp: 1,
		ArrowLeft: -1,
		ArrowDown: -1,
		PageUp: 10,
		PageDown: -10
	};
	function turnByKey(event: KeyboardEvent, unit: number): void {
		const step = STEPS[event.key];
		if (step === undefined || !mayEdit) return;
		event.preventDefault();
		const by = event.shiftKey ? step / 10 : step;
		onturn(unit, Math.round(wrapBearingDeg(units[unit]!.heading + by) * 10) / 10);
	}
</script>

<div bind:clientWidth={boxWidth} class="min-w-0">
	<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
	<svg
		bind:this={svg}
		viewBox="0 0 {size} {size}"
		width={size}
		height={size}
		class="mx-auto block max-w-full touch-pan-y select-none {placing ? 'cursor-crosshair' : ''}"
		role="group"
		aria-label="The hub from above, north up"
		data-testid="hub-above"
		onpointermove={move}
		onpointerup={() => (turning = undefined)}
		onpointercancel={() => (turning = undefined)}
		onclick={press}
	>
		<circle cx={view.middle} cy={view.middle} r={view.rim} fill="var(--land)" />
		{#each units as { unit, wedge }, i (unit.id)}
			<path
				d={wedge}
				fill="var(--paper)"
				fill-opacity="0.62"
				stroke="var(--ink)"
				stroke-width={chosen === unit.id ? 2.6 : 1.4}
				stroke-dasharray={strokeOf(i)}
			/>
		{/each}
		{#each view.rings() as { distanceM, radius } (distanceM)}
			<circle
				cx={view.middle}
				cy={view.middle}
				r={radius}
				fill="none"
				stroke="var(--quiet)"
				stroke-width="0.6"
				stroke-dasharray="1 3"
			/>
			<text x={view.middle + 4} y={view.middle + radius - 4} class="text-[11px]" fill="var(--quiet)"
				>{measure(distanceM, 'm', 0)}</text
			>
		{/each}
		<text
			x={view.middle}
			y="14"
			text-anchor="middle"
			class="text-[13px] font-bold"
			fill="var(--ink)">N</text
		>
		{#each terminals as { id, at, unit, mark } (id)}
			{#if unit >= 0 && mark !== 'off'}
				<line
					x1={view.middle}
					y1={view.middle}
					x2={at.x}
					y2={at.y}
					stroke="var(--ink)"
					stroke-width={chosen === id ? 2.4 : links && mark === 'on' ? 2 : 1}
					opacity={mark === 'open' ? 0.3 : 1}
					stroke-dasharray={strokeOf(unit)}
				/>
			{/if}
		{/each}
		{#each terminals as { id, i, name, at, label, terminal, mark } (id)}
			<g
				class="cursor-pointer"
				role="button"
				tabindex="0"
				aria-label="{name}: {wordsOf(id, terminal, mark)}"
				aria-pressed={chosen === id}
				onclick={(event) => {
					if (placing) return;
					event.stopPropagation();
					onchoose(id);
				}}
				onkeydown={(event) => {
					if (event.key !== 'Enter' && event.key !== ' ') return;
					event.preventDefault();
					onchoose(id);
				}}
			>
				<circle cx={at.x} cy={at.y} r="15" fill="transparent" />
				{#if chosen === id}
					<circle cx={at.x} cy={at.y} r="11" fill="none" stroke="var(--ink)" stroke-width="2" />
				{/if}
				{#if mark === 'on'}
					<!-- A roof: what a terminal stands on. -->
					<path
						d="M{at.x - 6},{at.y + 5}V{at.y - 1}L{at.x},{at.y - 6}L{at.x + 6},{at.y - 1}V{at.y +
							5}Z"
						fill="var(--ink)"
					/>
				{:else}
					<path
						d="M{at.x - 6},{at.y + 5}V{at.y - 1}L{at.x},{at.y - 6}L{at.x + 6},{at.y - 1}V{at.y +
							5}Z"
						fill="var(--paper)"
						stroke="var({mark === 'off' ? '--trouble' : '--ink'})"
						stroke-width={mark === 'off' ? 2.2 : 1.4}
					/>
				{/if}
				<text
					x={label.x}
					y={label.y + 4}
					text-anchor="middle"
					class="num text-[12px] font-semibold"
					fill={mark === 'off' ? 'var(--trouble)' : 'var(--ink)'}>{i + 1}</text
				>
			</g>
		{/each}
		<circle cx={view.middle} cy={view.middle} r="5" fill="var(--ink)" />
		{#each units as { unit, heading, handle, line, fixed: onWall }, i (unit.id)}
			<line
				x1={view.middle}
				y1={view.middle}
				x2={line.x}
				y2={line.y}
				stroke="var(--ink)"
				stroke-width="0.8"
				stroke-dasharray={strokeOf(i)}
				opacity="0.7"
			/>
			<g
				role="slider"
				tabindex="0"
				class={onWall || !mayEdit ? 'cursor-pointer' : 'cursor-grab'}
				style="touch-action: none"
				aria-label="Heading of {unit.name}"
				aria-valuemin="0"
				aria-valuemax="360"
				aria-valuenow={Math.round(heading * 10) / 10}
				aria-valuetext={bearing(heading, 1)}
				aria-disabled={onWall || !mayEdit}
				onpointerdown={(event) => {
					onchoose(unit.id);
					if (!onWall) take(event, i);
				}}
				onclick={(event) => event.stopPropagation()}
				onkeydown={(event) => !onWall && turnByKey(event, i)}
			>
				<circle cx={handle.x} cy={handle.y} r="22" fill="transparent" />
				<rect
					x={handle.x - 13}
					y={handle.y - 13}
					width="26"
					height="26"
					rx={onWall ? 0 : 13}
					fill={chosen === unit.id ? 'var(--ink)' : 'var(--card)'}
					stroke="var(--ink)"
					stroke-width="2"
				/>
				<text
					x={handle.x}
					y={handle.y + 4.5}
					text-anchor="middle"
					class="num text-[13px] font-bold"
					fill={chosen === unit.id ? 'var(--on-ink)' : 'var(--ink)'}>{i + 1}</text
				>
			</g>
		{/each}
	</svg>
	<p class="text-quiet mt-1 text-center text-sm">
		Bearings are true to scale; rings say the distance.
		{#if mayEdit}Turn a unit by its number, or with the arrow keys.{/if}
	</p>
</div>
