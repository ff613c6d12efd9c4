<script lang="ts">
	import { VISIT_PURPOSE_WORDS } from '#core/record/kinds';
	import { SAME_LEVEL_DB, SAME_TURNS } from '#core/visit/visits';
	import { compareVisits, type Visit, type VisitChange } from '#core/visit/visits';
	import Pick from '../form/Pick.svelte';
	import { dbm, fixed } from '../format';
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
	const several = $derived(changes.some(({ dish }) => dish === 2));

	/** The change of the level as somebody says it who was not there. */
	function changed({ levelDb }: VisitChange): string {
		if (levelDb === null) return 'Not compared';
		if (Math.abs(levelDb) < SAME_LEVEL_DB) return 'As strong as then';
		return `${fixed(Math.abs(levelDb), 1)} dB ${levelDb < 0 ? 'weaker' : 'stronger'} than then`;
	}
	function turned({ azimuthTurns, tiltTurns }: VisitChange): string {
		const said = [['azimuth', azimuthTurns] as const, ['tilt', tiltTurns] as const].flatMap(
			([axis, turns]) =>
				Math.abs(turns) > SAME_TURNS ? `${axis} nut by ${fixed(turns, 2, true)} turns` : []
		);
		return said.length ? `Turned: ${said.join(', ')}.` : 'Both nuts stand where they stood.';
	}
</script>

<section aria-label="Visits" class="border-line border-t pt-3">
	<h2>{visits.length === 1 ? 'One visit' : `${visits.length} visits`}</h2>
	<ul class="mt-1">
		{#each visits as visit (visit.fromSeq)}
			<li class="border-line border-b py-1.5">
				<strong>{VISIT_PURPOSE_WORDS[visit.purpose]}</strong>{visit.why ? `, ${visit.why}` : ''}
				<span class="text-quiet block text-sm"
					>{moment(visit.startedAt)} to {moment(visit.endedAt)}, {visit.people.join(', ')};
					{visit.toSeq - visit.fromSeq + 1} records</span
				>
				{#if visit.closed}
					<span class="block text-sm">{visit.closed.name}: {visit.closed.found}</span>
				{:else if visit.visitId}
					<span class="block text-sm">Goes on.</span>
				{/if}
			</li>
		{/each}
	</ul>
	{#if visits.length > 1}
		<h3 class="mt-4">What changed between two visits</h3>
		<div class="mt-2 flex flex-wrap items-center gap-3">
			<span>Then</span>
			<Pick
				fit
				label="Visit to compare"
				options={startsOf(0, last)}
				bind:value={() => String(earlierAt), (at) => (earlierAt = Number(at))}
			/>
			<span>now</span>
			<Pick
				fit
				label="Visit to compare it with"
				options={startsOf(earlierAt + 1, visits.length)}
				bind:value={() => String(Math.max(laterAt, earlierAt + 1)), (at) => (laterAt = Number(at))}
			/>
		</div>
		<ul class="mt-3 grid gap-6 sm:grid-cols-2" data-testid="visit-changes">
			{#each changes as change (`${change.end}${change.dish}`)}
				<li class="end-{change.end} border-t-4 pt-2" style:border-color="var(--end)">
					<p>
						<strong class="text-end-own text-lg">{change.end}</strong>{several
							? `, ${change.dish === 1 ? 'first' : 'second'} dish`
							: ''}
					</p>
					<p class="text-lg font-bold">{changed(change)}</p>
					<p>
						<span class="text-quiet">then</span>
						<span class="num">{change.thenDbm === null ? 'not read' : dbm(change.thenDbm)}</span>,
						<span class="text-quiet">now</span>
						<span class="num">{change.nowDbm === null ? 'not read' : dbm(change.nowDbm)}</span>
					</p>
					<p class="text-sm">{turned(change)}</p>
					<p class="text-sm">{change.meaning}</p>
				</li>
			{/each}
		</ul>
	{:else}
		<p class="text-quiet mt-1 text-sm">
			A later visit, or a day's work after six hours' pause or more, is compared with this one here.
		</p>
	{/if}
</section>
