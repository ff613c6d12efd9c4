<script lang="ts">
	import { STANDARD_K_FACTOR } from '#core/geodesy/tilt';
	import { judgeClearance } from '#core/path/clearanceSchool';
	import { noServiceText } from '#core/hub/hubFindings';
	import type { TerminalPlan } from '#core/hub/hubFigures';
	import { amslOf, type HubPlace, type HubUnitInput } from '#core/hub/hubInput';
	import { bearing, dbm, degrees, fixed } from '../format';
	import MountedFigures from './MountedFigures.svelte';
	import ProfileLook from './ProfileLook.svelte';
	import { measure } from '../units.svelte';
	import { rainText, rateText } from './hubWords';

	interface Props {
		plan: TerminalPlan;
		place: HubPlace;
		/** The unit that serves it, or the first one. */
		unit: HubUnitInput | undefined;
		/** Whoever looks types nothing: what it is and where it stands is said too. */
		reading: boolean;
	}

	let { plan, place, unit, reading }: Props = $props();
	const { path, served, terminal } = $derived(plan);
	const check = $derived.by(() => {
		if (!terminal.profile || !unit) return undefined;
		return judgeClearance({
			profile: terminal.profile,
			obstacles: terminal.obstacles,
			antennaAmslM: { A: place.groundAmslM + unit.heightAglM, B: amslOf(terminal) },
			dishM: { A: 0.1, B: 0.1 },
			frequencyGhz: unit.frequencyGhz,
			rules: [{ kFactor: STANDARD_K_FACTOR, wantedRatio: 0.6, why: '0.6 F1 at the median k' }],
			school: 'practice'
		}).checks[0];
	});
</script>

<p class="text-sm">
	<span class="num">{measure(path.pathKm * 1000, 'm', 0)}</span> off, bearing
	<span class="num">{bearing(path.bearingDeg, 1)}</span>, seen
	<span class="num">{degrees(path.elevationDeg, 1, true)}</span> from the horizontal. At the
	terminal: bearing <span class="num">{bearing(path.backBearingDeg, 1)}</span>.
</p>
{#if plan.why}
	<p class="trouble mt-2 font-semibold">
		<span aria-hidden="true">▲</span>
		{noServiceText(plan.why)}
	</p>
{/if}
{#if reading}
	<div class="mt-3">
		<MountedFigures mounted={terminal}>
			<dt class="text-quiet">Place</dt>
			<dd class="num">{fixed(terminal.latitudeDeg, 6)}, {fixed(terminal.longitudeDeg, 6)}</dd>
			{#if terminal.how === 'wall' && terminal.wallBearingDeg !== null}
				<dt class="text-quiet">Wall faces</dt>
				<dd class="num">{bearing(terminal.wallBearingDeg, 1)} true</dd>
			{/if}
			<dt class="text-quiet">Tilt it</dt>
			<dd class="num">{degrees(path.atTerminal.tiltDeg, 1, true)}</dd>
		</MountedFigures>
	</div>
{/if}
{#if served}
	<table class="mt-3 w-full text-sm">
		<thead class="text-quiet border-line border-b">
			<tr>
				<th class="py-1 text-left font-semibold">By {served.unit.name}</th>
				<th class="py-1 text-right font-semibold">to the terminal</th>
				<th class="py-1 text-right font-semibold">from it</th>
			</tr>
		</thead>
		<tbody
			class="num text-right whitespace-nowrap [&_th]:py-1 [&_th]:text-left [&_th]:font-sans [&_th]:font-normal"
		>
			<tr class="font-bold">
				<th scope="row">RSL</th>
				<td>{dbm(served.down.used.levelDbm)}</td>
				<td>{dbm(served.up.used.levelDbm)}</td>
			</tr>
			<tr>
				<th scope="row">Modulation</th>
				<td>{served.down.used.modulation.name}</td>
				<td>{served.up.used.modulation.name}</td>
			</tr>
			<tr>
				<th scope="row">Rate, all air time</th>
				<td>{rateText(served.down)}</td>
				<td>{rateText(served.up)}</td>
			</tr>
			<tr>
				<th scope="row">Promised</th>
				<td>{fixed(terminal.downMbitS, 0)} Mbit/s</td>
				<td>{fixed(terminal.upMbitS, 0)} Mbit/s</td>
			</tr>
			<tr>
				<th scope="row">Margin, slowest</th>
				<td>{fixed(served.down.margins[0]!.marginDb, 1)} dB</td>
				<td>{fixed(served.up.margins[0]!.marginDb, 1)} dB</td>
			</tr>
			<tr>
				<th scope="row">Available in rain</th>
				<td class="whitespace-normal">{rainText(served.down.rain)}</td>
				<td class="whitespace-normal">{rainText(served.up.rain)}</td>
			</tr>
			<tr>
				<th scope="row">Other units at worst</th>
				<td
					>{Number.isFinite(served.interference.downDbm)
						? dbm(served.interference.downDbm)
						: 'none'}</td
				>
				<td
					>{Number.isFinite(served.interference.upDbm)
						? dbm(served.interference.upDbm)
						: 'none'}</td
				>
			</tr>
		</tbody>
	</table>
{/if}
<table class="mt-3 w-full text-sm">
	<tbody
		class="num text-right whitespace-nowrap [&_th]:py-1 [&_th]:text-left [&_th]:font-sans [&_th]:font-normal"
	>
		<tr><th scope="row">Free space</th><td>{fixed(path.freeSpaceDb, 1)} dB</td></tr>
		<tr><th scope="row">Oxygen</th><td>{fixed(path.oxygenDb, 1)} dB</td></tr>
		<tr><th scope="row">Water vapour</th><td>{fixed(path.vapourDb, 1)} dB</td></tr>
		<tr>
			<th scope="row">What stands in the way</th>
			<td>{terminal.profile ? `${fixed(path.obstructionDb, 1)} dB` : 'not known'}</td>
		</tr>
		{#if served}
			<tr>
				<th scope="row">Scan loss, unit {fixed(served.atUnit.offDeg, 1)}° off boresight</th>
				<td>{fixed(served.atUnit.scanLossDb, 1)} dB</td>
			</tr>
			<tr>
				<th scope="row">Scan loss, terminal {fixed(path.atTerminal.offDeg, 1)}° off boresight</th>
				<td>{fixed(path.atTerminal.scanLossDb, 1)} dB</td>
			</tr>
		{/if}
	</tbody>
</table>
{#if served && served.others.length}
	<p class="text-quiet mt-2 text-sm">Also in the window of {served.others.join(', ')}.</p>
{/if}
{#if check}
	<ProfileLook {check} />
{/if}
