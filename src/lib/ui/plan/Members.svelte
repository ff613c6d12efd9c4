<script lang="ts" module>
	export interface MemberPerson {
		id: string;
		displayName: string;
		role: string;
	}
	export interface PeoplePage {
		rows: (MemberPerson & { disabled: boolean })[];
		count: number;
	}
</script>

<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { untrack } from 'svelte';
	import { callApi, troubleOf } from '../api';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import TextField from '../form/TextField.svelte';
	import Tick from '../form/Tick.svelte';

	interface Props {
		hopId: string;
		members: MemberPerson[];
		people: PeoplePage;
	}

	let { hopId, members, people }: Props = $props();
	/** Everybody who was on it or was ticked: who is unticked stays in their place. */
	let listed: MemberPerson[] = $state(untrack(() => [...members]));
	let chosen: string[] = $state(untrack(() => members.map(({ id }) => id)));
	let words = $state('');
	let found: PeoplePage = $state.raw(untrack(() => people));
	let problem: string | undefined = $state();
	const saving = new Saving();
	let latest = 0;

	const shown = $derived([
		...listed,
		...found.rows.filter(
			(person) => !person.disabled && !listed.some((known) => known.id === person.id)
		)
	]);

	function pick(person: MemberPerson, on: boolean): void {
		chosen = on ? [...chosen, person.id] : chosen.filter((id) => id !== person.id);
	}

	async function search(): Promise<void> {
		const mine = ++latest;
		problem = undefined;
		try {
			const asked = encodeURIComponent(words.trim().slice(0, 80));
			const page = await callApi<PeoplePage>('GET', `/people?q=${asked}`);
			if (mine !== latest) return;
			// Who was ticked stays in sight, whoever is found next.
			listed = shown.filter(
				({ id }) => chosen.includes(id) || listed.some((known) => known.id === id)
			);
			found = page;
		} catch (error) {
			problem = troubleOf(error);
		}
	}

	function save(): void {
		void saving.run(async () => {
			await callApi('PUT', `/hops/${hopId}/members`, { memberIds: chosen });
			await invalidateAll();
		});
	}
</script>

<section aria-labelledby="members-title" class="border-line border-t pt-4">
	<h2 id="members-title">Who works on this hop</h2>
	<p class="text-quiet mb-2 text-sm">Only they see it. You stay on it yourself.</p>
	{#if people.count > people.rows.length}
		<form
			class="mb-3 flex max-w-lg items-end gap-3"
			role="search"
			onsubmit={(event) => {
				event.preventDefault();
				void search();
			}}
		>
			<div class="flex-1">
				<TextField label="Find somebody by name" name="member-search" bind:value={words} />
			</div>
			<button class="btn">Find</button>
		</form>
	{/if}
	{#if problem}<Notice kind="trouble">{problem}</Notice>{/if}
	<ul class="grid gap-x-6 sm:grid-cols-2">
		{#each shown as person (person.id)}
			<li>
				<Tick checked={chosen.includes(person.id)} onpick={(on) => pick(person, on)}>
					<span>{person.displayName}<span class="text-quiet">, {person.role}</span></span>
				</Tick>
			</li>
		{/each}
	</ul>
	{#if saving.message}<Notice kind="trouble">{saving.message}</Notice>{/if}
	<button class="btn mt-2" onclick={save} disabled={saving.busy}>Save who works on it</button>
</section>
