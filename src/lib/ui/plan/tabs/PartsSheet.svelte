<script lang="ts">
	import { partsList, type PartsLine } from '#core/tower/partsList';
	import { buildSteps } from '#core/tower/buildSteps';
	import { toolLines } from '#core/tower/tools';
	import { ENDS, type End } from '#core/ends';
	import type { HopPlanInput } from '#core/budget/planInput';
	import SelectField from '../../form/SelectField.svelte';
	import { usePlanEditor } from '../editor.svelte';
	import PlanText from '../PlanText.svelte';

	const editor = usePlanEditor();
	const GROUPS = [
		['equipment', 'Equipment'],
		['material', 'Material'],
		['tool', 'Tools'],
		['consumable', 'Consumables']
	] as const;

	const { values } = $derived(editor.draft);

	/** Tools follow from the steps, and these from the plan: without one there are none. */
	function linesOf(input: HopPlanInput, end: End): PartsLine[] {
		const tools = editor.plan ? toolLines(input, end, buildSteps(input, editor.plan, end)) : [];
		return [...partsList(input, end), ...tools];
	}

	function asCsv(end: End, lines: readonly PartsLine[]): string {
		const quoted = (text: string): string => `"${text.replaceAll('"', '""')}"`;
		const rows = lines.map((line) =>
			[end, line.code, quoted(line.name), line.count, line.unit, line.group].join(',')
		);
		return `end,code,name,count,unit,group\n${rows.join('\n')}\n`;
	}
</script>

<div class="mb-6 grid gap-4 sm:grid-cols-3">
	<SelectField
		label="What goes up together"
		name="plan.building.lift"
		bind:value={values.building.lift}
		options={[
			{ value: 'separately', label: 'Each piece by itself' },
			{ value: 'whole', label: 'All in one piece' }
		]}
	/>
	<SelectField
		label="Outdoor joints are closed"
		name="plan.building.joints"
		bind:value={values.building.joints}
		options={[
			{ value: 'as-part', label: 'As the sheet of each part has it' },
			{ value: 'compound-under-tape', label: 'Sealing compound under tape' },
			{ value: 'layered-tape', label: 'Layered tape, tied at both ends' }
		]}
	/>
	<PlanText
		label="Earth conductor by the local code"
		unit="mm²"
		numeric
		field="building.earthMm2"
		bind:value={values.building.earthMm2}
	/>
</div>
{#if editor.input}
	{@const input = editor.input}
	<div class="grid gap-x-10 gap-y-8 md:grid-cols-2">
		{#each ENDS as end (end)}
			{@const lines = linesOf(input, end)}
			<section
				class="end-{end} border-t-4 pt-3"
				style:border-color="var(--end)"
				aria-label="Parts of {end}"
			>
				<div class="flex items-center justify-between">
					<p class="text-end-own text-2xl leading-none font-bold">{end}</p>
					<a
						class="btn"
						download="parts-{end.toLowerCase()}.csv"
						href="data:text/csv;charset=utf-8,{encodeURIComponent(asCsv(end, lines))}">As CSV</a
					>
				</div>
				{#each GROUPS as [group, label] (group)}
					{@const own = lines.filter((line) => line.group === group)}
					{#if own.length}
						<h2 class="mt-4 text-base! font-bold">{label}</h2>
						<ul>
							{#each own as line (line.code)}
								<li class="border-line flex justify-between gap-4 border-b py-1.5">
									<span>{line.name} <span class="num text-quiet text-sm">{line.code}</span></span>
									<strong class="num whitespace-nowrap"
										>{line.count}
										{line.unit === 'm'
											? 'm'
											: line.count === 1
												? line.unit
												: `${line.unit}s`}</strong
									>
								</li>
							{/each}
						</ul>
					{/if}
				{/each}
			</section>
		{/each}
	</div>
{/if}
