<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { callApi } from '$lib/ui/api';
	import ListSearch from '$lib/ui/frame/ListSearch.svelte';
	import Pager from '$lib/ui/frame/Pager.svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import SelectField from '$lib/ui/form/SelectField.svelte';
	import TextField from '$lib/ui/form/TextField.svelte';

	let { data } = $props();
	const empty = { signInName: '', displayName: '', role: 'technician', password: '' };
	let values = $state({ ...empty });
	const saving = new Saving();
	const blocking = new Saving();

	async function add(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const saved = await saving.run(async () => {
			await callApi('POST', '/people', values);
			await invalidateAll();
		});
		if (saved) values = { ...empty };
	}

	function setBlocked(id: string, disabled: boolean): void {
		void blocking.run(async () => {
			await callApi('PUT', `/people/${id}/access`, { disabled });
			await invalidateAll();
		});
	}
</script>

<svelte:head><title>People · Skiaxis</title></svelte:head>
<div class="mb-5 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>People</h1>
	<ListSearch q={data.query.q} what="people" />
</div>
<div class="grid gap-10 lg:grid-cols-[1fr_22rem]">
	<div class="overflow-x-auto">
		{#if blocking.message}<Notice kind="trouble">{blocking.message}</Notice>{/if}
		<table class="w-full text-left">
			<thead class="text-quiet border-line border-b text-sm">
				<tr>
					<th class="px-2 py-2">Name</th><th class="px-2 py-2">Signs in as</th>
					<th class="px-2 py-2">Role</th><th class="px-2 py-2">Access</th>
				</tr>
			</thead>
			<tbody>
				{#each data.people.rows as person (person.id)}
					<tr class="border-line border-b">
						<td class="px-2 py-2 font-semibold">{person.displayName}</td>
						<td class="num px-2">{person.signInName}</td>
						<td class="px-2">{person.role}</td>
						<td class="px-2">
							{#if person.id === data.ownId}
								you
							{:else}
								<button
									class="min-h-11 underline"
									disabled={blocking.busy}
									onclick={() => setBlocked(person.id, !person.disabled)}
								>
									{person.disabled ? 'Blocked: let in again' : 'Block'}
								</button>
							{/if}
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
		{#if data.people.rows.length === 0}
			<p class="text-quiet py-6">Nobody is named like “{data.query.q}”.</p>
		{/if}
		<Pager {...data.people} q={data.query.q} what="people" />
	</div>
	<form class="flex flex-col gap-4" onsubmit={add} novalidate>
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
</div>
