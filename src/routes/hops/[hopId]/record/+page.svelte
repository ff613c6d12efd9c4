<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { shortcuts } from '$lib/ui/frame/shortcuts.svelte';
	import { clockWords } from '#core/record/deviceClock';
	import { resolve } from '$app/paths';
	import { ENDS, farEnd } from '#core/ends';
	import { guidanceInputOf } from '#core/guide/aim';
	import { endReadings } from '#core/guide/endReadings';
	import type { Location } from '#core/locate/locator';
	import { advanced } from '#core/record/foldRecord';
	import { emptyHopState } from '#core/record/hopState';
	import { originOf, originWords } from '#core/provenance/provenance';
	import {
		isOfPart,
		partOfWork,
		sayRecord,
		WORK_PART_WORDS,
		WORK_PARTS,
		type WorkPart
	} from '#core/record/kinds';
	import { recordsOf, type FieldRecord } from '#core/record/records';
	import { recordNamesOf } from '#core/tower/recordNames';
	import { buildStateOf } from '#core/tower/buildState';
	import { visitsOf } from '#core/visit/visits';
	import { GuideReader } from '$lib/ui/align/guideReader';
	import SkyMap from '$lib/ui/align/SkyMap.svelte';
	import { dbm, fixed } from '$lib/ui/format';
	import { moment, timeOfDay } from '$lib/ui/moment.svelte';
	import ImportNote from '$lib/ui/frame/ImportNote.svelte';
	import PlumbStrip from '$lib/ui/record/PlumbStrip.svelte';
	import RecordCheck from '$lib/ui/record/RecordCheck.svelte';
	import VisitComparison from '$lib/ui/record/VisitComparison.svelte';
	import Pick from '$lib/ui/form/Pick.svelte';

	let { data } = $props();
	const { plan, input } = $derived(data.revision);
	const records = $derived(data.records);
	/** The part of the work that is read; the alignment first, where there is one. */
	let part: WorkPart | 'all' = $state(
		untrack(() => (data.records.some((r) => partOfWork(r) === 'alignment') ? 'alignment' : 'all'))
	);
	const countOf = (one: WorkPart): number => records.filter((r) => isOfPart(r, one)).length;
	const chosen = $derived.by(() => {
		const only = part;
		return only === 'all' ? records : records.filter((record) => isOfPart(record, only));
	});
	/** How many records of the chosen part have passed. */
	let at = $state(0);
	let playing = $state(false);
	const SPEEDS = [
		{ value: '1', label: '1 a second' },
		{ value: '4', label: '4 a second' },
		{ value: '15', label: '15 a second' }
	];
	let speed = $state('4');
	const position = $derived(Math.min(at, chosen.length));
	const now = $derived(chosen[position - 1]);
	/** Everything up to that moment, of the other parts, too: the hop stands as it stood. */
	const shown = $derived(now ? records.filter(({ seq }) => seq <= now.seq) : []);
	const start = $derived(emptyHopState(input, plan));
	const hop = $derived(advanced(start, shown, data.findings));
	const plans = $derived([
		{ A: plan, B: plan },
		...(start.second ? [{ A: start.second.A.plan, B: start.second.B.plan }] : [])
	]);
	const names = $derived(recordNamesOf(advanced(start, records, data.findings)));
	const say = (record: FieldRecord): string => sayRecord(record, names);
	const mover = $derived(hop.baton);
	const origin = $derived(
		now ? originWords(originOf(data.hop.provenance, { what: 'record', seq: now.seq })) : ''
	);
	const advice = $derived(recordsOf(shown, 'advice').at(-1));
	const visits = $derived(visitsOf(start, records, data.findings));

	let location: Location | undefined = $state.raw();
	let reader: GuideReader | undefined = $state.raw();
	$effect(() => {
		const made = new GuideReader((answer) => (location = answer.location));
		reader = made;
		return () => made.stop();
	});
	$effect(() => {
		reader?.ask({ key: '', input: guidanceInputOf(hop, mover) });
	});
	$effect(() => {
		if (!playing) return;
		const timer = setInterval(
			() => {
				if (at >= chosen.length) playing = false;
				else at = position + 1;
			},
			1000 / Number(speed)
		);
		return () => clearInterval(timer);
	});
	const nearby = $derived(chosen.slice(Math.max(0, position - 8), position + 4));
	/** Place of the next hand-over; undefined when the baton stays where it is. */
	const handOver = $derived.by(() => {
		const next = chosen.findIndex(({ kind }, i) => i >= position && kind === 'baton');
		return next < 0 ? undefined : next + 1;
	});

	/** Another part of the work, at the moment that is looked at. */
	function read(next: WorkPart | 'all'): void {
		const seq = now?.seq ?? 0;
		part = next;
		at = chosen.filter((record) => record.seq <= seq).length;
	}
	function play(): void {
		if (position >= chosen.length) at = 0;
		playing = !playing;
	}
	function belowPlan(db: number): string {
		if (Math.abs(db) < 0.05) return 'on the plan';
		return `${fixed(Math.abs(db), 1)} dB ${db > 0 ? 'below' : 'above'} the plan`;
	}
	onMount(() =>
		shortcuts.use([
			{ key: 'p', does: 'Run the record or hold it', run: play },
			{
				key: 'ArrowRight',
				does: 'One record on',
				run: () => (at = Math.min(chosen.length, position + 1))
			},
			{ key: 'ArrowLeft', does: 'One record back', run: () => (at = Math.max(0, position - 1)) }
		])
	);
</script>

<svelte:head><title>Record of {data.hop.name}</title></svelte:head>

<main id="work" class="mx-auto flex max-w-6xl flex-col gap-5 px-4 py-4">
	<div class="flex flex-wrap items-baseline justify-between gap-x-6">
		<h1>{data.hop.name}: the record</h1>
		<a class="flex min-h-12 items-center" href={resolve('/hops/[hopId]', { hopId: data.hop.id })}
			>Back to the hop</a
		>
	</div>
	<ImportNote provenance={data.hop.provenance} />
	{#if records.length === 0}
		<p>Nothing has been recorded yet. What the crews read, move and hand over appears here.</p>
	{:else}
		<section aria-label="Timeline" class="flex flex-col gap-3">
			<div class="flex flex-wrap gap-2" role="group" aria-label="Part of the work">
				{#each WORK_PARTS as one (one)}
					{@const count = countOf(one)}
					<button
						class="btn {part === one ? 'btn-main' : ''}"
						aria-pressed={part === one}
						disabled={count === 0}
						onclick={() => read(one)}
						>{WORK_PART_WORDS[one]} <span class="num font-normal">{count}</span></button
					>
				{/each}
				<button
					class="btn {part === 'all' ? 'btn-main' : ''}"
					aria-pressed={part === 'all'}
					onclick={() => read('all')}
					>All <span class="num font-normal">{records.length}</span></button
				>
			</div>
			<PlumbStrip
				records={chosen}
				{plans}
				bind:position={() => position, (place) => (at = place)}
				words={now ? say(now) : 'before the first record'}
			/>
			<div class="flex flex-wrap items-center gap-2">
				<button class="btn" disabled={position === 0} onclick={() => (at = position - 1)}
					>One back</button
				>
				<button class="btn" disabled={position >= chosen.length} onclick={() => (at = position + 1)}
					>One on</button
				>
				{#if chosen.some(({ kind }) => kind === 'baton')}
					<button
						class="btn"
						disabled={handOver === undefined}
						onclick={() => (at = handOver ?? position)}>To the next hand-over</button
					>
				{/if}
				<button class="btn" onclick={play}>{playing ? 'Hold' : 'Run'}</button>
				<Pick fit label="Speed" options={SPEEDS} bind:value={speed} />
				<span class="text-quiet ml-auto"
					>record <span class="num text-ink" data-testid="place">{position} of {chosen.length}</span
					></span
				>
			</div>
			<p class="text-quiet text-sm">
				Draw the plumb line, or: arrows go one back or on, P runs and holds.
			</p>
		</section>

		<div class="grid gap-6 {part === 'building' ? '' : 'md:grid-cols-2'}">
			<section aria-label="At this moment" class="flex flex-col gap-3">
				<p class="text-xl font-bold" data-testid="moment">
					{now ? `${now.end}: ${say(now)}` : 'Before the first record'}
				</p>
				{#if now}
					<p class="text-quiet text-sm">
						{moment(now.recordedAt)}{now.clockAheadS === undefined
							? ''
							: ` by a clock that was ${clockWords(now.clockAheadS)}`}, {now.recordedBy}, plan
						revision {now.revisionNumber}{origin ? `. ${origin}` : ''}
					</p>
				{/if}
				<div class="grid grid-cols-2 gap-4">
					{#each ENDS as end (end)}
						{@const own = hop.ends[end]}
						<div class="end-{end} border-t-4 pt-2" style:border-color="var(--end)">
							<p>
								<strong class="text-end-own text-lg">{end}</strong>
								{data.hop.sites[end].name}
							</p>
							<p class="text-quiet text-sm">
								{hop.baton === end ? 'holds the baton' : 'hands off'}{own.aim
									? ', on its main lobe'
									: ''}
							</p>
							{#if part === 'building'}
								{@const built = buildStateOf(hop, end)}
								<p class="num mt-1" data-testid="built">
									{built.done} of {built.steps.length} steps done{built.skipped
										? `, ${built.skipped} left out`
										: ''}
								</p>
							{:else}
								<p class="num mt-1 text-lg font-semibold">{dbm(own.lastLevelDbm)}</p>
								<p class="num text-sm">
									{own.lastLevelDbm === null
										? 'not read yet'
										: belowPlan(plan.received[end].plannedLevelDbm - own.lastLevelDbm)}
								</p>
								<p class="num text-sm">
									azimuth nut {fixed(own.turns.azimuth, 2, true)}, tilt nut {fixed(
										own.turns.tilt,
										2,
										true
									)} turns
								</p>
								{#if hop.second}
									{@const second = hop.second[end]}
									{@const dish = second.ends[end]}
									<p class="num mt-1 text-sm" data-testid="second-dish">
										Second dish{dish.aim ? ', on its main lobe' : ''}: {dish.lastLevelDbm === null
											? 'not read yet'
											: belowPlan(second.plan.received[end].plannedLevelDbm - dish.lastLevelDbm)},
										{fixed(dish.turns.azimuth, 2, true)} / {fixed(dish.turns.tilt, 2, true)} turns
									</p>
								{/if}
							{/if}
						</div>
					{/each}
				</div>
				{#if advice}
					<div class="border-ink border-l-4 pl-3">
						<p class="text-quiet text-sm font-semibold">
							Advice to {advice.end}, {timeOfDay(advice.recordedAt)}
						</p>
						<p class="font-bold">{advice.payload.headline}</p>
						{#each advice.payload.why as why, i (i)}<p class="text-sm">{why}</p>{/each}
					</div>
				{/if}
				<ol class="border-line border-t text-sm" aria-label="Records about this place">
					{#each nearby as record (record.id)}
						<li
							class="end-{record.end} border-line border-b {record === now
								? 'font-bold'
								: 'text-quiet'}"
							aria-current={record === now ? 'step' : undefined}
						>
							<button
								class="grid min-h-11 w-full grid-cols-[auto_1.2rem_1fr] items-center gap-2 py-1 text-left"
								onclick={() => (at = chosen.indexOf(record) + 1)}
							>
								<span class="num whitespace-nowrap"
									>{timeOfDay(record.recordedAt)}{#if record.clockAheadS !== undefined}<span
											class="trouble"
											>▲<span class="sr-only">
												by a clock that was {clockWords(record.clockAheadS)}</span
											></span
										>{/if}</span
								><strong class="text-end-own">{record.end}</strong><span class="min-w-0"
									>{say(record)}</span
								>
							</button>
						</li>
					{/each}
				</ol>
			</section>
			{#if part !== 'building'}
				<section aria-label="Map at this moment">
					<SkyMap
						end={mover}
						own={endReadings(hop, mover)}
						{location}
						beamwidthDeg={plan.dish[mover].beamwidthDeg}
						floorDbm={plan.received[mover].floorDbm}
						mount={hop.input.ends[mover].mount}
						target={undefined}
						inTurns
					/>
					<p class="text-quiet text-sm">
						Seen by {mover}, which held the baton; {farEnd(mover)} stood still.
					</p>
				</section>
			{/if}
		</div>
		<VisitComparison {visits} />
		<RecordCheck hopId={data.hop.id} />
	{/if}
</main>
