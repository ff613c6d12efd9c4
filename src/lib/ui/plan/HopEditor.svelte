<script lang="ts">
	import { Tabs } from 'bits-ui';
	import { replaceState } from '$app/navigation';
	import { page } from '$app/state';
	import { tick, untrack } from 'svelte';
	import type { Catalogue } from '#core/catalogue/parts';
	import { ENDS, type End } from '#core/ends';
	import type { NeighbourCarrier } from '#core/frequency/siteConflicts';
	import { callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
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

	interface Props {
		hop?: SavedHop;
		parts: Catalogue;
		neighbours?: readonly NeighbourCarrier[];
		today: string;
		onsaved: (hop: SavedHop) => void;
		/** Told whenever the form differs from what is saved. */
		onchange?: (unsaved: boolean) => void;
		/** Told while it is being saved. */
		onbusy?: (busy: boolean) => void;
		/** Told whether the plan as it stands may be issued. */
		onreviewed?: (mayIssue: boolean | undefined) => void;
	}

	let {
		hop,
		parts,
		neighbours = [],
		today,
		onsaved,
		onchange,
		onbusy,
		onreviewed
	}: Props = $props();
	const start = untrack(() => hop);
	const savedForm: HopForm = start ? hopFormOf(start) : untrack(() => emptyHopForm(today, parts));
	const draft = new Draft(`hop-${start?.id ?? 'new'}`, savedForm);
	let sites: Record<End, PickedSite | undefined> = $state({
		A: start?.sites.A,
		B: start?.sites.B
	});
	const saving = new Saving();
	const unsaved = $derived(draft.changed);
	$effect(() => onchange?.(unsaved));
	$effect(() => onbusy?.(saving.busy));
	$effect(() => onreviewed?.(live ? (computed?.review.mayIssue ?? false) : undefined));
	let sheet: SheetId = $state(
		SHEETS.find(({ id }) => id === untrack(() => page.url.searchParams.get('sheet')))?.id ?? 'ends'
	);
	/** The sheet stands in the address: a reload, and whoever is sent it, opens the same. */
	export function show(chosen: SheetId): void {
		sheet = chosen;
		const address = new URL(location.href);
		address.searchParams.set('sheet', chosen);
		// eslint-disable-next-line svelte/no-navigation-without-resolve -- the address of this page
		replaceState(address, {});
	}

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
		show(holder);
		await tick();
		const control = document.getElementById(`field-plan-${field.replaceAll('.', '-')}`);
		control?.scrollIntoView({ block: 'center' });
		control?.focus();
	}

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const sent = $state.snapshot(draft.values);
		let answer: SavedHop | undefined;
		const saved = await saving.run(async () => {
			const body = hopInputOf(sent, hop?.version);
			answer = hop
				? await callApi<SavedHop>('PUT', `/hops/${hop.id}`, body)
				: await callApi<SavedHop>('POST', '/hops', body);
		});
		if (!saved || !answer) {
			// The first field that was refused is brought before the eyes.
			const field = saving.problems[0]?.field.replace(/^plan\./, '');
			if (field && sheetOf(field)) show(sheetOf(field)!);
			else if (
				field &&
				['name', 'practice', 'plantedFault', 'siteAId', 'siteBId'].includes(field)
			) {
				show('ends');
			}
			return;
		}
		// The editor of a new hop is left for that of the saved one, and is empty when it is opened again.
		if (hop) draft.savedAs(sent);
		else draft.clear();
		onsaved(answer);
	}
	const elsewhere = $derived(
		saving.others([]).filter((p) => (sheetOf(p.field.replace(/^plan\./, '')) ?? 'ends') !== sheet)
	);
</script>

<form id="plan-form" class="flex flex-col gap-3" onsubmit={save} novalidate {@attach saving.form}>
	<KeptTyping {draft} always />
	{#if !hop}
		<!-- Of a hop that is there, the stage around the editor saves it. -->
		<div class="flex flex-wrap items-center gap-x-5 gap-y-3">
			<button class="btn btn-main" disabled={saving.busy}>
				{saving.busy ? 'Saving …' : 'Save the new hop'}
			</button>
			<span class="text-quiet text-sm" role="status">
				{unsaved ? 'Not saved yet; kept on this device.' : ''}
			</span>
		</div>
	{/if}
	<SavingTrouble {saving} {elsewhere} />
	<PlanVerdict {editor} onreview={() => show('review')} />

	<Tabs.Root bind:value={() => sheet, (chosen) => show(chosen as SheetId)}>
		<Tabs.List
			class="border-line mb-4 flex gap-x-1 overflow-x-auto border-b"
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
