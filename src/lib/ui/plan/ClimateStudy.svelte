<script lang="ts">
	import { availabilityText } from '#core/budget/availability';
	import type { ClimateSensitivity } from '#core/budget/sensitivity';
	import { fixed } from '../format';
	import { usePlanEditor } from './editor.svelte';
	import { NOTHING_TO_TELL, WORKING } from './study';
	import { followStudy } from './studyReader.svelte';

	const editor = usePlanEditor();
	const found = followStudy<'climate'>(
		() => editor.input && { kind: 'climate', input: editor.input }
	);
	const NAMES: Record<ClimateSensitivity['quantity'], string> = {
		'rain-rate': 'Rain rate for 0.01 %, mm/h',
		gradient: 'Gradient dN1, N/km',
		temperature: 'Temperature, °C'
	};
</script>

{#if found.answer}
	<div class="overflow-x-auto">
		<table class="w-full max-w-3xl min-w-[34rem] text-[0.93rem]" data-testid="climate-study">
			<caption class="text-quiet pb-1 text-left text-sm"
				>Available with one value 20 % less or more, the others as they are</caption
			>
			<thead>
				<tr class="border-ink border-b-2 text-right">
					<th class="py-1.5 text-left">Value</th>
					<th class="py-1.5">20 % less</th>
					<th class="py-1.5">as planned</th>
					<th class="py-1.5">20 % more</th>
				</tr>
			</thead>
			<tbody>
				{#each found.answer as row (row.quantity)}
					<tr class="border-line border-b">
						<th class="py-1.5 text-left font-normal" scope="row">{NAMES[row.quantity]}</th>
						{#each row.values as value, i (i)}
							{@const there = row.available[i]}
							<td class="num py-1.5 text-right"
								>{there ? availabilityText(there.percent, there.bound) : 'not covered'}
								<span class="text-quiet block text-sm">with {fixed(value, 0)}</span></td
							>
						{/each}
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{:else}
	<p class="text-quiet">{found.answer === null ? NOTHING_TO_TELL : WORKING}</p>
{/if}
