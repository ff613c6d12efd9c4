<script lang="ts">
	import { levelsWhenSwitched, SWITCHING } from '#core/budget/standby';
	import { ENDS, farEnd } from '#core/ends';
	import { dbm, fixed, volts } from '../../format';
	import { usePlanEditor } from '../editor.svelte';
	import LevelDiagram from '../LevelDiagram.svelte';
	import PlanFigures from '../PlanFigures.svelte';

	const editor = usePlanEditor();
</script>

{#if editor.plan && editor.input}
	{@const plan = editor.plan}
	{@const input = editor.input}
	{@const switched = {
		A: levelsWhenSwitched(input, plan, 'A'),
		B: levelsWhenSwitched(input, plan, 'B')
	}}
	<div class="mb-6"><LevelDiagram {input} {plan} /></div>
	{#if plan.carriers.length > 1}
		<section class="mb-6" aria-labelledby="carriers-title">
			<h2 id="carriers-title" class="mb-2 text-base! font-bold">
				Every carrier, in the alignment state
			</h2>
			<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
			<div class="overflow-x-auto" role="region" aria-label="Carriers, table" tabindex="0">
				<table class="w-full min-w-[34rem] text-[0.95rem]">
					<thead>
						<tr class="border-ink border-b-2 text-left">
							<th class="py-1.5 pr-3">Carrier</th>
							{#each ENDS as end (end)}
								<th class="end-{end} text-end-own py-1.5 text-right">at {end}</th>
								<th class="py-1.5 pl-4 text-right">branching, {farEnd(end)} + {end}</th>
							{/each}
						</tr>
					</thead>
					<tbody>
						{#each plan.carriers as carrier (carrier.number)}
							<tr class="border-line border-b">
								<th class="py-1.5 pr-3 text-left font-normal" scope="row"
									>{carrier.number} · {carrier.name}, {carrier.polarization}</th
								>
								{#each ENDS as end (end)}
									{@const budget = carrier.received[end]}
									<td class="num py-1.5 text-right"
										>{dbm(budget.plannedLevelDbm)}<br /><span class="text-quiet text-sm"
											>{volts(budget.plannedVolts)} · {fixed(budget.frequencyGhz, 3)} GHz</span
										></td
									>
									<td class="num py-1.5 text-right"
										>{fixed(budget.transmitBranchLossDb, 1)} + {fixed(
											budget.receiveBranchLossDb,
											1
										)} dB</td
									>
								{/each}
							</tr>
						{/each}
						{#if switched.A && switched.B}
							<tr class="border-line border-b">
								<th class="py-1.5 pr-3 text-left font-normal" scope="row"
									>Main and standby, with the far standby sending</th
								>
								{#each ENDS as end (end)}
									{@const levels = switched[end]}
									<td class="num py-1.5 text-right"
										>{dbm(levels?.main.levelDbm)} · {volts(levels?.main.volts)}<br />{dbm(
											levels?.standby.levelDbm
										)} · {volts(levels?.standby.volts)}</td
									>
									<td></td>
								{/each}
							</tr>
						{/if}
					</tbody>
				</table>
			</div>
			{#if switched.A}
				<p class="text-quiet mt-2 max-w-prose text-sm">
					Levels are with the far main unit: {SWITCHING}.
				</p>
			{/if}
		</section>
	{/if}
	<PlanFigures {plan} operatingModulation={editor.draft.values.operatingModulation} />
{/if}
