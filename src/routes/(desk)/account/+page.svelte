<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { callApi } from '$lib/ui/api';
	import Passkeys from '$lib/ui/account/Passkeys.svelte';
	import SecondFactor from '$lib/ui/account/SecondFactor.svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import TextField from '$lib/ui/form/TextField.svelte';
	import { moment } from '$lib/ui/moment.svelte';

	let { data } = $props();
	const { account } = $derived(data);
	const empty = { current: '', password: '' };
	let values = $state({ ...empty });
	let changed = $state(false);
	const changing = new Saving();
	const ending = new Saving();
	const others = $derived(account.sessions.filter(({ current }) => !current));
	const KINDS = { browser: 'A browser', script: 'A token of a script' };

	async function change(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		changed = false;
		const done = await changing.run(async () => {
			await callApi('PUT', '/me/password', values);
			await invalidateAll();
		});
		if (!done) return;
		values = { ...empty };
		changed = true;
	}

	function end(path: string): void {
		void ending.run(async () => {
			await callApi('DELETE', path);
			await invalidateAll();
		});
	}
</script>

<svelte:head><title>Your account · Skiaxis</title></svelte:head>
<h1>{account.displayName}</h1>
<p class="text-quiet mt-1">
	Signs in as <span class="num">{account.signInName}</span>, {account.role}.
</p>
{#if data.due}
	<div class="mt-4">
		<Notice kind="caution">
			Your role signs in with a second factor. Set up an authenticator or a passkey here; then the
			rest opens.
		</Notice>
	</div>
{/if}

<div class="mt-6 grid gap-10 lg:grid-cols-2">
	<div class="flex flex-col gap-10 {data.due ? '' : 'lg:order-2'}">
		<SecondFactor factor={account.secondFactor} passkeys={account.passkeys.length} />
		<Passkeys passkeys={account.passkeys} possible={data.passkeysPossible} />
	</div>

	<div class="flex flex-col gap-10">
		<form class="flex flex-col gap-4" onsubmit={change} novalidate {@attach changing.form}>
			<h2>Your password</h2>
			{#if changing.message}<Notice kind="trouble">{changing.message}</Notice>{/if}
			{#if changed}
				<Notice>It is changed. Everywhere else you are signed out.</Notice>
			{/if}
			<TextField
				label="Present password"
				name="current"
				type="password"
				autocomplete="current-password"
				bind:value={values.current}
				error={changing.errorAt('current')}
			/>
			<TextField
				label="New password"
				name="password"
				type="password"
				autocomplete="new-password"
				hint="At least 12 characters: a few words that do not belong together."
				bind:value={values.password}
				error={changing.errorAt('password')}
			/>
			<button class="btn btn-main self-start" disabled={changing.busy}>Change the password</button>
		</form>

		<section aria-labelledby="sessions-title">
			<h2 id="sessions-title">Where you are signed in</h2>
			{#if ending.message}<Notice kind="trouble">{ending.message}</Notice>{/if}
			<ul class="border-line mt-2 border-t">
				{#each account.sessions as session (session.id)}
					<li
						class="border-line flex min-h-14 flex-wrap items-center justify-between gap-x-4 border-b py-1.5"
					>
						<span>
							{KINDS[session.kind]}{session.current ? ': this one' : ''}<br />
							<span class="text-quiet text-sm"
								>since {moment(session.createdAt)}, at most until {moment(session.expiresAt)}</span
							>
						</span>
						{#if !session.current}
							<button
								class="btn"
								disabled={ending.busy}
								aria-label="End the session since {moment(session.createdAt)}"
								onclick={() => end(`/me/sessions/${session.id}`)}>End it</button
							>
						{/if}
					</li>
				{/each}
			</ul>
			{#if others.length > 1}
				<button class="btn mt-3" disabled={ending.busy} onclick={() => end('/me/sessions')}
					>End all others</button
				>
			{/if}
		</section>
	</div>
</div>
