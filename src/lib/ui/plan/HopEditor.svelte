<script lang="ts">
	import { Tabs } from 'bits-ui';
	import { tick, untrack } from 'svelte';
	import type { Catalogue } from '#core/catalogue/parts';
	import { ENDS, type End } from '#core/ends';
	import type { NeighbourCarrier } from '#core/frequency/siteConflicts';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import TextField from '../form/TextField.svelte';
	import type { LivePlan } from './compute';
	import { providePlanEditor, type PlanEditor } from './editor.svelte';
	import {
		draftValuesOf,
		emptyHopForm,
		hopFormOf,
		hopInputOf,
		type HopForm,
		type PickedSite,
		type SavedHop
	} from './planForm';
	import type { PlanReader } from './planReader';
	import PlantedFaults from './PlantedFaults.svelte';
	import PlanVerdict from './PlanVerdict.svelte';
	import { SHEETS, sheetOf, type SheetId } from './sheets';
	import AvailabilitySheet from './tabs/AvailabilitySheet.svelte';
	import ChannelSheet from './tabs/ChannelSheet.svelte';
	import EndsSheet from './tabs/EndsSheet.svelte';
	import LevelsSheet from './tabs/LevelsSheet.svelte';
	import LooksSheet from './tabs/LooksSheet.svelte';
	import PartsSheet from './tabs/PartsSheet.svelte';
	import PathSheet from './tabs/PathSheet.svelte';
	import PointingSheet from './tabs/PointingSheet.svelte';
	import ReviewSheet from './tabs/ReviewSheet.svelte';
	import Tick from '../form/Tick.svelte';

	interface Props {
		hop?: SavedHop;
		parts: Catalogue;
		neighbours?: readonly NeighbourCarrier[];
		today: string;
		onsaved: (hop: SavedHop) => void;
		/** Told whenever the form differs from what is saved. */
		onchange?: (unsaved: boolean) => void;
	}

	let { hop, parts, neighbours = [], today, onsaved, onchange }: Props = $props();
	const start = untrack(() => hop);
	const savedForm: HopForm = start ? hopFormOf(start) : untrack(() => emptyHopForm(today, parts));
	const draft = new Draft(`hop-${start ? `${start.id}-${start.version}` : 'new'}`, savedForm);
	let sites: Record<End, PickedSite | undefined> = $state({
		A: start?.sites.A,
		B: start?.sites.B
	});
	const saving = new Saving();
	let savedText = $state(JSON.stringify(savedForm));
	const unsaved = $derived(JSON.stringify(draft.values) !== savedText);
	$effect(() => onchange?.(unsaved));
	let sheet: SheetId = $state('ends');

	// A restored draft knows its sites by id only.
	$effect(() => {
		for (const end of ENDS) {
			const id = draft.values[end === 'A' ? 'siteAId' : 'siteBId'];
			if (id && untrack(() => sites[end]?.id) !== id) {
				void callApi<PickedSite>('GET', `/sites/${id}`).then(
					(site) => (sites[end] = site),
					() => undefined
				);
			}
		}
	});

	let live: LivePlan | undefined = $state.raw();
	let reader: PlanReader | undefined = $state.raw();
	$effect(() => {
		let stopped = false;
		let made: PlanReader | undefined;
		void import('./planReader').then((loaded) => {
			if (stopped) return;
			made = new loaded.PlanReader(
				untrack(() => parts),
				(answer) => (live = answer)
			);
			reader = made;
		});
		return () => {
			stopped = true;
			made?.stop();
			reader = undefined;
		};
	});
	$effect(() => {
		const values = draftValuesOf($state.snapshot(draft.values));
		const { A, B } = $state.snapshot(sites);
		if (!A || !B) live = { kind: 'incomplete', what: 'Choose both sites.' };
		else if (!values) {
			live = { kind: 'incomplete', what: 'A number or the day is missing or is none.' };
		} else {
			reader?.ask({ name: draft.values.name, draft: values, sites: { A, B }, neighbours });
		}
	});

	const computed = $derived(live?.kind === 'computed' ? live : undefined);
	const plan = $derived(computed?.result.kind === 'plan' ? computed.result.plan : undefined);
	const findings = $derived(computed?.review.findings ?? []);

	const editor: PlanEditor = {
		draft,
		get sites() {
			return sites;
		},
		get parts() {
			return parts;
		},
		get neighbours() {
			return neighbours;
		},
		get hopId() {
			return hop?.id;
		},
		get live() {
			return live;
		},
		get plan() {
			return plan;
		},
		get input() {
			return computed?.input;
		},
		get review() {
			return computed?.review;
		},
		/** A finding of the live plan stands at its field until the server says otherwise. */
		problemAt: (field) =>
			saving.errorAt(field) ??
			findings.find((finding) => `plan.${finding.field}` === field && finding.severity === 'error')
				?.message,
		pickSite: (end, site) => {
			sites[end] = site;
			draft.values[end === 'A' ? 'siteAId' : 'siteBId'] = site.id;
		},
		goTo: (field) => void goTo(field)
	};
	providePlanEditor(editor);

	async function goTo(field: string): Promise<void> {
		const holder = sheetOf(field);
		if (!holder) return;
		sheet = holder;
		await tick();
		const control = document.getElementById(`field-plan-${field.replaceAll('.', '-')}`);
		control?.scrollIntoView({ block: 'center' });
		control?.focus();
	}

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const sent = JSON.stringify(draft.values);
		let answer: SavedHop | undefined;
		const saved = await saving.run(async () => {
			const body = hopInputOf($state.snapshot(draft.values), hop?.version);
			answer = hop
				? await callApi<SavedHop>('PUT', `/hops/${hop.id}`, body)
				: await callApi<SavedHop>('POST', '/hops', body);
		});
		if (!saved || !answer) {
			// The first field that was refused is brought before the eyes.
			const field = saving.problems[0]?.field.replace(/^plan\./, '');
			if (field && sheetOf(field)) sheet = sheetOf(field)!;
			else if (field?.startsWith('site')) sheet = 'ends';
			return;
		}
		savedText = sent;
		draft.clear();
		onsaved(answer);
	}
	const elsewhere = $derived(
		saving.others(['name']).filter((p) => sheetOf(p.field.replace(/^plan\./, '')) !== sheet)
	);
</script>

<form class="flex flex-col gap-5" onsubmit={save} novalidate>
	{#if draft.restored}
		<Notice>What you typed earlier and did not save was put back.</Notice>
	{/if}
	<div class="flex flex-wrap items-end gap-x-5 gap-y-3">
		<div class="min-w-64 flex-1">
			<TextField
				label="Name of the hop"
				name="name"
				bind:value={draft.values.name}
				error={saving.errorAt('name')}
			/>
		</div>
		<Tick bind:checked={draft.values.practice}>
			<span>
				Practice hop, with a simulated meter
				{#if saving.errorAt('practice')}
					<span class="trouble block text-sm font-semibold" role="alert">
						{saving.errorAt('practice')}
					</span>
				{/if}
			</span>
		</Tick>
		{#if draft.values.practice}
			<PlantedFaults
				bind:value={draft.values.plantedFault}
				configuration={draft.values.configuration.kind}
				error={saving.errorAt('plantedFault')}
			/>
		{/if}
		<button class="btn btn-main" disabled={saving.busy}>
			{saving.busy ? 'Saving …' : hop ? 'Save the plan' : 'Save the new hop'}
		</button>
		<span class="text-quiet basis-full text-sm md:basis-auto" role="status">
			{unsaved ? 'Not saved yet; kept on this device.' : hop ? 'Saved.' : ''}
		</span>
	</div>
	{#if saving.message}
		<Notice kind="trouble">
			<p>{saving.message}</p>
			{#if elsewhere.length}
				<ul>
					{#each elsewhere as problem (problem.field)}<li>{problem.message}</li>{/each}
				</ul>
			{/if}
		</Notice>
	{/if}
	<PlanVerdict {editor} onreview={() => (sheet = 'review')} />

	<Tabs.Root bind:value={sheet}>
		<Tabs.List
			class="border-line mb-5 flex gap-x-1 overflow-x-auto border-b"
			aria-label="Sheets of the plan"
		>
			{#each SHEETS as { id, label } (id)}
				<Tabs.Trigger
					value={id}
					class="data-[state=active]:border-ink flex min-h-12 items-center border-b-4 border-transparent px-3 font-semibold whitespace-nowrap"
					>{label}</Tabs.Trigger
				>
			{/each}
		</Tabs.List>
		<Tabs.Content value="ends"
			>{#if sheet === 'ends'}<EndsSheet />{/if}</Tabs.Content
		>
		<Tabs.Content value="channel"
			>{#if sheet === 'channel'}<ChannelSheet />{/if}</Tabs.Content
		>
		<Tabs.Content value="path"
			>{#if sheet === 'path'}<PathSheet />{/if}</Tabs.Content
		>
		<Tabs.Content value="levels"
			>{#if sheet === 'levels'}<LevelsSheet />{/if}</Tabs.Content
		>
		<Tabs.Content value="pointing"
			>{#if sheet === 'pointing'}<PointingSheet />{/if}</Tabs.Content
		>
		<Tabs.Content value="availability"
			>{#if sheet === 'availability'}<AvailabilitySheet />{/if}</Tabs.Content
		>
		<Tabs.Content value="looks"
			>{#if sheet === 'looks'}<LooksSheet />{/if}</Tabs.Content
		>
		<Tabs.Content value="parts"
			>{#if sheet === 'parts'}<PartsSheet />{/if}</Tabs.Content
		>
		<Tabs.Content value="review"
			>{#if sheet === 'review'}<ReviewSheet />{/if}</Tabs.Content
		>
	</Tabs.Root>
</form>
