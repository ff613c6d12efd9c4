<script lang="ts">
	import { onMount } from 'svelte';
	import { shortcuts } from '$lib/ui/frame/shortcuts.svelte';
	import { clockWords } from '#core/record/deviceClock';
	import Pause from '@lucide/svelte/icons/pause';
	import Play from '@lucide/svelte/icons/play';
	import StepBack from '@lucide/svelte/icons/step-back';
	import StepForward from '@lucide/svelte/icons/step-forward';
	import { resolve } from '$app/paths';
	import { ENDS, farEnd } from '#core/ends';
	import { guidanceInputOf } from '#core/guide/aim';
	import { endReadings } from '#core/guide/endReadings';
	import type { Location } from '#core/locate/locator';
	import { advanced } from '#core/record/foldRecord';
	import { emptyHopState } from '#core/record/hopState';
	import { originOf, originWords } from '#core/provenance/provenance';
	import { sayRecord } from '#core/record/kinds';
	import { recordsOf, type FieldRecord } from '#core/record/records';
	import { recordNamesOf } from '#core/tower/recordNames';
	import { visitsOf } from '#core/visit/visits';
	import { GuideReader } from '$lib/ui/align/guideReader';
	import SkyMap from '$lib/ui/align/SkyMap.svelte';
	import { dbm, fixed } from '$lib/ui/format';
	import { moment, timeOfDay } from '$lib/ui/moment.svelte';
	import ImportNote from '$lib/ui/frame/ImportNote.svelte';
	import LevelStrip from '$lib/ui/record/LevelStrip.svelte';
	import RecordCheck from '$lib/ui/record/RecordCheck.svelte';
	import VisitComparison from '$lib/ui/record/VisitComparison.svelte';
	import Pick from '$lib/ui/form/Pick.svelte';
	import Slide from '$lib/ui/form/Slide.svelte';

	let { data } = $props();
	const { plan, input } = $derived(data.revision);
	const records = $derived(data.records);
	let at = $state(0);
	let playing = $state(false);
	const SPEEDS = [
		{ value: '1', label: '1 a second' },
		{ value: '4', label: '4 a second' },
		{ value: '15', label: '15 a second' }
	];
	let speed = $state('4');
	const position = $derived(Math.min(at, records.length));
	const shown = $derived(records.slice(0, position));
	const now = $derived(records[position - 1]);
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
				if (at >= records.length) playing = false;
				else at += 1;
			},
			1000 / Number(speed)
		);
		return () => clearInterval(timer);
	});
	const nearby = $derived(records.slice(Math.max(0, position - 8), position + 4));

	function play(): void {
		if (position >= records.length) at = 0;
		playing = !playing;
	}
	onMount(() =>
		shortcuts.use([
			{ key: 'p', does: 'Play or pause', run: play },
			{
				key: 'ArrowRight',
				does: 'One record on',
				run: () => (at = Math.min(records.length, position + 1))
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
		<section aria-label="Timeline" class="flex flex-col gap-2">
			<LevelStrip {records} {plans} {position} />
			<div class="flex flex-wrap items-center gap-2">
				<button class="btn" onclick={play}
					>{#if playing}<Pause size={20} /> Pause{:else}<Play size={20} /> Play{/if}</button
				>
				<button
					class="btn px-3!"
					aria-label="One record back"
					disabled={position === 0}
					onclick={() => (at = position - 1)}><StepBack size={20} /></button
				>
				<button
					class="btn px-3!"
					aria-label="One record on"
					disabled={position >= records.length}
					onclick={() => (at = position + 1)}><StepForward size={20} /></button
				>
				<div class="min-w-52 flex-1">
					<Slide
						label="Place in the record"
						min={0}
						max={records.length}
						bind:value={() => position, (place) => (at = place)}
					/>
				</div>
				<span class="num" data-testid="place">{position} of {records.length}</span>
				<span>Speed</span>
				<Pick fit label="Speed" options={SPEEDS} bind:value={speed} />
			</div>
			<p class="text-quiet text-sm">Keys: space plays, the arrows go one record back or on.</p>
		</section>

		<div class="grid gap-6 md:grid-cols-2">
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
							<p class="num mt-1 text-lg font-semibold">{dbm(own.lastLevelDbm)}</p>
							<p class="num text-sm">
								{own.lastLevelDbm === null
									? 'not read yet'
									: `${fixed(plan.received[end].plannedLevelDbm - own.lastLevelDbm, 1)} dB below plan`}
							</p>
							<p class="num text-sm">
								azimuth {fixed(own.turns.azimuth, 2, true)}, tilt {fixed(own.turns.tilt, 2, true)} turns
							</p>
							{#if hop.second}
								{@const second = hop.second[end]}
								{@const dish = second.ends[end]}
								<p class="num mt-1 text-sm" data-testid="second-dish">
									Second dish{dish.aim ? ', on its main lobe' : ''}: {dish.lastLevelDbm === null
										? 'not read yet'
										: `${fixed(second.plan.received[end].plannedLevelDbm - dish.lastLevelDbm, 1)} dB below plan`},
									{fixed(dish.turns.azimuth, 2, true)} / {fixed(dish.turns.tilt, 2, true)} turns
								</p>
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
							class="border-line grid grid-cols-[4.5rem_1.5rem_1fr] gap-2 border-b py-1 {record ===
							now
								? 'font-bold'
								: 'text-quiet'}"
							aria-current={record === now ? 'step' : undefined}
						>
							<span class="num"
								>{timeOfDay(record.recordedAt)}{#if record.clockAheadS !== undefined}<span
										class="trouble"
										>▲<span class="sr-only">
											by a clock that was {clockWords(record.clockAheadS)}</span
										></span
									>{/if}</span
							><span>{record.end}</span><span class="min-w-0">{say(record)}</span>
						</li>
					{/each}
				</ol>
			</section>
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
		</div>
		<VisitComparison {visits} />
		<RecordCheck hopId={data.hop.id} />
	{/if}
</main>
