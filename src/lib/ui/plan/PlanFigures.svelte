<script lang="ts">
	import type { HopPlan } from '#core/budget/hopPlan';
	import { ENDS, farEnd, type End } from '#core/ends';
	import { bearing, dbm, degrees, fixed, volts } from '../format';
	import { measure } from '../units.svelte';

	interface Props {
		plan: HopPlan;
		operatingModulation: string;
	}

	let { plan, operatingModulation }: Props = $props();

	function roomBelowOverload(end: End): string {
		const { overload } = plan.received[end];
		return overload.kind === 'fine'
			? `${fixed(overload.headroomDb, 1)} dB`
			: `none, ${fixed(overload.excessDb, 1)} dB too much`;
	}

	function fadeMargin(end: End): string {
		const margin = plan.received[end].margins.find((m) => m.modulation === operatingModulation);
		return margin ? `${fixed(margin.marginDb, 1)} dB` : '—';
	}
</script>

{#snippet row(label: string, a: string, b: string, strong: boolean = false)}
	<tr class="border-line border-b">
		<th class="py-1.5 pr-3 text-left {strong ? 'font-bold' : 'font-normal'}" scope="row">{label}</th
		>
		<td class="num py-1.5 text-right {strong ? 'text-lg font-bold' : ''}">{a}</td>
		<td class="num py-1.5 pl-4 text-right {strong ? 'text-lg font-bold' : ''}">{b}</td>
	</tr>
{/snippet}

<table class="w-full">
	<caption class="sr-only">The plan at each end</caption>
	<thead>
		<tr class="border-ink border-b-2">
			<td class="pb-1">
				<span class="num text-lg">{measure(plan.pathKm, 'km', 3)}</span>
			</td>
			{#each ENDS as end (end)}
				<th scope="col" class="end-{end} text-end-own pb-1 text-right text-lg font-bold">{end}</th>
			{/each}
		</tr>
	</thead>
	<tbody>
		{@render row(
			'Bearing, true',
			bearing(plan.pointing.A.azimuthTrueDeg),
			bearing(plan.pointing.B.azimuthTrueDeg)
		)}
		{@render row(
			'Bearing by compass',
			bearing(plan.pointing.A.azimuthCompassDeg, 1),
			bearing(plan.pointing.B.azimuthCompassDeg, 1)
		)}
		{@render row(
			'Declination',
			degrees(plan.pointing.A.declinationDeg, 1, true),
			degrees(plan.pointing.B.declinationDeg, 1, true)
		)}
		{@render row(
			'Tilt',
			degrees(plan.pointing.A.tiltDeg, 2, true),
			degrees(plan.pointing.B.tiltDeg, 2, true)
		)}
		{@render row(
			'Beam, half power',
			degrees(plan.dish.A.beamwidthDeg),
			degrees(plan.dish.B.beamwidthDeg)
		)}
		{@render row(
			'Receives on',
			`${fixed(plan.received.A.frequencyGhz, 3)} GHz`,
			`${fixed(plan.received.B.frequencyGhz, 3)} GHz`
		)}
		{@render row(
			'Free-space loss',
			`${fixed(plan.received.A.freeSpaceLossDb, 2)} dB`,
			`${fixed(plan.received.B.freeSpaceLossDb, 2)} dB`
		)}
		{@render row(
			'Gases',
			`${fixed(plan.received.A.gasLossDb, 2)} dB`,
			`${fixed(plan.received.B.gasLossDb, 2)} dB`
		)}
		{@render row(
			'Feeders, both ends',
			`${fixed(plan.received.A.transmitFeederLossDb + plan.received.A.receiveFeederLossDb, 2)} dB`,
			`${fixed(plan.received.B.transmitFeederLossDb + plan.received.B.receiveFeederLossDb, 2)} dB`
		)}
		{@render row(
			'Branching, both ends',
			`${fixed(plan.received.A.transmitBranchLossDb + plan.received.A.receiveBranchLossDb, 2)} dB`,
			`${fixed(plan.received.B.transmitBranchLossDb + plan.received.B.receiveBranchLossDb, 2)} dB`
		)}
		{@render row(
			'Obstruction',
			plan.clearance ? `${fixed(plan.received.A.obstructionLossDb, 1)} dB` : 'no profile',
			plan.clearance ? `${fixed(plan.received.B.obstructionLossDb, 1)} dB` : 'no profile'
		)}
		{@render row(
			'Antenna gains, both',
			`${fixed(plan.received.A.transmitGainDbi + plan.received.A.receiveGainDbi, 1)} dBi`,
			`${fixed(plan.received.B.transmitGainDbi + plan.received.B.receiveGainDbi, 1)} dBi`
		)}
		{@render row(
			'Planned RSL, aligning',
			dbm(plan.received.A.plannedLevelDbm),
			dbm(plan.received.B.plannedLevelDbm),
			true
		)}
		{@render row(
			'The same at the port',
			volts(plan.received.A.plannedVolts),
			volts(plan.received.B.plannedVolts),
			true
		)}
		{@render row(
			'Window at the port',
			`${fixed(plan.received.A.lowestAcceptedVolts, 3)} to ${fixed(plan.received.A.highestAcceptedVolts, 3)} V`,
			`${fixed(plan.received.B.lowestAcceptedVolts, 3)} to ${fixed(plan.received.B.highestAcceptedVolts, 3)} V`
		)}
		{@render row(
			'Better is',
			plan.received.A.betterDirection === 'rising' ? 'MORE volts' : 'FEWER volts',
			plan.received.B.betterDirection === 'rising' ? 'MORE volts' : 'FEWER volts'
		)}
		{@render row(
			'Tolerance',
			`± ${fixed(plan.received.A.toleranceDb, 1)} dB`,
			`± ${fixed(plan.received.B.toleranceDb, 1)} dB`
		)}
		{@render row('Room below overload', roomBelowOverload('A'), roomBelowOverload('B'))}
		{@render row('Receiver floor', dbm(plan.received.A.floorDbm), dbm(plan.received.B.floorDbm))}
		{@render row(
			'Level in operation',
			dbm(plan.received.A.operatingLevelDbm),
			dbm(plan.received.B.operatingLevelDbm)
		)}
		{@render row(`Fade margin, ${operatingModulation}`, fadeMargin('A'), fadeMargin('B'))}
		{@render row(
			'Read on the first side lobe here',
			dbm(plan.received.A.sideLobeHereDbm),
			dbm(plan.received.B.sideLobeHereDbm)
		)}
		{@render row(
			'With both ends on side lobes',
			dbm(plan.received.A.sideLobeBothDbm),
			dbm(plan.received.B.sideLobeBothDbm)
		)}
		{@render row(
			'With crossed polarization',
			dbm(plan.received.A.crossedDbm),
			dbm(plan.received.B.crossedDbm)
		)}
		{@render row(
			'First side lobe here',
			`about ${fixed(plan.dish.A.firstSideLobeDb, 0)} dB down`,
			`about ${fixed(plan.dish.B.firstSideLobeDb, 0)} dB down`
		)}
	</tbody>
</table>
<p class="text-quiet mt-2 text-sm">
	Each column is what that end receives from the other ({ENDS.map(
		(end) => `${end} from ${farEnd(end)}`
	).join(', ')}), dry air, the far end on fixed power. Declination by the {plan.pointing.A
		.magneticModel}; read a compass away from steel.
</p>
