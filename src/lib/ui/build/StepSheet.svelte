<script lang="ts">
	import { supplyVoltageV } from '#core/budget/planInput';
	import { CABLE_LEVER_M, type StepSheet } from '#core/tower/buildSteps';
	import { dcSupply } from '#core/firstlook/dcSupply';
	import { JOINTS_A_CABLE } from '#core/tower/partsList';
	import {
		bendPlan,
		clampPlan,
		glandFor,
		judgeLift,
		matchPower,
		serviceSlackM,
		tapeNeed,
		wrapOrder,
		type PowerSource
	} from '#core/tower/towerArithmetic';
	import { CONFIGURATION_RULES } from '#core/budget/configuration';
	import type { End } from '#core/ends';
	import { typedNumber } from '../align/numberInput';
	import Notice from '../form/Notice.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import { fixed } from '../format';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import StripDrawing from './StripDrawing.svelte';

	interface Props {
		end: End;
		live: LiveHop;
		sheet: StepSheet;
	}

	let { end, live, sheet }: Props = $props();
	const input = $derived(live.revision.input);
	const own = $derived(input.ends[end]);
	const cable = $derived(own.cable?.installation);
	const radios = $derived(CONFIGURATION_RULES[input.configuration.kind].radios);
	const hoist = $derived(live.revision.plan.firstLook[end].hoist);

	let gear = $state({ rope: '', pulley: '', sling: '', factor: '10' });
	const inRange = (text: string, low: number, high: number): number | undefined => {
		const number = typedNumber(text);
		return number !== undefined && number >= low && number <= high ? number : undefined;
	};
	const lift = $derived.by(() => {
		const rope = inRange(gear.rope, 1, 100_000);
		const pulley = inRange(gear.pulley, 1, 100_000);
		const sling = inRange(gear.sling, 1, 100_000);
		const factor = inRange(gear.factor, 1, 20);
		if (!rope || !pulley || !sling || !factor) return undefined;
		return judgeLift(hoist.heaviestKg, {
			ropeBreakingKg: rope,
			pulleyRatedKg: pulley,
			slingRatedKg: sling,
			ropeFactor: factor
		});
	});

	let volts = $state('');
	const supplied = $derived(inRange(volts, 1, 100) ?? supplyVoltageV(own) ?? undefined);
	const dc = $derived(
		supplied !== undefined && own.cable
			? dcSupply(supplied, own.radio.consumptionW, own.cable, own.cableLengthM)
			: undefined
	);

	let source: { kind: string; volts: string; watts: string } = $state({
		kind: 'dc',
		volts: '48',
		watts: '90'
	});
	const match = $derived.by(() => {
		const voltageV = inRange(source.volts, 1, 100);
		const powerW = inRange(source.watts, 1, 2000);
		const power = own.radio.installation?.power;
		if (voltageV === undefined || powerW === undefined || !power) return undefined;
		return matchPower(
			{ kind: source.kind as PowerSource['kind'], voltageV, powerW },
			{ ...own.radio, power },
			own.cableLengthM
		);
	});
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
		<div class="grid grid-cols-2 gap-3">
			<TextField label="Rope breaks at" name="rope" unit="kg" numeric bind:value={gear.rope} />
			<TextField label="Factor asked here" name="factor" numeric bind:value={gear.factor} />
			<TextField label="Pulley rated" name="pulley" unit="kg" numeric bind:value={gear.pulley} />
			<TextField label="Sling rated" name="sling" unit="kg" numeric bind:value={gear.sling} />
		</div>
		{#if lift}
			<Notice kind={lift.holds ? 'quiet' : 'trouble'}
				><strong>{lift.holds ? 'It holds.' : 'It does not hold.'}</strong> {lift.reason}</Notice
			>
		{:else}<p class="text-quiet text-sm">From the plates of what is here.</p>{/if}
	{:else if sheet === 'clamps' && cable}
		{@const plan = clampPlan(own.cableLengthM, cable.firstClampM, cable.clampEveryM)}
		<h2>Clamps of one cable of {fixed(own.cableLengthM, 0)} m</h2>
		<p>
			<strong class="num">{plan.count}</strong> clamps; from the top at
			<span class="num"
				>{plan.positionsM
					.slice(0, 5)
					.map((m) => m.toFixed(2))
					.join(', ')}</span
			>
			m
			{plan.positionsM.length > 5 ? '… evenly' : ''}. For {radios === 1
				? 'one cable'
				: `${radios} cables`}:
			<strong class="num">{plan.count * radios}</strong>.
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
			<strong class="num">{fixed(slack.totalM, 2)} m</strong> hang free:
			<span class="num">{fixed(slack.swingM, 2)} m</span> for the swing of both adjusters and
			<span class="num">{fixed(slack.dripLoopM, 2)} m</span> for a drip loop of
			<span class="num">{cable.minBendRadiusMm} mm</span> radius.
		</p>
	{:else if sheet === 'strips' && cable}
		<h2>Strip lengths, {cable.connector.name}</h2>
		<StripDrawing connector={cable.connector} />
	{:else if sheet === 'tape' && cable}
		{@const need = tapeNeed(cable.weatherproofing, cable.connector, JOINTS_A_CABLE * radios)}
		<h2>Weatherproofing of {JOINTS_A_CABLE * radios} joints</h2>
		{#if need.length === 0}
			<p>Shells or sleeves that screw on; no tape.</p>
		{:else}
			<p>{wrapOrder(cable.weatherproofing).join(', then ')}; each half over itself.</p>
			<ul>
				{#each need as tape (tape.tape)}
					<li>
						<strong class="num">{tape.rolls}</strong>
						{tape.rolls === 1 ? 'roll' : 'rolls'} of {tape.tape},
						<span class="num">{fixed(tape.lengthM, 1)} m</span>
					</li>
				{/each}
			</ul>
		{/if}
	{:else if sheet === 'gland'}
		{@const gland = cable && own.cable ? glandFor(own.cable.outerMm, cable.glands) : null}
		<h2>Gland and power source</h2>
		{#if own.cable}
			<p>
				Cable of <span class="num">{fixed(own.cable.outerMm, 1)} mm</span>:
				<strong>{gland ? gland.name : 'no insert of its sheet fits'}</strong>.
			</p>
		{/if}
		<div class="grid grid-cols-3 gap-3">
			<SelectField
				label="Source"
				name="source-kind"
				bind:value={source.kind}
				options={[
					{ value: 'dc', label: 'DC supply' },
					{ value: 'poe-standard', label: 'Standard Ethernet port' },
					{ value: 'poe-passive', label: 'Passive injector' }
				]}
			/>
			<TextField label="Voltage" name="source-volts" unit="V" numeric bind:value={source.volts} />
			<TextField label="Power" name="source-watts" unit="W" numeric bind:value={source.watts} />
		</div>
		{#if match}
			<Notice kind={match.verdict === 'match' ? 'quiet' : 'trouble'}>{match.reason}</Notice>
		{/if}
	{:else if sheet === 'supply'}
		<h2>Voltage to expect at the unit</h2>
		<TextField
			label="Measured at the foot"
			name="foot-volts"
			unit="V"
			numeric
			hint={supplyVoltageV(own) === null ? undefined : `Plan: ${supplyVoltageV(own)} V.`}
			bind:value={volts}
		/>
		{#if dc?.kind === 'fed'}
			<p>
				<strong class="num">{fixed(dc.voltageAtUnitV, 1)} V</strong> at
				<span class="num">{own.radio.consumptionW} W</span>,
				<span class="num">{fixed(dc.currentA, 2)} A</span>; the cable takes
				<span class="num">{fixed(dc.dropV, 1)} V</span>. At least
				<span class="num">{own.radio.supplyMinV} V</span> are needed.
			</p>
		{:else if dc}
			<Notice kind="trouble"
				>The supply collapses: this cable carries {fixed(dc.mostPowerW, 0)} W at most.</Notice
			>
		{/if}
	{:else if sheet === 'hangers' && own.feeder.installation}
		{@const plan = clampPlan(
			own.feederLengthM,
			own.feeder.installation.firstHangerM,
			own.feeder.installation.hangerEveryM
		)}
		{@const grips = Math.max(1, Math.ceil(own.feederLengthM / own.feeder.installation.gripEveryM))}
		<h2>Hangers and grips of {fixed(own.feederLengthM, 1)} m</h2>
		<p>
			<strong class="num">{plan.count}</strong> hangers, the first
			<span class="num">{fixed(own.feeder.installation.firstHangerM, 2)} m</span> from the end;
			<strong class="num">{grips}</strong>
			{grips === 1 ? 'grip' : 'grips'}.
		</p>
	{:else if sheet === 'bends' && own.feeder.waveguide}
		<h2>A bend of this guide</h2>
		<TextField label="Angle" name="bend-angle" unit="°" numeric bind:value={angle} />
		{#if bendAngle !== undefined}
			{@const e = bendPlan(bendAngle, own.feeder.waveguide.minBendEPlaneMm)}
			{@const h = bendPlan(bendAngle, own.feeder.waveguide.minBendHPlaneMm)}
			<p>
				In <strong class="num">{e.steps}</strong> small steps. At its radius the bend takes
				<span class="num">{fixed(e.lengthM, 2)} m</span> in the E plane,
				<span class="num">{fixed(h.lengthM, 2)} m</span> in the H plane.
			</p>
		{/if}
	{/if}
</section>
