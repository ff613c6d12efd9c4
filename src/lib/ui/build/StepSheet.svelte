<script lang="ts">
	import { measure, spoken } from '../units.svelte';
	import { supplyVoltageV } from '#core/budget/planInput';
	import { inventoryOf } from '#core/budget/inventory';
	import type { BuildStep } from '#core/tower/buildSteps';
	import { cableClamps, cableJoints, feederClamps, runJoints, tapeFor } from '#core/tower/counts';
	import { CABLE_LEVER_M } from '#core/tower/steps/connect';
	import { dcSupply } from '#core/firstlook/dcSupply';
	import type { LiftingGear, PowerSource } from '#core/safety/gear';
	import {
		bendPlan,
		clampPlan,
		glandFor,
		judgeLift,
		matchPower,
		serviceSlackM,
		wrapOrder
	} from '#core/tower/towerArithmetic';
	import type { End } from '#core/ends';
	import { typedNumber } from '../align/numberInput';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import Notice from '../form/Notice.svelte';
	import TextField from '../form/TextField.svelte';
	import { fixed } from '../format';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import { untrack } from 'svelte';
	import SourceFields from './SourceFields.svelte';
	import { sourceOf } from './source';
	import StripDrawing from './StripDrawing.svelte';

	interface Props {
		end: End;
		live: LiveHop;
		step: BuildStep;
		/** What was typed of rope, pulley and sling, once it is whole. */
		gear?: LiftingGear | undefined;
		/** What was typed of the source, once it is whole. */
		source?: PowerSource | undefined;
	}

	let { end, live, step, gear = $bindable(), source = $bindable() }: Props = $props();
	const sheet = $derived(step.sheet);
	const input = $derived(live.revision.input);
	const own = $derived(input.ends[end]);
	const inventory = $derived(inventoryOf(input, end));
	const cable = $derived(own.cable?.installation);
	const radio = $derived(inventory.radios[(step.radio ?? 1) - 1]);
	const cables = $derived(inventory.cables.length);
	const runs = $derived(inventory.runs.length);

	/** What was read off plates here, kept until the step is recorded; the supply as planned until it is read. */
	const draft = untrack(() => {
		const { powerSource } = input.ends[end];
		const supplyV = supplyVoltageV(input.ends[end]);
		return new Draft(live.placeOf(end, `plates-${step.key}`), {
			...{ load: '', rope: '', pulley: '', sling: '', factor: '10', footVolts: '' },
			kind: powerSource?.kind ?? 'dc',
			volts: supplyV === null ? '' : String(supplyV),
			watts: powerSource ? String(powerSource.powerW) : ''
		});
	});
	/** The step is recorded: what was typed here is with it. */
	export function recorded(): void {
		draft.clear();
	}
	const plates = $derived(draft.values);
	/** No sheet says what is lifted here. */
	const unweighed = $derived(step.gate?.kind === 'lift' && step.gate.loadKg === null);
	const inRange = (text: string, low: number, high: number): number | undefined => {
		const number = typedNumber(text);
		return number !== undefined && number >= low && number <= high ? number : undefined;
	};
	const lift = $derived(
		gear && step.gate?.kind === 'lift'
			? judgeLift(step.gate.loadKg ?? gear.loadKg ?? 0, gear)
			: undefined
	);
	function typedGear(): void {
		const rope = inRange(plates.rope, 1, 100_000);
		const pulley = inRange(plates.pulley, 1, 100_000);
		const sling = inRange(plates.sling, 1, 100_000);
		const factor = inRange(plates.factor, 1, 20);
		const load = unweighed ? inRange(plates.load, 0.1, 2000) : undefined;
		gear =
			(load || !unweighed) && rope && pulley && sling && factor
				? {
						ropeBreakingKg: rope,
						pulleyRatedKg: pulley,
						slingRatedKg: sling,
						ropeFactor: factor,
						...(load ? { loadKg: load } : {})
					}
				: undefined;
	}

	const supplied = $derived(
		inRange(draft.values.footVolts, 1, 100) ?? supplyVoltageV(own) ?? undefined
	);
	const dc = $derived(
		supplied !== undefined && radio?.cable
			? dcSupply(supplied, radio.part.consumptionW, radio.cable.part, radio.cable.lengthM)
			: undefined
	);

	function typedSource(): void {
		source = sourceOf(draft.values);
	}
	untrack(() => {
		if (sheet === 'gland') typedSource();
		if (draft.restored && step.gate?.kind === 'lift') typedGear();
	});
	const match = $derived(
		source && step.gate?.kind === 'source'
			? matchPower(source, step.gate.unit, step.gate.cableLengthM)
			: undefined
	);
	const gland = $derived(cable && own.cable ? glandFor(own.cable.outerMm, cable.glands) : null);
	const joints = $derived(
		step.base === 'guide-weather' ? runJoints(input, inventory.runs) : cableJoints(input, inventory)
	);
	let angle = $state('90');
	const bendAngle = $derived(inRange(angle, 0, 180));
</script>

<section
	class="border-line flex flex-col gap-3 border-t pt-3"
	aria-label="Arithmetic of this step"
	data-testid="sheet-{sheet}"
>
	{#if sheet === 'lift'}
		<h2>Load against rope, pulley and sling</h2>
		<KeptTyping {draft} />
		<div class="grid grid-cols-2 gap-3">
			{#each [...(unweighed ? [['load', 'Load weighs', 'kg'] as const] : []), ['rope', 'Rope breaks at', 'kg'], ['factor', 'Factor asked here', ''], ['pulley', 'Pulley rated', 'kg'], ['sling', 'Sling rated', 'kg']] as const as [key, label, unit] (key)}
				<TextField
					{label}
					name={key}
					unit={unit || undefined}
					numeric
					bind:value={
						() => plates[key],
						(text) => {
							plates[key] = text;
							typedGear();
						}
					}
				/>
			{/each}
		</div>
		{#if lift}
			<Notice kind={lift.holds ? 'quiet' : 'trouble'}
				><strong>{lift.holds ? 'It holds.' : 'It does not hold.'}</strong> {lift.reason}</Notice
			>
		{:else}<p class="text-quiet text-sm">From the plates of what is here.</p>{/if}
	{:else if sheet === 'clamps' && cable && own.cable}
		{@const plan = clampPlan(own.cableLengthM, cable.firstClampM, cable.clampEveryM)}
		<h2>Clamps of one cable of {measure(own.cableLengthM, 'm', 0)}</h2>
		<p>
			<strong class="num">{plan.count}</strong> clamps; from the top at
			<span class="num"
				>{plan.positionsM
					.slice(0, 5)
					.map((m) => m.toFixed(2))
					.join(', ')}</span
			>
			m
			{plan.positionsM.length > 5 ? '… evenly' : ''}. For {cables === 1
				? 'one cable'
				: `${cables} cables`}:
			<strong class="num">{cableClamps(own.cable, own.cableLengthM) * cables}</strong>.
		</p>
	{:else if sheet === 'slack' && cable}
		{@const slack = serviceSlackM(
			own.mount.azimuth,
			own.mount.tilt,
			CABLE_LEVER_M,
			cable.minBendRadiusMm
		)}
		<h2>Slack at the unit</h2>
		<p>
			<strong class="num">{measure(slack.totalM, 'm', 2)}</strong> hang free:
			<span class="num">{measure(slack.swingM, 'm', 2)}</span> for the swing of both adjusters and
			<span class="num">{measure(slack.dripLoopM, 'm', 2)}</span> for a drip loop of
			<span class="num">{spoken(`${cable.minBendRadiusMm} mm`)}</span> radius.
		</p>
	{:else if sheet === 'strips' && cable}
		<h2>Strip lengths, {cable.connector.name}</h2>
		<StripDrawing connector={cable.connector} />
	{:else if sheet === 'tape'}
		<h2>Tape for {joints.reduce((sum, { count }) => sum + count, 0)} joints</h2>
		<ul>
			{#each joints as { what, count, how } (what)}
				<li>
					<strong class="num">{count}</strong>
					{count === 1 ? what : `${what}s`}:
					{how === 'sleeve'
						? 'shells that screw on, no tape'
						: `${wrapOrder(how).join(', then ')}, each half over itself`}
				</li>
			{/each}
			{#each tapeFor(joints) as tape (tape.tape)}
				<li>
					<strong class="num">{tape.rolls}</strong>
					{tape.rolls === 1 ? 'roll' : 'rolls'} of {tape.tape},
					<span class="num">{measure(tape.lengthM, 'm', 1)}</span>
				</li>
			{/each}
		</ul>
	{:else if sheet === 'gland'}
		<h2>Gland and power source</h2>
		{#if own.cable}
			<p>
				Cable of <span class="num">{measure(own.cable.outerMm, 'mm', 1)}</span>:
				<strong>{gland ? gland.name : 'no insert of its sheet fits'}</strong>.
			</p>
		{/if}
		<SourceFields bind:typed={draft.values} ontyped={typedSource} match={match ?? undefined} />
	{:else if sheet === 'supply'}
		<h2>Voltage to expect at the unit</h2>
		<TextField
			label="Measured at the foot"
			name="foot-volts"
			unit="V"
			numeric
			hint={supplyVoltageV(own) === null ? undefined : `Plan: ${supplyVoltageV(own)} V.`}
			bind:value={draft.values.footVolts}
		/>
		{#if dc?.kind === 'fed'}
			<p>
				<strong class="num">{fixed(dc.voltageAtUnitV, 1)} V</strong> at
				<span class="num">{radio?.part.consumptionW} W</span>,
				<span class="num">{fixed(dc.currentA, 2)} A</span>; the cable takes
				<span class="num">{fixed(dc.dropV, 1)} V</span>. At least
				<span class="num">{radio?.part.supplyMinV} V</span> are needed.
			</p>
		{:else if dc}
			<Notice kind="trouble"
				>The supply collapses: this cable carries {fixed(dc.mostPowerW, 0)} W at most.</Notice
			>
		{/if}
	{:else if sheet === 'hangers' && own.feeder.installation}
		{@const grips = Math.max(1, Math.ceil(own.feederLengthM / own.feeder.installation.gripEveryM))}
		<h2>Hangers and grips of {measure(own.feederLengthM, 'm', 1)}</h2>
		<p>
			<strong class="num">{runs * feederClamps(own)}</strong> hangers{runs > 1
				? ` for ${runs} runs`
				: ''}, the first
			<span class="num">{measure(own.feeder.installation.firstHangerM, 'm', 2)}</span> from the end;
			<strong class="num">{grips * runs}</strong>
			{grips * runs === 1 ? 'grip' : 'grips'}.
		</p>
	{:else if sheet === 'bends' && own.feeder.waveguide}
		<h2>A bend of this guide</h2>
		<TextField label="Angle" name="bend-angle" unit="°" numeric bind:value={angle} />
		{#if bendAngle !== undefined}
			{@const e = bendPlan(bendAngle, own.feeder.waveguide.minBendEPlaneMm)}
			{@const h = bendPlan(bendAngle, own.feeder.waveguide.minBendHPlaneMm)}
			<p>
				In <strong class="num">{e.steps}</strong> small steps. At its radius the bend takes
				<span class="num">{measure(e.lengthM, 'm', 2)}</span> in the E plane,
				<span class="num">{measure(h.lengthM, 'm', 2)}</span> in the H plane.
			</p>
		{/if}
	{/if}
</section>
