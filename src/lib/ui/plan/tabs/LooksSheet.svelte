<script lang="ts">
	import { supplyVoltageV } from '#core/budget/planInput';
	import { ENDS, farEnd } from '#core/ends';
	import { fixed } from '../../format';
	import Notice from '../../form/Notice.svelte';
	import { measure } from '../../units.svelte';
	import { usePlanEditor } from '../editor.svelte';
	import PlanText from '../PlanText.svelte';

	const editor = usePlanEditor();
</script>

<Notice kind="caution">
	First looks only. Exposure, structure, lifting and electrical supply are decided by local rules
	and by licensed people: a structural engineer for mast and mount, a qualified person for DC and
	earthing.
</Notice>
<div class="mt-4 grid gap-4 sm:grid-cols-3 lg:grid-cols-5">
	<PlanText
		label="Reference, public"
		unit="W/m²"
		numeric
		field="publicExposureWM2"
		bind:value={editor.draft.values.publicExposureWM2}
	/>
	<PlanText
		label="Reference, workers"
		unit="W/m²"
		numeric
		field="workerExposureWM2"
		bind:value={editor.draft.values.workerExposureWM2}
	/>
	<PlanText
		label="Operating wind"
		quantity="m/s"
		field="wind.operatingMS"
		bind:value={editor.draft.values.wind.operatingMS}
	/>
	<PlanText
		label="Survival wind"
		quantity="m/s"
		field="wind.survivalMS"
		bind:value={editor.draft.values.wind.survivalMS}
	/>
	<PlanText
		label="Sway of the mast"
		unit="°"
		numeric
		field="wind.mastSwayDeg"
		bind:value={editor.draft.values.wind.mastSwayDeg}
	/>
</div>
{#if editor.plan && editor.input}
	<div class="mt-6 grid gap-x-10 gap-y-8 md:grid-cols-2">
		{#each ENDS as end (end)}
			{@const look = editor.plan.firstLook[end]}
			{@const own = editor.input.ends[end]}
			{@const sent = Math.max(...editor.plan.carriers.map((c) => c.received[farEnd(end)].eirpDbm))}
			<section
				class="end-{end} border-t-4 pt-3"
				style:border-color="var(--end)"
				aria-label="First looks at {end}"
			>
				<p class="text-end-own text-2xl leading-none font-bold">{end}</p>
				<dl class="mt-3 grid grid-cols-[9rem_1fr] gap-x-4 gap-y-2">
					<dt class="text-quiet">EIRP</dt>
					<dd class="num">
						{fixed(sent, 1)} dBm{editor.input.eirpLimitDbm === null
							? ''
							: `, licensed ${fixed(editor.input.eirpLimitDbm, 1)} dBm`}
					</dd>
					{#each [['public', 'Keep clear, public'], ['worker', 'Keep clear, workers']] as const as [who, label] (who)}
						<dt class="text-quiet">{label}</dt>
						<dd class="num">
							{look.exposure[who].neverReached
								? 'reference level not reached, even at the dish'
								: `${measure(look.exposure[who].distanceM, 'm', 1)} in front of the dish`}
						</dd>
					{/each}
					<dt class="text-quiet">Wind, operating</dt>
					<dd class="num">
						{fixed(look.wind.operating.forceN, 0)} N, twist {fixed(look.wind.operating.twistNm, 0)} N·m;
						sway costs {fixed(look.wind.swayLossDb, 2)} dB
					</dd>
					<dt class="text-quiet">Wind, survival</dt>
					<dd class="num">
						{fixed(look.wind.survival.forceN, 0)} N, twist {fixed(look.wind.survival.twistNm, 0)} N·m
						at {fixed(look.wind.survival.pressurePa, 0)} Pa
					</dd>
					<dt class="text-quiet">Supply at the unit</dt>
					<dd>
						{#if look.supply === null}
							<span class="text-quiet"
								>not planned: voltage at the site, cable and length are needed</span
							>
						{:else if look.supply.kind === 'collapses'}
							<span class="trouble font-semibold"
								>▲ collapses: this cable carries {fixed(look.supply.mostPowerW, 0)} W at most</span
							>
						{:else}
							<span
								class="num {look.supply.voltageAtUnitV < own.radio.supplyMinV
									? 'trouble font-semibold'
									: ''}"
							>
								{look.supply.voltageAtUnitV < own.radio.supplyMinV ? '▲ ' : ''}{fixed(
									look.supply.voltageAtUnitV,
									1
								)} V, {fixed(look.supply.currentA, 2)} A
							</span>
							<span class="text-quiet text-sm">
								needs {own.radio.supplyMinV} V; {own.cable?.name}, {measure(
									own.cableLengthM,
									'm',
									0
								)}, hot; from {supplyVoltageV(own)} V
							</span>
						{/if}
					</dd>
					<dt class="text-quiet">Hoist</dt>
					<dd>
						<span class="num">{measure(look.hoist.heaviestKg, 'kg', 0)}</span> the heaviest piece, {look
							.hoist.how}.
						<span class="text-quiet text-sm">{look.hoist.words}</span>
					</dd>
				</dl>
			</section>
		{/each}
	</div>
{/if}
