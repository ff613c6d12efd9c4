<script lang="ts">
	import { tick, untrack } from 'svelte';
	import { slowedBy } from '#core/hub/hubChanges';
	import type { HubPlan } from '#core/hub/hubFigures';
	import type { HubPlace } from '#core/hub/hubInput';
	import type { UnitChoice } from '#core/hub/hubPlan';
	import { isProfileBetween, type SampledProfile } from '#core/path/samplePath';
	import HubWorker from '$lib/workers/hub.worker?worker';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import Download from '../form/Download.svelte';
	import Fold from '../form/Fold.svelte';
	import { pickedFile } from '../form/pickedFile';
	import KeptTyping from '../form/KeptTyping.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import { bearing, degrees, fixed } from '../format';
	import { NewestAnswer } from '../newestAnswer';
	import SitePicker from '../plan/SitePicker.svelte';
	import type { PickedSite } from '../plan/planForm';
	import HubAbove from './HubAbove.svelte';
	import {
		emptyHubForm,
		hubBodyOf,
		hubDraftOf,
		hubFormOf,
		newTerminal,
		newUnit,
		withFile,
		type HubFile,
		type HubParts,
		type SavedHub
	} from './hubForm';
	import type { HubAnswer, HubQuestion } from './hubWork';
	import TerminalFields from './TerminalFields.svelte';
	import TerminalFigures from './TerminalFigures.svelte';
	import TerminalList from './TerminalList.svelte';
	import UnitFields from './UnitFields.svelte';
	import WindowView from './WindowView.svelte';

	interface Props {
		hub?: SavedHub;
		parts: HubParts;
		mayEdit: boolean;
		onsaved?: (hub: SavedHub) => void;
	}

	let { hub, parts, mayEdit, onsaved }: Props = $props();
	const start = untrack(() => hub);
	const draft = new Draft(
		`hub-${start?.id ?? 'new'}`,
		start ? hubFormOf(start) : untrack(() => emptyHubForm(parts))
	);
	const saving = new Saving();
	let site: PickedSite | undefined = $state(start?.site);
	let plan: HubPlan | undefined = $state.raw();
	let choices: UnitChoice[] | undefined = $state.raw();
	let notYet: string | undefined = $state();
	let aiming = $state(false);
	let aimed: string | undefined = $state();
	let placing = $state(false);
	let chosen: string | undefined = $state();

	// A restored draft knows its site by its id only.
	$effect(() => {
		const { siteId } = draft.values;
		if (!siteId || untrack(() => site?.id) === siteId) return;
		void callApi<PickedSite>('GET', `/sites/${siteId}`).then(
			(found) => (site = found),
			() => undefined
		);
	});

	const placeOf = ({ name, latitudeDeg, longitudeDeg, groundAmslM }: PickedSite): HubPlace => ({
		...{ name, latitudeDeg, longitudeDeg, groundAmslM }
	});
	/** As it was saved: what a change takes from whom is told against it. */
	let before: HubPlan | undefined = $state.raw();
	const slowed = $derived(before && plan && draft.changed ? slowedBy(before, plan) : []);

	let live: NewestAnswer<HubQuestion, HubAnswer> | undefined = $state.raw();
	let slow: NewestAnswer<HubQuestion, HubAnswer> | undefined;
	$effect(() => {
		const planner = new NewestAnswer<HubQuestion, HubAnswer>(new HubWorker(), (answer) => {
			if (answer.kind === 'plan') [plan, notYet] = [answer.plan, undefined];
			else if (answer.kind === 'not-yet') notYet = answer.what;
		});
		// What takes seconds has a worker of its own: dragging goes on meanwhile.
		const aimer = new NewestAnswer<HubQuestion, HubAnswer>(new HubWorker(), (answer) => {
			aiming = false;
			if (answer.kind === 'aims') take(answer);
			else if (answer.kind === 'plan') before = answer.plan;
			else if (answer.kind === 'choices') choices = answer.choices;
			else if (answer.kind === 'not-yet') notYet = answer.what;
		});
		live = planner;
		slow = aimer;
		const saved = start && hubDraftOf(hubFormOf(start));
		if (saved) aimer.ask({ kind: 'plan', draft: saved, parts, place: placeOf(start.site) });
		return () => {
			planner.stop();
			aimer.stop();
		};
	});
	function question(kind: HubQuestion['kind']): HubQuestion | string {
		const values = hubDraftOf($state.snapshot(draft.values));
		const place = $state.snapshot(site);
		if (!place) return 'Choose the site at which the hub stands.';
		if (!values) return 'A number is missing or is none.';
		return { kind, draft: values, parts, place: placeOf(place) };
	}
	$effect(() => {
		const asked = question('plan');
		if (typeof asked === 'string') notYet = asked;
		else live?.ask(asked);
	});
	function askSlow(kind: 'aims' | 'choices'): void {
		const asked = question(kind);
		if (typeof asked === 'string') {
			notYet = asked;
			return;
		}
		aiming = true;
		aimed = undefined;
		slow?.ask(asked);
	}
	function take({ aims, draft: of }: Extract<HubAnswer, { kind: 'aims' }>): void {
		aims.units.forEach(({ aim }, i) => {
			const unit = draft.values.units.find(({ id }) => id === of.units[i]?.id);
			if (!unit) return;
			unit.headingDeg = String(Number(aim.headingDeg.toFixed(2)));
			unit.tiltDeg = String(Number(aim.tiltDeg.toFixed(2)));
		});
		const left = aims.unitOf.filter((unit) => unit === null).length;
		aimed = [
			`Aimed: the terminal nearest to an edge lies ${fixed(aims.marginDeg, 1)}° inside.`,
			...(left ? [`${left} within no window.`] : []),
			aims.proved ? 'No other aim does better.' : 'The search ended early: a better aim may exist.'
		].join(' ');
	}

	const headings = $derived(
		draft.values.units.map(({ headingDeg }) =>
			headingDeg.trim() === '' || Number.isNaN(Number(headingDeg)) ? undefined : Number(headingDeg)
		)
	);
	const unitAt = $derived(draft.values.units.findIndex(({ id }) => id === chosen));
	const terminalAt = $derived(draft.values.terminals.findIndex(({ id }) => id === chosen));
	const shownTerminal = $derived(plan?.terminals.find(({ terminal }) => terminal.id === chosen));
	const shownUnit = $derived(
		plan?.units.find(({ unit }) => unit.id === (shownTerminal?.served?.unit.id ?? chosen)) ??
			plan?.units[0]
	);
	const served = $derived(plan?.terminals.filter((one) => one.served).length ?? 0);
	const least = $derived(
		Math.min(
			...(plan?.units.flatMap(({ marginDeg }) => (marginDeg === null ? [] : [marginDeg])) ?? [])
		)
	);
	const problemAt = (field: string): string | undefined =>
		saving.errorAt(field) ??
		plan?.findings.find((one) => one.field === field && one.severity === 'error')?.message;

	/** Opens what holds a field and goes to it. */
	async function goTo(field: string): Promise<void> {
		const [list, at] = field.split('.');
		if (list === 'units' || list === 'terminals') {
			chosen = draft.values[list][Number(at)]?.id ?? chosen;
		}
		await tick();
		const control = document.getElementById(`field-${field.replaceAll('.', '-')}`);
		const shown = control ?? document.getElementById('hub-chosen');
		shown?.scrollIntoView({ block: 'center' });
		control?.focus();
	}

	function addUnit(): void {
		const heading = Number(draft.values.units.at(-1)?.headingDeg ?? 0);
		const unit = newUnit(parts, draft.values.units, String((heading + 90) % 360));
		draft.values.units.push(unit);
		chosen = unit.id;
	}
	function placeTerminal(place: { latitudeDeg: number; longitudeDeg: number }): void {
		const ground = { ...place, groundAmslM: site?.groundAmslM ?? 0 };
		const terminal = newTerminal(parts, draft.values.terminals, ground);
		draft.values.terminals.push(terminal);
		placing = false;
		chosen = terminal.id;
		void takeGround([draft.values.terminals.length - 1]);
	}
	function remove(): void {
		if (unitAt >= 0) draft.values.units.splice(unitAt, 1);
		else if (terminalAt >= 0) draft.values.terminals.splice(terminalAt, 1);
		chosen = undefined;
	}

	/** Terminals whose ground nobody has taken, or between other places than they stand at now. */
	const groundless = $derived.by(() => {
		const values = hubDraftOf($state.snapshot(draft.values));
		if (!values || !site) return [];
		const place = $state.snapshot(site);
		return values.terminals.flatMap((terminal, i) =>
			terminal.profile && isProfileBetween(terminal.profile, place, terminal) ? [] : [i]
		);
	});
	let takingGround: number | undefined = $state();
	let groundSaid: string | undefined = $state();
	async function takeGround(which: readonly number[]): Promise<void> {
		const hubPlace = $state.snapshot(site);
		if (!hubPlace) return;
		groundSaid = undefined;
		let missing = 0;
		for (const [done, i] of which.entries()) {
			takingGround = which.length - done;
			const values = hubDraftOf($state.snapshot(draft.values));
			const terminal = values?.terminals[i];
			if (!terminal) continue;
			const { latitudeDeg, longitudeDeg } = terminal;
			try {
				const found = await callApi<SampledProfile>('POST', '/terrain/profile', {
					a: { latitudeDeg: hubPlace.latitudeDeg, longitudeDeg: hubPlace.longitudeDeg },
					b: { latitudeDeg, longitudeDeg },
					stepM: 10
				});
				const form = draft.values.terminals.find(({ id }) => id === terminal.id);
				if (!form) continue;
				if (found.kind === 'no-terrain') missing++;
				else {
					form.profileJson = JSON.stringify(found.profile);
					form.groundAmslM = String(found.profile.groundsAmslM.at(-1));
				}
			} catch (error) {
				groundSaid = error instanceof Error ? error.message : 'The ground could not be taken.';
				break;
			}
		}
		takingGround = undefined;
		if (missing) groundSaid = `No terrain is kept of the way to ${missing} of them.`;
	}

	const MOST_FILE_BYTES = 3_500_000;
	let fileSaid: string | undefined = $state();
	const reading = new Saving();
	/** What a file says is put into the form; it is kept when the hub is saved. */
	async function readFile(event: Event): Promise<void> {
		const picked = pickedFile(event, MOST_FILE_BYTES);
		fileSaid = undefined;
		if (!picked) return;
		if ('problem' in picked) {
			reading.message = picked.problem;
			return;
		}
		const { file } = picked;
		const format = /\.(geojson|json)$/i.exec(file.name)?.[1]?.toLowerCase() ?? 'csv';
		await reading.run(async () => {
			const read = await callApi<HubFile>('POST', '/hubs/reading', {
				format,
				text: await file.text()
			});
			const { form, added, changed } = withFile($state.snapshot(draft.values), read);
			draft.values = form;
			fileSaid = `${added} added, ${changed} changed${read.plan ? ', units taken from the file' : ''}. Nothing is saved yet.`;
		});
		if (reading.problems[0]) reading.message = reading.problems[0].message;
	}

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const sent = $state.snapshot(draft.values);
		let answer: SavedHub | undefined;
		const saved = await saving.run(async () => {
			const body = hubBodyOf(sent, hub?.version);
			answer = hub
				? await callApi<SavedHub>('PUT', `/hubs/${hub.id}`, body)
				: await callApi<SavedHub>('POST', '/hubs', body);
		});
		if (!saved || !answer) {
			const field = saving.problems[0]?.field;
			if (field) await goTo(field);
			return;
		}
		if (hub) draft.savedAs(sent);
		else draft.clear();
		before = plan;
		onsaved?.(answer);
	}
	const WORDS = { error: '▲', warning: '◇', note: '·' } as const;
	const asChosen = $derived(
		unitAt >= 0
			? draft.values.units[unitAt]!.name
			: terminalAt >= 0
				? draft.values.terminals[terminalAt]!.name
				: undefined
	);
</script>

<form class="flex flex-col gap-4" onsubmit={save} novalidate {@attach saving.form}>
	{#if mayEdit}
		<SavingTrouble {saving} elsewhere={saving.others([])} />
	{/if}
	<div class="flex flex-wrap items-center gap-x-5 gap-y-2" data-testid="hub-verdict">
		{#if plan}
			<p class="text-lg">
				<strong class="num">{served} of {plan.terminals.length}</strong> terminals served{#if served > 0},
					the nearest to an edge <strong class="num">{degrees(least, 1)}</strong> inside{/if}.
			</p>
		{:else}
			<p class="text-quiet text-lg">{notYet ?? 'Working it out …'}</p>
		{/if}
		{#if mayEdit}
			<KeptTyping {draft} always />
			<div class="ml-auto flex flex-wrap gap-3">
				<button
					type="button"
					class="btn"
					disabled={aiming || !draft.values.units.length || !draft.values.terminals.length}
					onclick={() => askSlow('aims')}>{aiming ? 'Aiming …' : 'Aim the units'}</button
				>
				<button class="btn btn-main" disabled={saving.busy}
					>{saving.busy ? 'Saving …' : hub ? 'Save' : 'Save the new hub'}</button
				>
			</div>
		{/if}
	</div>
	{#if plan && notYet}<Notice>{notYet} The figures are those before.</Notice>{/if}

	<div class="grid gap-6 lg:grid-cols-[minmax(0,1fr)_minmax(0,24rem)]">
		<div class="flex min-w-0 flex-col gap-4">
			{#if plan && site}
				<HubAbove
					{plan}
					hub={site}
					{headings}
					{chosen}
					{mayEdit}
					{placing}
					onchoose={(id) => (chosen = id)}
					onturn={(unit, heading) => (draft.values.units[unit]!.headingDeg = String(heading))}
					onplace={placeTerminal}
				/>
			{:else}
				<div
					class="bg-land mx-auto grid aspect-square w-full max-w-[532px] place-items-center rounded-full"
				>
					<p class="text-quiet max-w-64 text-center">{notYet ?? 'Working it out …'}</p>
				</div>
			{/if}
			{#if mayEdit}
				<div class="flex flex-wrap gap-3">
					<button
						type="button"
						class="btn"
						disabled={!site}
						aria-pressed={placing}
						onclick={() => (placing = !placing)}
						>{placing ? 'Press where it stands …' : 'Add a terminal'}</button
					>
					{#if placing}
						<button
							type="button"
							class="btn"
							onclick={() =>
								placeTerminal({ latitudeDeg: site!.latitudeDeg, longitudeDeg: site!.longitudeDeg })}
							>Type its place instead</button
						>
					{/if}
					<button
						type="button"
						class="btn"
						disabled={draft.values.units.length >= 4}
						onclick={addUnit}>Add a unit</button
					>
					{#if groundless.length > 0}
						<button
							type="button"
							class="btn"
							disabled={takingGround !== undefined}
							onclick={() => void takeGround(groundless)}
							>{takingGround === undefined
								? `Take the ground to ${groundless.length}`
								: `${takingGround} to go …`}</button
						>
					{/if}
				</div>
				{#if groundSaid}<Notice kind="trouble">{groundSaid}</Notice>{/if}
			{/if}
			{#if plan && shownUnit}
				<WindowView
					{plan}
					unit={shownUnit}
					number={plan.units.indexOf(shownUnit) + 1}
					{chosen}
					onchoose={(id) => (chosen = id)}
				/>
			{/if}
			{#if plan}
				<TerminalList
					{plan}
					{chosen}
					onchoose={(id) => {
						chosen = id;
						document.getElementById('hub-chosen')?.scrollIntoView({ block: 'nearest' });
					}}
				/>
			{/if}
		</div>

		<div class="flex min-w-0 flex-col gap-5">
			{#if aimed}
				<p class="border-ink border-l-4 pl-3" role="status" data-testid="aimed">{aimed}</p>
			{/if}
			<section id="hub-chosen" aria-label="What is chosen" class="flex flex-col gap-3">
				{#if asChosen === undefined}
					<h2>Units</h2>
					<ul class="border-line border-t">
						{#each draft.values.units as unit, i (unit.id)}
							{@const figures = plan?.units.find((one) => one.unit.id === unit.id)}
							<li class="border-line border-b">
								<button
									type="button"
									class="flex min-h-14 w-full items-center gap-3 py-2 text-left"
									onclick={() => (chosen = unit.id)}
								>
									<span class="num border-ink grid h-7 w-7 place-items-center rounded-full border-2"
										>{i + 1}</span
									>
									<span class="grow">
										<strong>{unit.name}</strong>
										{#if figures}
											<span class="text-quiet num block text-sm"
												>{bearing(figures.unit.headingDeg, 1)}, tilt {degrees(
													figures.unit.tiltDeg,
													1,
													true
												)}, {figures.unit.frequencyGhz} GHz</span
											>
											<span class="num block text-sm"
												>{figures.terminals.length}
												{figures.terminals.length === 1 ? 'terminal' : 'terminals'},
												<span
													class={figures.airTime > figures.airTimeThere ? 'trouble font-bold' : ''}
													>{fixed((100 * figures.airTime) / figures.airTimeThere, 0)} % of its air promised</span
												></span
											>
										{/if}
									</span>
								</button>
							</li>
						{/each}
					</ul>
				{:else}
					<div class="flex flex-wrap items-center gap-x-4">
						<h2 class="grow">{asChosen}</h2>
						<button
							type="button"
							class="min-h-11 text-sm underline"
							onclick={() => (chosen = undefined)}>All units</button
						>
						{#if mayEdit}
							<button type="button" class="min-h-11 text-sm underline" onclick={remove}
								>Take it away</button
							>
						{/if}
					</div>
					{#if shownTerminal && site}
						<TerminalFigures plan={shownTerminal} place={site} unit={shownUnit?.unit} />
					{/if}
					{#if mayEdit && unitAt >= 0}
						<UnitFields bind:unit={draft.values.units[unitAt]!} at={unitAt} {parts} {problemAt} />
					{:else if mayEdit && terminalAt >= 0}
						<TerminalFields
							bind:terminal={draft.values.terminals[terminalAt]!}
							at={terminalAt}
							{parts}
							units={draft.values.units}
							{problemAt}
						/>
					{/if}
				{/if}
			</section>
			{#if slowed.length}
				<section aria-label="Whom this slows down">
					<h2 class="mb-1">Whom this slows down</h2>
					<ul class="border-line border-t text-sm" data-testid="slowed">
						{#each slowed as one (one.terminalId)}
							<li class="border-line border-b py-2"><strong>{one.name}</strong> {one.message}</li>
						{/each}
					</ul>
				</section>
			{/if}
			{#if plan?.findings.length}
				<section aria-label="Findings">
					<h2 class="mb-1">
						{plan.findings.length === 1 ? 'One thing' : `${plan.findings.length} things`} to look at
					</h2>
					<ul class="border-line border-t" data-testid="hub-findings">
						{#each plan.findings as finding (finding.code + finding.field)}
							<li class="border-line border-b">
								<button
									type="button"
									class="flex min-h-11 w-full gap-2 py-2 text-left text-sm {finding.severity ===
									'error'
										? 'trouble font-semibold'
										: ''}"
									onclick={() => void goTo(finding.field)}
									><span aria-hidden="true">{WORDS[finding.severity]}</span
									>{finding.message}</button
								>
							</li>
						{/each}
					</ul>
				</section>
			{/if}
			{#if mayEdit}
				<Fold title="The hub as a whole" open={!hub}>
					<div class="grid gap-4 pt-2 sm:grid-cols-2">
						<TextField
							label="Name of the hub"
							name="name"
							bind:value={draft.values.name}
							error={saving.errorAt('name')}
						/>
						<SitePicker
							label="Site"
							name="siteId"
							{site}
							error={saving.errorAt('siteId')}
							onpick={(picked) => {
								site = picked;
								draft.values.siteId = picked.id;
							}}
						/>
						<TextField
							label="Channel width"
							unit="MHz"
							numeric
							name="channelWidthMhz"
							bind:value={draft.values.channelWidthMhz}
							error={problemAt('channelWidthMhz')}
						/>
						<SelectField
							label="Polarization"
							name="polarization"
							bind:value={draft.values.polarization}
							options={[
								{ value: 'vertical', label: 'vertical' },
								{ value: 'horizontal', label: 'horizontal' }
							]}
						/>
						<TextField
							label="EIRP limit there"
							unit="dBm"
							numeric
							name="eirpLimitDbm"
							hint="As local rules have it"
							bind:value={draft.values.eirpLimitDbm}
							error={problemAt('eirpLimitDbm')}
						/>
						<TextField
							label="Where the limit stands"
							name="limitSource"
							bind:value={draft.values.limitSource}
							error={saving.errorAt('limitSource')}
						/>
						<TextField
							label="Rain rate"
							unit="mm/h, 0.01 %"
							numeric
							name="rainRateMmH"
							bind:value={draft.values.rainRateMmH}
							error={problemAt('rainRateMmH')}
						/>
						<TextField
							label="Availability wanted"
							unit="%"
							numeric
							name="targetPercent"
							bind:value={draft.values.targetPercent}
							error={problemAt('targetPercent')}
						/>
						<TextField
							label="Reserve in clear air"
							unit="dB"
							numeric
							name="reserveDb"
							bind:value={draft.values.reserveDb}
							error={problemAt('reserveDb')}
						/>
					</div>
				</Fold>
				<Fold title="Files">
					<div class="flex flex-col items-start gap-3 pt-2">
						<label class="btn cursor-pointer">
							Take terminals from a file
							<input
								type="file"
								class="sr-only"
								accept=".csv,.geojson,.json"
								onchange={(event) => void readFile(event)}
							/>
						</label>
						<p class="text-quiet text-sm">
							CSV, GeoJSON or JSON. A terminal of a name that is here is changed, others are added.
						</p>
						{#if fileSaid}<p class="text-sm" role="status" data-testid="file-said">
								{fileSaid}
							</p>{/if}
						{#if reading.message}<Notice kind="trouble">{reading.message}</Notice>{/if}
						{#if hub}
							<p class="text-sm font-semibold">As it is saved:</p>
							{#each [['csv', 'Terminals as CSV'], ['geojson', 'All as GeoJSON'], ['json', 'All as JSON']] as const as [format, label] (format)}
								<Download href="/api/v1/hubs/{hub.id}/export?format={format}" {label} />
							{/each}
						{/if}
					</div>
				</Fold>
				<Fold title="How many units?">
					<div class="flex flex-col gap-3 pt-2">
						<p class="text-sm">
							What one to four units like {draft.values.units[0]?.name ?? 'the first'} would hold, each
							turned as is best.
						</p>
						<div>
							<button type="button" class="btn" disabled={aiming} onclick={() => askSlow('choices')}
								>{aiming ? 'Trying …' : 'Try one to four'}</button
							>
						</div>
						{#if choices}
							<ul class="num text-sm" data-testid="unit-choices">
								{#each choices as choice (choice.units)}
									<li>
										{choice.units}
										{choice.units === 1 ? 'unit' : 'units'}: {choice.left
											? `${choice.left} in no window`
											: `all inside by ${fixed(choice.marginDeg, 1)}°`}{choice.proved
											? ''
											: ', or better'}
									</li>
								{/each}
							</ul>
						{/if}
					</div>
				</Fold>
			{/if}
		</div>
	</div>
</form>
