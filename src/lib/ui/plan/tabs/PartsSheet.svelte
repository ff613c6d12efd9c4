<script lang="ts">
	import { partsList, type PartsLine } from '#core/tower/partsList';
	import { ENDS, type End } from '#core/ends';
	import { usePlanEditor } from '../editor.svelte';

	const editor = usePlanEditor();
	const GROUPS = [
		['equipment', 'Equipment'],
		['material', 'Material'],
		['tool', 'Tools'],
		['consumable', 'Consumables']
	] as const;

	function asCsv(end: End, lines: readonly PartsLine[]): string {
		const quoted = (text: string): string => `"${text.replaceAll('"', '""')}"`;
		const rows = lines.map((line) =>
			[end, line.code, quoted(line.name), line.count, line.unit, line.group].join(',')
		);
		return `end,code,name,count,unit,group\n${rows.join('\n')}\n`;
	}
</script>

{#if editor.input}
	{@const input = editor.input}
	<div class="grid gap-x-10 gap-y-8 md:grid-cols-2">
		{#each ENDS as end (end)}
			{@const lines = partsList(input, end)}
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
						<h3 class="mt-4 font-bold">{label}</h3>
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
