<script lang="ts">
	import { VISIT_PURPOSE_WORDS } from '#core/record/kinds';
	import { compareVisits, type Visit } from '#core/visit/visits';
	import Pick from '../form/Pick.svelte';
	import { fixed } from '../format';
	import { moment } from '../moment.svelte';

	let { visits }: { visits: readonly Visit[] } = $props();
	let earlierAt = $state(0);
	let laterAt = $state(1);
	const last = $derived(visits.length - 1);
	const earlier = $derived(visits[Math.min(earlierAt, last - 1)]);
	const later = $derived(visits[Math.min(Math.max(laterAt, earlierAt + 1), last)]);
	const startsOf = (from: number, to: number): { value: string; label: string }[] =>
		visits
			.map((visit, i) => ({
				value: String(i),
				label: `${moment(visit.startedAt)}, ${VISIT_PURPOSE_WORDS[visit.purpose]}`
			}))
			.slice(from, to);
	const changes = $derived(visits.length > 1 ? compareVisits(earlier!, later!) : []);
</script>

<section aria-label="Visits" class="border-line border-t pt-3">
	<h2>{visits.length === 1 ? 'One visit' : `${visits.length} visits`}</h2>
	<ul class="mt-1 text-sm">
		{#each visits as visit (visit.fromSeq)}
			<li>
				<strong>{VISIT_PURPOSE_WORDS[visit.purpose]}</strong>{visit.why ? `, ${visit.why}` : ''}:
				{moment(visit.startedAt)} to {moment(visit.endedAt)}, {visit.people.join(', ')}; records
				<span class="num">{visit.fromSeq} to {visit.toSeq}</span>{visit.closed
					? `. ${visit.closed.found} (${visit.closed.name})`
					: visit.visitId
						? '. Goes on.'
						: ''}
			</li>
		{/each}
	</ul>
	{#if visits.length > 1}
		<div class="mt-3 flex flex-wrap items-center gap-3">
			<span>Compare</span>
			<Pick
				fit
				label="Visit to compare"
				options={startsOf(0, last)}
				bind:value={() => String(earlierAt), (at) => (earlierAt = Number(at))}
			/>
			<span>with</span>
			<Pick
				fit
				label="Visit to compare it with"
				options={startsOf(earlierAt + 1, visits.length)}
				bind:value={() => String(Math.max(laterAt, earlierAt + 1)), (at) => (laterAt = Number(at))}
			/>
		</div>
		<div class="mt-2 overflow-x-auto">
			<table class="w-full min-w-[36rem] text-left" data-testid="visit-changes">
				<thead class="text-quiet text-sm">
					<tr>
						<th class="py-1.5">End</th><th>Level then</th><th>Level now</th><th>Change</th>
						<th>Azimuth, tilt turned</th><th>What it may mean</th>
					</tr>
				</thead>
				<tbody>
					{#each changes as change (change.end)}
						<tr class="border-line num border-t align-top">
							<th class="py-2" scope="row">{change.end}</th>
							<td class="py-2">{fixed(earlier!.ends[change.end].lastLevelDbm, 1)} dBm</td>
							<td class="py-2">{fixed(later!.ends[change.end].lastLevelDbm, 1)} dBm</td>
							<td class="py-2 font-semibold">{fixed(change.levelDb, 1, true)} dB</td>
							<td class="py-2"
								>{fixed(change.azimuthTurns, 2, true)}, {fixed(change.tiltTurns, 2, true)}</td
							>
							<td class="py-2 font-sans">{change.meaning}</td>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
	{:else}
		<p class="text-quiet text-sm">
			A later visit, or a day's work after six hours' pause or more, is compared with this one here.
		</p>
	{/if}
</section>
