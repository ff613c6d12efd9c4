<script lang="ts">
	import { untrack } from 'svelte';
	import { doubtsAbout, thresholdDbm } from '#core/catalogue/checkPart';
	import {
		draftOfPart,
		emptyPartDraft,
		partOfDraft,
		type DraftFields
	} from '#core/catalogue/partDraft';
	import { PART_FIELDS } from '#core/catalogue/partFields';
	import { PART_KINDS, type AnyPart, type PartKind, type PartOf } from '#core/catalogue/partKinds';
	import type { LevelCurvePoint } from '#core/radio/levelCurve';
	import { callApi } from '../api';
	import { fixed } from '../format';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import TextField from '../form/TextField.svelte';
	import DishPatternChart from './DishPatternChart.svelte';
	import LevelCurveChart from './LevelCurveChart.svelte';
	import PartFields from './PartFields.svelte';

	interface Props {
		kind: PartKind;
		/** The part that is changed; undefined for a new one. */
		part?: { id: string; version: number; data: AnyPart } | undefined;
		/** A part whose values a new one begins with. */
		copyOf?: AnyPart | undefined;
		onsaved: (id: string) => void;
	}

	let { kind, part, copyOf, onsaved }: Props = $props();
	const saved = untrack(() => part);
	const begin = untrack((): DraftFields => {
		if (saved) return draftOfPart(kind, saved.data);
		return copyOf ? { ...draftOfPart(kind, copyOf), code: '' } : emptyPartDraft(kind);
	});
	const draft = new Draft<{ fields: DraftFields; note: string }>(
		untrack(() =>
			saved ? `part-${saved.id}` : `part-new-${kind}${copyOf ? `-${copyOf.code}` : ''}`
		),
		{ fields: begin, note: '' }
	);
	const saving = new Saving();
	/** Made once, so that a repeat after a lost answer adds nothing twice. */
	let newId: string | undefined;

	/** Doubts as it is typed; while a value is missing there is nothing to doubt. */
	const doubts = $derived.by(() => {
		try {
			return doubtsAbout(kind, partOfDraft(kind, draft.values.fields) as unknown as AnyPart);
		} catch {
			return [];
		}
	});
	const doubtAt = (field: string): string | undefined =>
		doubts.find((doubt) => `data.${doubt.field}` === field)?.message;
	/** An error goes once its field is typed in again. */
	let mended: Record<string, string> = $state({});
	const textAt = (field: string): string =>
		JSON.stringify(
			field
				.split('.')
				.slice(1)
				.reduce<unknown>(
					(at, key) => (at as Record<string, unknown> | null | undefined)?.[key],
					draft.values.fields
				) ?? null
		);
	const errorAt = (field: string): string | undefined => {
		const error = saving.errorAt(field);
		return error && mended[field] === textAt(field) ? error : undefined;
	};

	const radio = $derived(
		kind === 'radio'
			? (partOfDraft(kind, draft.values.fields) as unknown as PartOf<'radio'>)
			: undefined
	);
	const curve = $derived(
		(radio?.levelPort.curve ?? []).filter((point): point is LevelCurvePoint =>
			point.every((value) => typeof value === 'number')
		)
	);
	const thresholds = $derived(
		radio && typeof radio.noiseFigureDb === 'number'
			? radio.modulations
					.filter(({ requiredSnrDb }) => typeof requiredSnrDb === 'number')
					.map((modulation) => ({
						name: modulation.name || '—',
						at: radio.channelWidthsMhz
							.filter((width) => typeof width === 'number' && width > 0 && width <= 4000)
							.map((width) => ({ width, dbm: thresholdOf(radio, modulation, width) }))
					}))
			: []
	);
	function thresholdOf(
		of: PartOf<'radio'>,
		modulation: { requiredSnrDb: number },
		width: number
	): number | null {
		try {
			return thresholdDbm(of, modulation, width);
		} catch {
			return null;
		}
	}

	const dishBands = $derived(
		kind === 'dish'
			? (partOfDraft(kind, draft.values.fields) as unknown as PartOf<'dish'>).bands.filter(
					(band) => typeof band.beamwidthDeg === 'number' && band.beamwidthDeg > 0
				)
			: []
	);

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const form = event.currentTarget as HTMLFormElement;
		const { fields, note } = JSON.parse(JSON.stringify(draft.values)) as {
			fields: DraftFields;
			note: string;
		};
		const data = partOfDraft(kind, fields);
		newId ??= crypto.randomUUID();
		const id = saved?.id ?? newId;
		const done = await saving.run(async () => {
			await (saved
				? callApi('PUT', `/parts/${id}`, { version: saved.version, data, note })
				: callApi('POST', '/parts', { id, kind, data }));
		});
		if (!done) {
			mended = Object.fromEntries(saving.problems.map(({ field }) => [field, textAt(field)]));
			const first = saving.problems[0]?.field;
			requestAnimationFrame(() => {
				const wrong =
					form.querySelector<HTMLElement>(`[name="${CSS.escape(first ?? '')}"]`) ??
					form.querySelector<HTMLElement>('[aria-invalid=true], [role=alert]');
				wrong?.focus();
				wrong?.scrollIntoView({ block: 'center' });
			});
			return;
		}
		draft.clear();
		newId = undefined;
		onsaved(id);
	}
</script>

<form
	class="grid gap-x-10 gap-y-5 lg:grid-cols-[minmax(0,1fr)_22rem]"
	onsubmit={(event) => void save(event)}
	novalidate
>
	<div class="flex min-w-0 flex-col gap-5">
		<SavingTrouble {saving} elsewhere={saving.problems.length > 1 ? saving.problems : []} />
		<KeptTyping {draft} always />
		<div class="grid gap-4 sm:grid-cols-2">
			<TextField
				label="Type code"
				name="data.code"
				readonly={saved !== undefined}
				hint={saved
					? 'Stays as it is: plans know the part by it.'
					: '2 to 20 capitals, figures and hyphens.'}
				bind:value={
					() => String(draft.values.fields.code ?? ''),
					(code) => (draft.values.fields = { ...draft.values.fields, code: code.toUpperCase() })
				}
				error={errorAt('data.code')}
			/>
			<TextField
				label="Name"
				name="data.name"
				bind:value={
					() => String(draft.values.fields.name ?? ''),
					(name) => (draft.values.fields = { ...draft.values.fields, name })
				}
				error={errorAt('data.name')}
			/>
			<PartFields
				fields={PART_FIELDS[kind]}
				bind:values={draft.values.fields}
				inside="data."
				{errorAt}
				{doubtAt}
			/>
		</div>
		{#if doubts.length}
			<p class="text-sm" data-testid="doubts">
				<span aria-hidden="true">◇</span>
				{doubts.length === 1 ? 'One value is' : `${doubts.length} values are`} unlike such parts; look
				again, it can be saved all the same.
			</p>
		{/if}
		{#if saved}
			<TextField
				label="What was changed"
				name="note"
				hint="Stands with the new version."
				bind:value={draft.values.note}
				error={errorAt('note')}
			/>
		{/if}
		<div class="flex flex-wrap items-center gap-3">
			<button class="btn btn-main" disabled={saving.busy}
				>{saving.busy
					? 'Saving …'
					: saved
						? `Save as version ${saved.version + 1}`
						: `Add this ${PART_KINDS[kind].one.toLowerCase()}`}</button
			>
		</div>
	</div>
	<aside
		class="flex min-w-0 flex-col gap-4 lg:sticky lg:top-4 lg:self-start"
		aria-label="As it reads"
	>
		{#if kind === 'radio'}
			<section aria-label="Level port and thresholds">
				<LevelCurveChart points={curve} />
				{#if thresholds.length}
					<table class="mt-3 w-full text-left text-sm" data-testid="thresholds">
						<caption class="pb-1 text-left font-bold"
							>Threshold by noise figure and signal-to-noise ratio, dBm: compare with the sheet</caption
						>
						<thead class="text-quiet">
							<tr class="border-line border-b">
								<th class="py-1">Modulation</th>
								{#each thresholds[0]!.at as { width } (width)}
									<th class="num py-1 text-right">{width} MHz</th>
								{/each}
							</tr>
						</thead>
						<tbody>
							{#each thresholds as row, i (i)}
								<tr class="border-line border-b">
									<th class="py-1 font-normal" scope="row">{row.name}</th>
									{#each row.at as { width, dbm } (width)}
										<td class="num py-1 text-right">{fixed(dbm, 1)}</td>
									{/each}
								</tr>
							{/each}
						</tbody>
					</table>
				{/if}
			</section>
		{/if}
		{#if kind === 'dish'}<DishPatternChart bands={dishBands} />{/if}
	</aside>
</form>
