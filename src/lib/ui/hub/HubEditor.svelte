<script lang="ts">
	import { tick, untrack } from 'svelte';
	import { slowedBy } from '#core/hub/hubChanges';
	import type { HubAims } from '#core/hub/aimHub';
	import type { HubDraft } from '#core/hub/hubDraft';
	import { MOST_UNITS, type HubPlace } from '#core/hub/hubInput';
	import { isProfileBetween } from '#core/path/samplePath';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import Fold from '../form/Fold.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import { degrees, fixed } from '../format';
	import type { PickedSite } from '../plan/planForm';
	import HubAbove from './HubAbove.svelte';
	import {
		emptyHubForm,
		headingOf,
		hubBodyOf,
		hubDraftOf,
		hubFormOf,
		newTerminal,
		newUnit,
		withFile,
		type HubForm,
		type HubParts,
		type SavedHub
	} from './hubForm';
	import HubFiles from './HubFiles.svelte';
	import HubFindings from './HubFindings.svelte';
	import { GroundTaker } from './hubGround.svelte';
	import { HubReader } from './hubReader.svelte';
	import HubWhole from './HubWhole.svelte';
	import type { HubQuestion } from './hubWork';
	import TerminalFields from './TerminalFields.svelte';
	import TerminalFigures from './TerminalFigures.svelte';
	import TerminalList from './TerminalList.svelte';
	import UnitFields from './UnitFields.svelte';
	import UnitFigures from './UnitFigures.svelte';
	import UnitList from './UnitList.svelte';
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
	let aimed: string | undefined = $state();
	let placing = $state(false);
	let chosen: string | undefined = $state();
	let wholeOpen = $state(start === undefined);

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
	let reader: HubReader | undefined = $state.raw();
	const plan = $derived(reader?.plan);
	const slowed = $derived(
		reader?.saved && plan && draft.changed ? slowedBy(reader.saved, plan) : []
	);
	/** Why there is nothing to be worked out of what is typed. */
	const missing = $derived(
		!site
			? 'Choose the site at which the hub stands.'
			: !hubDraftOf($state.snapshot(draft.values))
				? 'A number is missing or is none.'
				: undefined
	);
	const notYet = $derived(missing ?? reader?.notYet);
	$effect(() => {
		const made = new HubReader(take);
		reader = made;
		if (start) rememberSaved(made, hubFormOf(start), start.site);
		return () => made.stop();
	});
	function questionOf(
		kind: HubQuestion['kind'],
		form: HubForm,
		at: PickedSite | undefined
	): HubQuestion | undefined {
		const values = hubDraftOf(form);
		return values && at ? { kind, draft: values, parts, place: placeOf(at) } : undefined;
	}
	function rememberSaved(to: HubReader, form: HubForm, at: PickedSite): void {
		const asked = questionOf('plan', form, at);
		if (asked) to.rememberSaved(asked);
	}
	$effect(() => {
		const asked = questionOf('plan', $state.snapshot(draft.values), $state.snapshot(site));
		if (asked) reader?.follow(asked);
	});
	function askFor(kind: 'aims' | 'choices'): void {
		const asked = questionOf(kind, $state.snapshot(draft.values), $state.snapshot(site));
		if (!asked) return;
		aimed = undefined;
		reader?.askFor(asked);
	}
	function take(aims: HubAims, of: HubDraft): void {
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
		draft.values.units.map((unit) => {
			const typed = headingOf(unit);
			return typed.trim() === '' || Number.isNaN(Number(typed)) ? undefined : Number(typed);
		})
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
		} else wholeOpen = true;
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
		const at = { ...place, groundAmslM: site?.groundAmslM ?? 0 };
		const terminal = newTerminal(parts, draft.values.terminals, at);
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
	const ground = new GroundTaker();
	async function takeGround(places: readonly number[]): Promise<void> {
		const hubPlace = $state.snapshot(site);
		const values = hubDraftOf($state.snapshot(draft.values));
		if (!hubPlace || !values) return;
		const wanted = places.flatMap((at) => values.terminals[at] ?? []);
		await ground.take(hubPlace, wanted, (id, profile) => {
			const form = draft.values.terminals.find((one) => one.id === id);
			if (!form) return;
			form.profileJson = JSON.stringify(profile);
			form.groundAmslM = String(profile.groundsAmslM.at(-1));
		});
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
		if (reader && site) rememberSaved(reader, sent, site);
		onsaved?.(answer);
	}
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
					disabled={reader?.busy ||
						missing !== undefined ||
						!draft.values.units.length ||
						!draft.values.terminals.length}
					onclick={() => askFor('aims')}>{reader?.busy ? 'Aiming …' : 'Aim the units'}</button
				>
				<button class="btn {!hub || draft.changed ? 'btn-main' : ''}" disabled={saving.busy}
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
						disabled={draft.values.units.length >= MOST_UNITS}
						onclick={addUnit}>Add a unit</button
					>
					{#if groundless.length > 0}
						<button
							type="button"
							class="btn"
							disabled={ground.left !== undefined}
							onclick={() => void takeGround(groundless)}
							>{ground.left === undefined
								? `Take ${groundless.length} ${groundless.length === 1 ? 'profile' : 'profiles'} from the terrain`
								: `${ground.left} to go …`}</button
						>
					{/if}
				</div>
				{#if ground.said}<Notice kind="trouble">{ground.said}</Notice>{/if}
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
					<UnitList units={draft.values.units} {plan} onchoose={(id) => (chosen = id)} />
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
						<TerminalFigures
							plan={shownTerminal}
							place={site}
							unit={shownUnit?.unit}
							reading={!mayEdit}
						/>
					{/if}
					{#if unitAt >= 0 && shownUnit && !mayEdit}
						<UnitFigures figures={shownUnit} />
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
			<HubFindings findings={plan?.findings ?? []} {slowed} ongo={(field) => void goTo(field)} />
			{#if mayEdit}
				<Fold title="The hub as a whole" bind:open={wholeOpen}>
					<HubWhole
						bind:form={draft.values}
						{site}
						{problemAt}
						onpick={(picked) => {
							site = picked;
							draft.values.siteId = picked.id;
						}}
					/>
				</Fold>
				<Fold title="Files">
					<HubFiles
						hubId={hub?.id}
						ontake={(file) => {
							const { form, ...counts } = withFile($state.snapshot(draft.values), file);
							draft.values = form;
							return counts;
						}}
					/>
				</Fold>
				<Fold title="How many units?">
					<div class="flex flex-col gap-3 pt-2">
						<p class="text-sm">
							What one to four units like {draft.values.units[0]?.name ?? 'the first'} would hold, each
							turned as is best.
						</p>
						<div>
							<button
								type="button"
								class="btn"
								disabled={reader?.busy}
								onclick={() => askFor('choices')}
								>{reader?.busy ? 'Trying …' : 'Try one to four'}</button
							>
						</div>
						{#if reader?.choices}
							<ul class="num text-sm" data-testid="unit-choices">
								{#each reader.choices as choice (choice.units)}
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
