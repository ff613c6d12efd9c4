<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { resolve } from '$app/paths';
	import PersonPanel from '$lib/ui/account/PersonPanel.svelte';
	import { callApi } from '$lib/ui/api';
	import ListSearch from '$lib/ui/frame/ListSearch.svelte';
	import Pager from '$lib/ui/frame/Pager.svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import SelectField from '$lib/ui/form/SelectField.svelte';
	import TextField from '$lib/ui/form/TextField.svelte';
	import Tick from '$lib/ui/form/Tick.svelte';

	let { data } = $props();
	const empty = { signInName: '', displayName: '', role: 'technician', password: '' };
	let values = $state({ ...empty });
	const saving = new Saving();
	/** Whose account is being changed. */
	let opened: string | undefined = $state();
	const ruling = new Saving();

	async function add(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const saved = await saving.run(async () => {
			await callApi('POST', '/people', values);
			await invalidateAll();
		});
		if (saved) values = { ...empty };
	}

	function setRule(role: string, secondFactor: boolean): void {
		void ruling.run(async () => {
			await callApi('PUT', '/people/rules', { role, secondFactor });
			await invalidateAll();
		});
	}
</script>

<svelte:head><title>People · Skiaxis</title></svelte:head>
<div class="mb-5 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>People</h1>
	<ListSearch q={data.query.q} what="people" />
	<a class="btn" href={resolve('/audit')}>Who did what</a>
</div>
<div class="grid gap-10 lg:grid-cols-[1fr_22rem]">
	<div class="overflow-x-auto">
		<table class="w-full text-left">
			<thead class="text-quiet border-line border-b text-sm">
				<tr>
					<th class="px-2 py-2">Name</th><th class="px-2 py-2">Signs in as</th>
					<th class="px-2 py-2">Role</th><th class="px-2 py-2">Access</th>
					<th class="px-2 py-2"><span class="sr-only">Change</span></th>
				</tr>
			</thead>
			<tbody>
				{#each data.people.rows as person (person.id)}
					<tr class="border-line border-b">
						<td class="px-2 py-2 font-semibold">{person.displayName}</td>
						<td class="num px-2">{person.signInName}</td>
						<td class="px-2">{person.role}</td>
						<td class="px-2"
							>{person.id === data.ownId ? 'you' : person.disabled ? 'blocked' : ''}</td
						>
						<td class="px-2 text-right">
							{#if person.id !== data.ownId}
								<button
									class="min-h-11 underline"
									aria-expanded={opened === person.id}
									aria-label="Change {person.displayName}"
									onclick={() => (opened = opened === person.id ? undefined : person.id)}
									>{opened === person.id ? 'Close' : 'Change'}</button
								>
							{/if}
						</td>
					</tr>
					{#if opened === person.id}
						<tr class="border-line border-b">
							<td colspan="5" class="px-2 pb-4"><PersonPanel {person} roles={data.roles} /></td>
						</tr>
					{/if}
				{/each}
			</tbody>
		</table>
		{#if data.people.rows.length === 0}
			<p class="text-quiet py-6">Nobody is named like “{data.query.q}”.</p>
		{/if}
		<Pager {...data.people} q={data.query.q} what={data.people.count === 1 ? 'person' : 'people'} />
	</div>
	<div class="flex flex-col gap-10">
		<form class="flex flex-col gap-4" onsubmit={add} novalidate {@attach saving.form}>
			<h2>Make an account</h2>
			{#if saving.message}<Notice kind="trouble">{saving.message}</Notice>{/if}
			<TextField
				label="Sign-in name"
				name="signInName"
				bind:value={values.signInName}
				error={saving.errorAt('signInName')}
			/>
			<TextField
				label="Name shown"
				name="displayName"
				bind:value={values.displayName}
				error={saving.errorAt('displayName')}
			/>
			<SelectField
				label="Role"
				name="role"
				bind:value={values.role}
				options={data.roles.map((role) => ({ value: role, label: role }))}
				error={saving.errorAt('role')}
			/>
			<TextField
				label="Password"
				name="password"
				type="password"
				autocomplete="new-password"
				hint="At least 12 characters."
				bind:value={values.password}
				error={saving.errorAt('password')}
			/>
			<button class="btn btn-main" disabled={saving.busy}>Make the account</button>
		</form>
		<section aria-labelledby="rules-title">
			<h2 id="rules-title">Second factor</h2>
			<p class="text-quiet mb-2 text-sm">
				Whoever has one of these roles signs in with a code of an authenticator, and sets it up the
				next time they come.
			</p>
			{#if ruling.message}<Notice kind="trouble">{ruling.message}</Notice>{/if}
			<ul>
				{#each data.roles as role (role)}
					<li>
						<Tick
							checked={data.rules.secondFactorRoles.includes(role)}
							onpick={(on) => setRule(role, on)}><span>{role}</span></Tick
						>
					</li>
				{/each}
			</ul>
		</section>
	</div>
</div>
