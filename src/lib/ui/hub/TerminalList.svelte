<script lang="ts">
	import type { HubPlan } from '#core/hub/hubFigures';
	import { fixed } from '../format';
	import { measure } from '../units.svelte';
	import { rainText, standingOf } from './hubWords';

	interface Props {
		plan: HubPlan;
		chosen: string | undefined;
		onchoose: (id: string) => void;
	}

	let { plan, chosen, onchoose }: Props = $props();
	/** What is in trouble first, then what lies nearest to an edge. */
	const rows = $derived(
		plan.terminals
			.map((one, i) => ({ ...one, number: i + 1 }))
			.sort(
				(a, b) =>
					(a.served?.atUnit.marginDeg ?? Number.NEGATIVE_INFINITY) -
					(b.served?.atUnit.marginDeg ?? Number.NEGATIVE_INFINITY)
			)
	);
</script>

<section aria-label="Terminals" class="min-w-0">
	<h2 class="mb-2">Terminals, the nearest to an edge first</h2>
	<div class="overflow-x-auto">
		<table class="w-full text-left text-sm" data-testid="terminal-list">
			<thead class="text-quiet border-line border-b">
				<tr>
					<th class="px-2 py-2 font-semibold">Terminal</th>
					<th class="px-2 py-2 font-semibold">In its window</th>
					<th class="hidden px-2 py-2 font-semibold sm:table-cell">By</th>
					<th class="px-2 py-2 text-right font-semibold">RSL</th>
					<th class="hidden px-2 py-2 text-right font-semibold sm:table-cell"
						>To / from it, Mbit/s</th
					>
					<th class="hidden px-2 py-2 text-right font-semibold sm:table-cell">Available in rain</th>
				</tr>
			</thead>
			<tbody>
				{#each rows as row (row.terminal.id)}
					{@const { served, path, terminal } = row}
					<tr class="border-line border-b {chosen === terminal.id ? 'bg-card' : ''}">
						<td class="px-2">
							<button
								type="button"
								class="flex min-h-11 items-center gap-2 text-left font-semibold"
								onclick={() => onchoose(terminal.id)}
								><span class="num text-quiet w-6 text-right">{row.number}</span><span
									>{terminal.name}<span class="num text-quiet block text-sm font-normal"
										>{measure(path.pathKm * 1000, 'm', 0)}</span
									></span
								></button
							>
						</td>
						<td class="num px-2 whitespace-nowrap {served ? '' : 'trouble font-semibold'}"
							>{standingOf(row)}</td
						>
						<td class="num hidden px-2 sm:table-cell"
							>{served
								? plan.units.findIndex(({ unit }) => unit.id === served.unit.id) + 1
								: '—'}</td
						>
						<td class="num px-2 text-right whitespace-nowrap"
							>{served ? `${fixed(served.down.used.levelDbm, 1)} dBm` : '—'}</td
						>
						<td class="num hidden px-2 text-right whitespace-nowrap sm:table-cell"
							>{served
								? `${fixed(served.down.rateMbitS, 0)} / ${fixed(served.up.rateMbitS, 0)}`
								: '—'}</td
						>
						<td class="num hidden px-2 text-right whitespace-nowrap sm:table-cell"
							>{served ? rainText(served.rain) : '—'}</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
</section>
