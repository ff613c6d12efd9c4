<script lang="ts">
	import { untrack } from 'svelte';
	import type { Crew } from '#core/schedule/crew';
	import { SKILLS, type Skill } from '#core/schedule/problem';
	import { callApi, troubleOf } from '../api';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import Tick from '../form/Tick.svelte';
	import type { PeoplePage } from '../plan/Members.svelte';
	import { crewBody, crewFormOf, emptyCrewForm, newPerson } from './crewForm';

	interface Props {
		/** Absent where a new one is made. */
		crew?: Crew & { id: string; version: number };
		people: PeoplePage;
		onsaved: () => void;
	}

	let { crew, people, onsaved }: Props = $props();
	const start = untrack(() => crew);
	const zoneHere = Intl.DateTimeFormat().resolvedOptions().timeZone || 'Etc/UTC';
	/** Made here, so that a repeat makes no second one. */
	const id = start?.id ?? crypto.randomUUID();
	const draft = new Draft(
		`crew-${start?.id ?? 'new'}`,
		start ? crewFormOf(start) : emptyCrewForm(zoneHere, crypto.randomUUID())
	);
	const saving = new Saving();
	const SKILL_WORDS: Record<Skill, string> = {
		climber: 'Climbs',
		rigger: 'Runs a lift',
		acceptor: 'Signs for the customer'
	};

	let words = $state('');
	let found: PeoplePage = $state.raw(untrack(() => people));
	let problem: string | undefined = $state();
	async function search(): Promise<void> {
		problem = undefined;
		try {
			const asked = encodeURIComponent(words.trim().slice(0, 80));
			found = await callApi<PeoplePage>('GET', `/people?q=${asked}`);
		} catch (error) {
			problem = troubleOf(error);
		}
	}
	/** Accounts that can be chosen for a person: their own one stays among them. */
	function accountsFor(userId: string, name: string): { value: string; label: string }[] {
		const rows = found.rows.filter(({ disabled }) => !disabled);
		const own =
			userId && !rows.some((row) => row.id === userId)
				? [{ value: userId, label: `Account of ${name || 'this person'}` }]
				: [];
		return [
			{ value: '', label: 'No account here' },
			...own,
			...rows.map((row) => ({ value: row.id, label: `${row.displayName}, ${row.role}` }))
		];
	}
	function setSkill(at: number, skill: Skill, on: boolean): void {
		const person = draft.values.people[at];
		if (!person) return;
		person.skills = on
			? [...person.skills.filter((one) => one !== skill), skill]
			: person.skills.filter((one) => one !== skill);
	}
	/** Who is given an account is called as it is, where they have no name yet. */
	function setAccount(at: number, userId: string): void {
		const person = draft.values.people[at];
		if (!person) return;
		person.userId = userId;
		const account = found.rows.find((row) => row.id === userId);
		if (account && person.name.trim() === '') person.name = account.displayName;
	}

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const body = { version: start?.version ?? 0, crew: crewBody($state.snapshot(draft.values)) };
		if (!(await saving.run(() => callApi('PUT', `/crews/${id}`, body)))) return;
		draft.clear();
		onsaved();
	}
</script>

<form class="flex max-w-3xl flex-col gap-5" onsubmit={save} novalidate {@attach saving.form}>
	<SavingTrouble {saving} />
	<KeptTyping {draft} always />
	<div class="grid gap-5 sm:grid-cols-2">
		<TextField
			label="Name of the crew"
			name="crew.name"
			bind:value={draft.values.name}
			error={saving.errorAt('crew.name')}
		/>
		<TextField
			label="Region"
			name="crew.region"
			hint="Where it mostly works"
			bind:value={draft.values.region}
			error={saving.errorAt('crew.region')}
		/>
	</div>
	<div class="grid gap-5 sm:grid-cols-3">
		<TextField
			label="Begins"
			name="crew.fromMin"
			numeric
			bind:value={draft.values.from}
			error={saving.errorAt('crew.fromMin')}
		/>
		<TextField
			label="Ends"
			name="crew.toMin"
			numeric
			hint="Past midnight the hours go on, 25:00"
			bind:value={draft.values.to}
			error={saving.errorAt('crew.toMin')}
		/>
		<TextField
			label="Time zone"
			name="crew.zone"
			hint="As the IANA names it"
			bind:value={draft.values.zone}
			error={saving.errorAt('crew.zone')}
		/>
	</div>
	<fieldset class="flex flex-col gap-3">
		<legend class="font-bold">People</legend>
		{#if people.count > people.rows.length}
			<div class="flex max-w-lg items-end gap-3">
				<div class="flex-1">
					<TextField label="Find accounts by name" name="account-search" bind:value={words} />
				</div>
				<button type="button" class="btn" onclick={() => void search()}>Find</button>
			</div>
			{#if problem}<p class="trouble text-sm" role="alert">{problem}</p>{/if}
		{/if}
		{#each draft.values.people as person, i (person.id)}
			<div class="border-line flex flex-col gap-2 border-t pt-3" data-testid="crew-person">
				<div class="grid items-start gap-4 sm:grid-cols-[1fr_11rem_1fr_auto]">
					<TextField
						label="Name"
						name="crew.people.{i}.name"
						bind:value={person.name}
						error={saving.errorAt(`crew.people.${i}.name`)}
					/>
					<TextField
						label="Phone"
						name="crew.people.{i}.phone"
						bind:value={person.phone}
						error={saving.errorAt(`crew.people.${i}.phone`)}
					/>
					<SelectField
						label="Account"
						name="crew.people.{i}.userId"
						options={accountsFor(person.userId, person.name)}
						bind:value={() => person.userId, (userId) => setAccount(i, userId)}
						error={saving.errorAt(`crew.people.${i}.userId`)}
					/>
					{#if draft.values.people.length > 1}
						<button
							type="button"
							class="btn sm:mt-7"
							aria-label="Take {person.name || 'this person'} off the crew"
							onclick={() => draft.values.people.splice(i, 1)}>Take off</button
						>
					{/if}
				</div>
				<div class="flex flex-wrap gap-x-6">
					{#each SKILLS as skill (skill)}
						<Tick bind:checked={() => person.skills.includes(skill), (on) => setSkill(i, skill, on)}
							>{SKILL_WORDS[skill]}</Tick
						>
					{/each}
				</div>
			</div>
		{/each}
		{#if saving.errorAt('crew.people')}
			<p class="trouble text-sm" role="alert">{saving.errorAt('crew.people')}</p>
		{/if}
		<button
			type="button"
			class="btn self-start"
			onclick={() => draft.values.people.push(newPerson(crypto.randomUUID()))}>Add a person</button
		>
		<p class="text-quiet text-sm">
			A skill is what the firm says of somebody, not a licence: who climbs or lifts is trained and
			allowed to by the rules of the place.
		</p>
	</fieldset>
	<div class="grid gap-5 sm:grid-cols-2">
		<div class="flex flex-col gap-3">
			<p class="font-bold">Where it sets out from</p>
			<TextField
				label="Latitude"
				unit="° north positive"
				name="crew.base.latitudeDeg"
				bind:value={draft.values.latitude}
				error={saving.errorAt('crew.base.latitudeDeg')}
			/>
			<TextField
				label="Longitude"
				unit="° east positive"
				name="crew.base.longitudeDeg"
				hint="Left empty, ways to sites are not worked out from there"
				bind:value={draft.values.longitude}
				error={saving.errorAt('crew.base.longitudeDeg')}
			/>
		</div>
		<label class="flex flex-col gap-1">
			<span class="font-bold">What only this crew has</span>
			<textarea
				class="input min-h-32"
				name="crew.equipment"
				bind:value={draft.values.equipment}
				aria-invalid={saving.errorAt('crew.equipment') ? true : undefined}></textarea>
			<span class="text-quiet text-sm">One a line: a winch, a meter for a band.</span>
			{#if saving.errorAt('crew.equipment')}
				<span class="trouble text-sm">{saving.errorAt('crew.equipment')}</span>
			{/if}
		</label>
	</div>
	<button class="btn btn-main self-start" disabled={saving.busy}
		>{saving.busy ? 'Saving …' : 'Save the crew'}</button
	>
</form>
