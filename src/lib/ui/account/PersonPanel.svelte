<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { untrack } from 'svelte';
	import { callApi } from '../api';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import SelectField from '../form/SelectField.svelte';
	import { moment } from '../moment.svelte';

	interface Props {
		person: { id: string; displayName: string; role: string; disabled: boolean };
		roles: readonly string[];
	}

	let { person, roles }: Props = $props();
	let role = $state(untrack(() => person.role));
	let reset: { code: string; expiresAt: string } | undefined = $state.raw();
	let done: string | undefined = $state();
	const working = new Saving();

	function act(work: () => Promise<unknown>, said: string): void {
		done = undefined;
		void working
			.run(async () => {
				await work();
				await invalidateAll();
			})
			.then((well) => (done = well ? said : undefined));
	}
	const path = $derived(`/people/${person.id}`);
	const post = (what: string): Promise<unknown> => callApi('POST', `${path}/${what}`, {});
</script>

<div class="bg-card border-line flex flex-col gap-4 rounded-lg border p-4">
	{#if working.message}<Notice kind="trouble">{working.message}</Notice>{/if}
	{#if done}<Notice>{done}</Notice>{/if}
	<div class="flex flex-wrap items-end gap-3">
		<div class="w-56">
			<SelectField
				label="Role of {person.displayName}"
				name="role-{person.id}"
				bind:value={role}
				options={roles.map((one) => ({ value: one, label: one }))}
			/>
		</div>
		<button
			class="btn"
			disabled={working.busy || role === person.role}
			onclick={() =>
				act(
					() => callApi('PUT', `${path}/role`, { role }),
					'The role is changed; they are signed out everywhere.'
				)}>Change the role</button
		>
	</div>
	<div class="flex flex-wrap gap-3">
		<button
			class="btn"
			disabled={working.busy}
			onclick={() =>
				act(
					() => callApi('PUT', `${path}/access`, { disabled: !person.disabled }),
					person.disabled ? 'They may sign in again.' : 'Blocked, and signed out everywhere.'
				)}>{person.disabled ? 'Let in again' : 'Block'}</button
		>
		<button
			class="btn"
			disabled={working.busy}
			onclick={() => act(() => post('sign-out'), 'Signed out everywhere, scripts too.')}
			>Sign out everywhere</button
		>
		<button
			class="btn"
			disabled={working.busy || person.disabled}
			onclick={() =>
				act(async () => {
					reset = await callApi('POST', `${path}/password-reset`, {});
				}, 'Give them this code; it is not shown again.')}>Code for a new password</button
		>
		<button
			class="btn"
			disabled={working.busy}
			onclick={() => act(() => post('second-factor-removal'), 'Their second factor is taken away.')}
			>Take the second factor away</button
		>
	</div>
	{#if reset}
		<p>
			<span class="num text-xl font-semibold" data-testid="reset-code">{reset.code}</span><br />
			<span class="text-quiet text-sm"
				>for {person.displayName}, once, until {moment(reset.expiresAt)}, at Sign in, “I have a code
				for a new password”</span
			>
		</p>
	{/if}
</div>
