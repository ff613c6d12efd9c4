<script lang="ts">
	import { DateTime } from 'luxon';
	import { resolve } from '$app/paths';
	import { farEnd, type End } from '#core/ends';
	import type { DayOutside } from '#core/crew/dayOutside';
	import type { PartsLine } from '#core/crew/dayBrief';
	import { WAITS_WORDS, type EndStanding } from '#core/stage/standing';
	import Fold from '../form/Fold.svelte';
	import { STAGE_WORDS } from '../hop/stageWords';
	import { measure } from '../units.svelte';
	import { fixed } from '../format';
	import { lengthWords } from '../timetable/timetableWords';
	import { dayWords } from './dayWords';
	import { outsideWords } from './outsideWords';
	import PhoneLink from './PhoneLink.svelte';
	import SmallMast from './SmallMast.svelte';

	interface Place {
		hopId: string;
		hopName: string;
		practice: boolean;
		end: End;
		site: {
			name: string;
			latitudeDeg: number;
			longitudeDeg: number;
			groundAmslM: number;
			notes: string;
		};
		crew: string;
		day: string;
		zone: string;
		at: string;
		note: string;
		standing: EndStanding;
		far: {
			site: string;
			standing: EndStanding;
			crews: { name: string; day: string; people: { name: string; phone: string }[] }[];
		};
		outside: DayOutside;
		brief: { revision: number | null; bring: PartsLine[]; documents: string[] } | null;
	}

	interface Props {
		place: Place;
		/** Whether it is the one to go on with now. */
		main: boolean;
		/** Now, ms; 0 where the page is not alive yet. */
		nowMs: number;
	}

	let { place, main, nowMs }: Props = $props();
	const own = $derived(place.end);
	const far = $derived(farEnd(own));
	const moment = $derived(DateTime.fromISO(place.at, { zone: place.zone }));
	const clock = $derived(moment.toFormat('HH:mm'));
	/** As `UTC−8`. */
	const offset = $derived(`UTC${moment.toFormat('Z').replace('-', '−')}`);
	const outside = $derived(outsideWords(place.outside, place.zone));
	/** Light that is left today, minutes; undefined on another day, or where it is not light. */
	const lightLeft = $derived.by(() => {
		const now = nowMs / 60_000;
		const span = place.outside.light.find(({ from, to }) => nowMs > 0 && from <= now && to > now);
		return span && span.to - now;
	});
	const bringCount = $derived(
		(place.brief?.bring ?? []).filter(({ group }) => group !== 'tool').length
	);
	const toolCount = $derived(
		(place.brief?.bring ?? []).filter(({ group }) => group === 'tool').length
	);
	const papers = $derived(
		place.brief ? (place.brief.revision === null ? 0 : 1) + place.brief.documents.length : 0
	);
	const toGo = $derived({
		hopId: place.hopId,
		end: own === 'A' ? ('a' as const) : ('b' as const),
		stage: place.standing.stage
	});
	const countWords = (line: PartsLine): string =>
		line.unit === 'm' ? measure(line.count, 'm', 0) : `${fixed(line.count, 0)} ×`;
</script>

<article
	class="end-{own} bg-card flex flex-col gap-3 rounded-xl border-2 p-4"
	style:border-color="var(--end)"
	data-testid="place-of-work"
>
	<header class="flex items-start gap-3">
		<SmallMast end={own} stage={place.standing.stage} state={place.standing.state} />
		<div class="min-w-0 flex-1">
			<h3 class="text-xl leading-tight font-bold">
				<span class="text-end-own">{own}</span>
				{place.site.name}
			</h3>
			<p class="text-sm">
				<strong>{dayWords(place.day)}, be there at <span class="num">{clock}</span></strong>
				<span class="text-quiet num" title={place.zone}>{offset}</span>
			</p>
			<p class="text-quiet text-sm">
				{place.hopName}, with {place.crew}{place.practice ? ' · practice hop' : ''}
			</p>
			{#if place.note}<p class="text-sm font-semibold">{place.note}</p>{/if}
		</div>
	</header>
	<div>
		<p class="text-quiet text-sm">Next here</p>
		<p>
			<strong>{STAGE_WORDS[place.standing.stage]}</strong>
			{#if place.standing.state === 'trouble'}<span class="trouble font-semibold">▲ trouble</span
				>{:else if place.standing.waitsFor !== null}<span class="font-semibold"
					>waits for {WAITS_WORDS[place.standing.waitsFor]}</span
				>{/if}
			{place.standing.note}
		</p>
	</div>
	<a
		class="btn {main ? 'btn-main' : ''} justify-center self-stretch sm:self-start"
		href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', toGo)}
		>{place.brief?.revision === null
			? 'Open the plan'
			: `Go on at ${own}: ${STAGE_WORDS[place.standing.stage]}`}</a
	>
	<dl class="grid gap-x-4 gap-y-2 text-sm sm:grid-cols-2">
		<div>
			<dt class="text-quiet">Light</dt>
			<dd>
				{outside.light}
				{#if lightLeft !== undefined}<strong>{lengthWords(lightLeft)} of it left</strong>{/if}
			</dd>
		</div>
		<div>
			<dt class="text-quiet">Weather</dt>
			<dd class={outside.forbids ? 'font-semibold' : ''}>{outside.weather}</dd>
		</div>
		<div class="end-{far}">
			<dt class="text-quiet">At the other end</dt>
			<dd>
				<span class="text-end-own font-bold">{far}</span>
				{place.far.site}: {STAGE_WORDS[place.far.standing.stage]}{place.far.standing.state ===
				'trouble'
					? ', trouble'
					: ''}
				{#each place.far.crews as crew (crew.name + crew.day)}
					<span class="mt-1 block"
						>{crew.name}{crew.day === place.day ? '' : `, ${dayWords(crew.day)}`}</span
					>
					{#each crew.people as person (person.name)}
						<span class="flex min-h-11 flex-wrap items-center gap-x-2">
							{person.name}
							{#if person.phone}
								<PhoneLink phone={person.phone} />
							{/if}
						</span>
					{/each}
				{:else}
					<span class="text-quiet block">No crew is assigned there.</span>
				{/each}
			</dd>
		</div>
		<div>
			<dt class="text-quiet">Where</dt>
			<dd>
				<span class="num"
					>{fixed(place.site.latitudeDeg, 5)}°, {fixed(place.site.longitudeDeg, 5)}°</span
				>, {measure(place.site.groundAmslM, 'm', 0)} a.m.s.l.
				{#if place.site.notes}<span class="block">{place.site.notes}</span>{/if}
			</dd>
		</div>
	</dl>
	{#if place.brief}
		<Fold
			title="Bring: {bringCount} {bringCount === 1 ? 'part' : 'parts'}, {toolCount} {toolCount === 1
				? 'tool'
				: 'tools'}, {papers} {papers === 1 ? 'paper' : 'papers'}"
		>
			<div class="flex flex-col gap-3 pt-2 text-sm">
				{#if place.brief.bring.length}
					<ul data-testid="bring">
						{#each place.brief.bring as line (line.code)}
							<li class="border-line flex gap-3 border-b py-1">
								<span class="num w-14 shrink-0 text-right">{countWords(line)}</span>
								<span>{line.name}</span>
							</li>
						{/each}
					</ul>
				{:else}
					<p class="text-quiet">Nothing more: every part was counted there, every step is done.</p>
				{/if}
				<ul>
					{#if place.brief.revision !== null}
						<li>
							<a
								class="inline-flex min-h-11 items-center"
								href={resolve('/hops/[hopId]/[end=end]/sheet', {
									...{ hopId: place.hopId, end: own === 'A' ? 'a' : 'b' }
								})}>Site sheet, plan revision {place.brief.revision}</a
							>
						</li>
					{/if}
					{#each place.brief.documents as name (name)}<li>{name}</li>{/each}
				</ul>
			</div>
		</Fold>
	{/if}
	<a
		class="inline-flex min-h-11 items-center self-start text-sm"
		href={resolve('/hops/[hopId]/[end=end]/timetable', {
			...{ hopId: place.hopId, end: own === 'A' ? 'a' : 'b' }
		})}>Timetable of both ends</a
	>
</article>
