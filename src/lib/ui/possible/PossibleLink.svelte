<script lang="ts">
	import { onMount } from 'svelte';
	import { resolve } from '$app/paths';
	import { page } from '$app/state';
	import type { TerminalPart } from '#core/catalogue/parts';
	import { typedPlace } from '#core/geodesy/typedPlace';
	import type { SampledProfile, TerrainProfile } from '#core/path/samplePath';
	import { possibleLink, type LinkAnswer, type LinkQuestion } from '#core/smalllink/possibleLink';
	import { OutOfRangeError } from '#core/units/errors';
	import { callApi } from '../api';
	import Fold from '../form/Fold.svelte';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import { bearing, dbm, degrees, fixed } from '../format';
	import { rainText } from '../hub/hubWords';
	import ProfileLook from '../hub/ProfileLook.svelte';
	import { measure } from '../units.svelte';
	import MakeLink from './MakeLink.svelte';
	import { doubtText, VERDICT_WORDS } from './possible';

	let { radios, mayPlan }: { radios: readonly TerminalPart[]; mayPlan: boolean } = $props();

	const draft = new Draft('possible', {
		...{ a: '', b: '', heightA: '6', heightB: '6' },
		...{ radio: '', widthMhz: '', eirpDbm: '', treesM: '0' },
		...{ inTheWay: '', inTheWayM: '', rainMmH: '30', targetPercent: '99.9', reserveDb: '10' }
	});
	// A place that was picked on the map comes in the address; the other one stays as it was typed.
	onMount(() => {
		for (const key of ['a', 'b'] as const) {
			const picked = page.url.searchParams.get(key);
			if (picked && typedPlace(picked)) draft.values[key] = picked.replace(',', ', ');
		}
	});
	const usable = $derived(radios.filter(({ retired }) => !retired));
	const part = $derived(usable.find(({ code }) => code === draft.values.radio) ?? usable[0]);
	const widthMhz = $derived(
		part?.channelWidthsMhz.find((width) => String(width) === draft.values.widthMhz) ??
			part?.channelWidthsMhz[0]
	);
	const places = $derived({ A: typedPlace(draft.values.a), B: typedPlace(draft.values.b) });
	const numberOf = (text: string): number | undefined =>
		text.trim() === '' || !Number.isFinite(Number(text)) ? undefined : Number(text);
	/** What is wrong with a number where it is typed; empty is wrong only where it is needed. */
	function problemOf(text: string, from: number, to: number, needed = true): string | undefined {
		if (text.trim() === '') return needed ? 'A number is missing.' : undefined;
		const value = numberOf(text);
		if (value === undefined) return 'This is no number.';
		return value < from || value > to ? `It must be from ${from} to ${to}.` : undefined;
	}
	const problems = $derived({
		a:
			draft.values.a.trim() && !places.A
				? 'This is no place: type latitude and longitude.'
				: undefined,
		b:
			draft.values.b.trim() && !places.B
				? 'This is no place: type latitude and longitude.'
				: undefined,
		heightA: problemOf(draft.values.heightA, 0, 300),
		heightB: problemOf(draft.values.heightB, 0, 300),
		treesM: problemOf(draft.values.treesM, 0, 80),
		eirpDbm: problemOf(draft.values.eirpDbm, -20, 90, false),
		inTheWay: problemOf(draft.values.inTheWay, 0, 200_000, false),
		inTheWayM: problemOf(draft.values.inTheWayM, 0, 500, false),
		rainMmH: problemOf(draft.values.rainMmH, 0, 250),
		targetPercent: problemOf(draft.values.targetPercent, 90, 99.9999),
		reserveDb: problemOf(draft.values.reserveDb, 0, 40)
	});

	// The ground follows the places; what was asked for others is not taken.
	let ground: { of: string; profile: TerrainProfile | null; said?: string } | undefined =
		$state.raw();
	const wanted = $derived(places.A && places.B ? JSON.stringify(places) : undefined);
	$effect(() => {
		const of = wanted;
		const { A, B } = places;
		if (!of || !A || !B) return;
		const timer = setTimeout(() => {
			void callApi<SampledProfile>('POST', '/terrain/profile', { a: A, b: B, stepM: 10 }).then(
				(found) => {
					if (of !== wanted) return;
					ground =
						found.kind === 'profile'
							? { of, profile: found.profile }
							: { of, profile: null, said: 'No terrain is kept of the way between.' };
				},
				(error: unknown) => {
					if (of !== wanted) return;
					const said = error instanceof Error ? error.message : 'The ground could not be taken.';
					ground = { of, profile: null, said };
				}
			);
		}, 400);
		return () => clearTimeout(timer);
	});
	const known = $derived(ground?.of === wanted ? ground : undefined);

	const answer: (LinkAnswer & { question: LinkQuestion }) | string | undefined = $derived.by(() => {
		const { A, B } = places;
		const { values } = draft;
		if (!A || !B) return undefined;
		if (!part || widthMhz === undefined) return 'The catalogue has no small radio yet.';
		if (Object.values(problems).some((problem) => problem !== undefined)) return undefined;
		if (!known) return 'Taking the ground between …';
		const { profile } = known;
		const at = (place: typeof A, height: string, end: 0 | -1): LinkPlace => ({
			...place,
			groundAmslM: profile?.groundsAmslM.at(end) ?? 0,
			heightAglM: Number(height)
		});
		const from = numberOf(values.inTheWay);
		const heightM = numberOf(values.inTheWayM);
		const question: LinkQuestion = {
			places: { A: at(A, values.heightA, 0), B: at(B, values.heightB, -1) },
			part,
			frequencyGhz: (part.rangeGhz[0] + part.rangeGhz[1]) / 2,
			channelWidthMhz: widthMhz,
			eirpLimitDbm: numberOf(values.eirpDbm) ?? null,
			polarization: 'vertical',
			rainRateMmH: Number(values.rainMmH),
			targetPercent: Number(values.targetPercent),
			reserveDb: Number(values.reserveDb),
			profile,
			treesM: Number(values.treesM),
			obstacles:
				from === undefined || heightM === undefined
					? []
					: [
							{
								...{ name: 'What you named', kind: 'building', lengthM: 10, heightM },
								distanceKm: from / 1000
							}
						]
		};
		try {
			return { question, ...possibleLink(question) };
		} catch (error) {
			if (error instanceof OutOfRangeError) return 'These places are too near or too far apart.';
			throw error;
		}
	});
	type LinkPlace = Parameters<typeof possibleLink>[0]['places']['A'];

	let locating = $state(false);
	let notLocated: string | undefined = $state();
	const mayLocate = typeof navigator !== 'undefined' && 'geolocation' in navigator;
	function here(): void {
		locating = true;
		notLocated = undefined;
		navigator.geolocation.getCurrentPosition(
			({ coords }) => {
				draft.values.a = `${coords.latitude.toFixed(6)}, ${coords.longitude.toFixed(6)}`;
				locating = false;
			},
			() => {
				notLocated = 'This device does not say where it is: type the place.';
				locating = false;
			},
			{ enableHighAccuracy: true, timeout: 15_000 }
		);
	}
</script>

<div class="grid gap-6 lg:grid-cols-[minmax(0,26rem)_minmax(0,1fr)]">
	<form class="flex min-w-0 flex-col gap-4" onsubmit={(event) => event.preventDefault()} novalidate>
		<TextField
			label="Place A"
			name="a"
			unit="latitude, longitude"
			bind:value={draft.values.a}
			error={problems.a}
			hint="As a map gives it, in degrees or on the UTM grid"
		/>
		{#if mayLocate}
			<div>
				<button type="button" class="min-h-11 text-sm underline" disabled={locating} onclick={here}
					>{locating ? 'Looking where you are …' : 'A is where I stand'}</button
				>
				{#if notLocated}<p class="text-quiet text-sm">{notLocated}</p>{/if}
			</div>
		{/if}
		<TextField
			label="Place B"
			name="b"
			unit="latitude, longitude"
			bind:value={draft.values.b}
			error={problems.b}
		/>
		<a class="inline-flex min-h-11 items-center self-start text-sm underline" href={resolve('/map')}
			>Pick on the map</a
		>
		<div class="grid grid-cols-2 gap-4">
			<TextField
				label="Height at A"
				quantity="m"
				name="heightA"
				bind:value={draft.values.heightA}
				error={problems.heightA}
			/>
			<TextField
				label="Height at B"
				quantity="m"
				name="heightB"
				bind:value={draft.values.heightB}
				error={problems.heightB}
			/>
			<TextField
				label="Trees between"
				quantity="m"
				unit="high"
				name="treesM"
				bind:value={draft.values.treesM}
				error={problems.treesM}
			/>
			<TextField
				label="EIRP limit there"
				unit="dBm"
				numeric
				name="eirpDbm"
				hint="As local rules have it"
				bind:value={draft.values.eirpDbm}
				error={problems.eirpDbm}
			/>
		</div>
		{#if part}
			<div class="grid grid-cols-[minmax(0,2fr)_minmax(0,1fr)] gap-4">
				<SelectField
					label="Radio at both"
					name="radio"
					bind:value={() => part.code, (code) => (draft.values.radio = code)}
					options={usable.map(({ code, name }) => ({ value: code, label: name }))}
				/>
				<SelectField
					label="Channel"
					unit="MHz"
					name="widthMhz"
					bind:value={() => String(widthMhz), (width) => (draft.values.widthMhz = width)}
					options={part.channelWidthsMhz.map((width) => ({
						value: String(width),
						label: String(width)
					}))}
				/>
			</div>
		{/if}
		<Fold title="Something in the way, rain and reserve">
			<div class="grid grid-cols-2 gap-4 pt-2">
				<TextField
					label="Something stands"
					quantity="m"
					unit="from A"
					name="inTheWay"
					bind:value={draft.values.inTheWay}
					error={problems.inTheWay}
				/>
				<TextField
					label="It is"
					quantity="m"
					unit="high"
					name="inTheWayM"
					bind:value={draft.values.inTheWayM}
					error={problems.inTheWayM}
				/>
				<TextField
					label="Rain rate"
					unit="mm/h, 0.01 %"
					numeric
					name="rainMmH"
					bind:value={draft.values.rainMmH}
					error={problems.rainMmH}
				/>
				<TextField
					label="Wanted"
					unit="% of the year"
					numeric
					name="targetPercent"
					bind:value={draft.values.targetPercent}
					error={problems.targetPercent}
				/>
				<TextField
					label="Reserve"
					unit="dB"
					numeric
					name="reserveDb"
					bind:value={draft.values.reserveDb}
					error={problems.reserveDb}
				/>
			</div>
		</Fold>
		<KeptTyping {draft} always />
	</form>

	<section aria-label="The answer" class="min-w-0" data-testid="possible-answer" aria-live="polite">
		{#if answer === undefined}
			<p class="text-quiet max-w-prose text-lg">
				Two places and how high the radios stand: the answer comes here, with the worst point
				between and how high one must go.
			</p>
		{:else if typeof answer === 'string'}
			<p class="text-quiet text-lg">{answer}</p>
		{:else}
			<h2 class="text-4xl {answer.verdict === 'no' ? 'trouble' : ''}">
				{VERDICT_WORDS[answer.verdict]}
			</h2>
			<p class="mt-1 text-lg">
				<span class="num">{measure(answer.pathKm, 'km', 2)}</span> between them{#if answer.used}:
					about
					<strong class="num">{dbm(answer.used.levelDbm)}</strong>, {answer.used.modulation.name},
					<strong class="num">{fixed(answer.rateMbitS, 0)} Mbit/s</strong> for both ways together{/if}.
			</p>
			{#if answer.doubts.length}
				<ul class="border-line mt-3 border-t">
					{#each answer.doubts as doubt (doubt.code)}
						<li class="border-line border-b py-2">
							<span aria-hidden="true">◇</span>
							{doubtText(doubt)}
						</li>
					{/each}
				</ul>
			{/if}
			{#if answer.needed}
				<p class="mt-3 font-semibold" data-testid="how-high">
					{measure(answer.needed.bothHigherM, 'm', 1)} higher at both clears it; alone, A would need
					{measure(answer.needed.aloneAglM.A, 'm', 1)} above ground, B
					{measure(answer.needed.aloneAglM.B, 'm', 1)}.
				</p>
			{/if}
			{#if known?.said}<p class="text-quiet mt-2 text-sm">{known.said}</p>{/if}
			{#if answer.check}<ProfileLook check={answer.check} from="A" />{/if}
			<dl class="mt-4 grid grid-cols-[auto_1fr] gap-x-6 gap-y-1">
				<dt class="text-quiet">From A, look</dt>
				<dd class="num">
					{bearing(answer.bearingDeg.A, 1)} true, {degrees(answer.tiltDeg.A, 1, true)}
				</dd>
				<dt class="text-quiet">From B, look</dt>
				<dd class="num">
					{bearing(answer.bearingDeg.B, 1)} true, {degrees(answer.tiltDeg.B, 1, true)}
				</dd>
				{#if answer.check}
					<dt class="text-quiet">What stands in the way takes</dt>
					<dd class="num">{fixed(answer.obstructionDb, 1)} dB</dd>
				{/if}
				<dt class="text-quiet">Margin, slowest modulation</dt>
				<dd class="num">{fixed(answer.margins[0]!.marginDb, 1)} dB</dd>
				{#if answer.rain}
					<dt class="text-quiet">Available in rain</dt>
					<dd class="num">{rainText(answer.rain)} of the year</dd>
				{/if}
			</dl>
			{#if mayPlan && answer.verdict !== 'no'}
				<MakeLink {answer} question={answer.question} />
			{/if}
			<p class="text-quiet mt-4 max-w-prose text-sm">
				A roof is work at height: an anchor, somebody who knows you are up there, no wind and no
				lightning. What is put on it wants earthing by a licensed person, as local rules have it.
			</p>
		{/if}
	</section>
</div>
