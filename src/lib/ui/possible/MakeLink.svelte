<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { linkDraft } from '#core/smalllink/linkDraft';
	import type { LinkAnswer, LinkQuestion } from '#core/smalllink/possibleLink';
	import { ApiRefusal, callApi } from '../api';
	import { Draft } from '../form/draft.svelte';
	import Fold from '../form/Fold.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import TextField from '../form/TextField.svelte';

	let { question, answer }: { question: LinkQuestion; answer: LinkAnswer } = $props();
	const draft = new Draft('possible-link', {
		...{ name: '', nameA: '', nameB: '', downMbitS: '10', upMbitS: '10' },
		/** The site at A, once it is made: a second try after a refusal does not make another. */
		siteId: '',
		siteOf: ''
	});
	const saving = new Saving();
	const FIELDS = [
		['name', 'Name of the link', ''],
		['nameA', 'What place A is called', ''],
		['nameB', 'What place B is called', ''],
		['downMbitS', 'Promised towards B', 'Mbit/s'],
		['upMbitS', 'Promised from B', 'Mbit/s']
	] as const;
	type Key = (typeof FIELDS)[number][0];
	let tried = $state(false);
	const isNumber = (key: Key): boolean => key === 'downMbitS' || key === 'upMbitS';
	const own = $derived<Partial<Record<Key, string>>>(
		Object.fromEntries(
			FIELDS.flatMap(([key]) => {
				const text = draft.values[key].trim();
				if (isNumber(key)) {
					const value = text === '' ? Number.NaN : Number(text);
					return value >= 0 && value <= 10_000 ? [] : [[key, 'A number from 0 to 10,000.']];
				}
				return text.length >= 2 ? [] : [[key, 'A name of two letters or more.']];
			})
		)
	);
	/** Where the server speaks of one of these fields. */
	const SAID_AT: Readonly<Record<Key, readonly string[]>> = {
		name: ['name'],
		nameA: ['site.name', 'site.latitudeDeg', 'site.longitudeDeg', 'units.0.name'],
		nameB: ['terminals.0.name'],
		downMbitS: ['terminals.0.downMbitS'],
		upMbitS: ['terminals.0.upMbitS']
	};
	const problemAt = (key: Key): string | undefined =>
		(tried ? own[key] : undefined) ??
		SAID_AT[key].map((field) => saving.errorAt(field)).find((message) => message !== undefined);

	/** What is refused of the site is said at its own fields, not at those of the link. */
	function ofSite(error: unknown): never {
		if (!(error instanceof ApiRefusal)) throw error;
		const fields = error.fields.map(({ field, message }) => ({ field: `site.${field}`, message }));
		throw new ApiRefusal(error.status, error.code, error.message, fields);
	}
	async function siteAt(): Promise<string> {
		const { latitudeDeg, longitudeDeg, groundAmslM } = question.places.A;
		const site = { name: draft.values.nameA.trim(), latitudeDeg, longitudeDeg, groundAmslM };
		const of = JSON.stringify(site);
		if (draft.values.siteId && draft.values.siteOf === of) return draft.values.siteId;
		const { id } = await callApi<{ id: string }>('POST', '/sites', site).catch(ofSite);
		draft.values.siteId = id;
		draft.values.siteOf = of;
		return id;
	}
	async function make(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		tried = true;
		if (Object.keys(own).length) return;
		const { name, nameA, nameB, downMbitS, upMbitS } = $state.snapshot(draft.values);
		let hubId: string | undefined;
		const done = await saving.run(async () => {
			const siteId = await siteAt();
			const plan = linkDraft($state.snapshot(question) as LinkQuestion, answer, {
				names: { A: nameA.trim(), B: nameB.trim() },
				downMbitS: Number(downMbitS),
				upMbitS: Number(upMbitS)
			});
			const body = { name: name.trim(), siteId, ...plan };
			hubId = (await callApi<{ id: string }>('POST', '/hubs', body)).id;
		});
		if (!done || !hubId) return;
		draft.clear();
		await goto(resolve('/(desk)/hubs/[hubId]', { hubId }));
	}
</script>

<div class="mt-4">
	<Fold title="Make it a link">
		<form
			class="flex max-w-md flex-col gap-3 pt-2"
			onsubmit={make}
			novalidate
			{@attach saving.form}
			data-testid="make-link"
		>
			<p class="text-sm">
				Place A becomes a site, B stands opposite; ground, heights, radio and limit are taken over.
			</p>
			<SavingTrouble {saving} elsewhere={saving.others(Object.values(SAID_AT).flat())} />
			<KeptTyping {draft} />
			{#each FIELDS as [key, label, unit] (key)}
				<TextField
					{label}
					name={key}
					unit={unit || undefined}
					numeric={isNumber(key)}
					bind:value={draft.values[key]}
					error={problemAt(key)}
				/>
			{/each}
			<button class="btn btn-main" disabled={saving.busy}
				>{saving.busy ? 'Making it …' : 'Make it a link'}</button
			>
		</form>
	</Fold>
</div>
