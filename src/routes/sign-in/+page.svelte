<script lang="ts">
	import { enhance } from '$app/forms';
	import { resolve } from '$app/paths';
	import { browserSupportsWebAuthn, startAuthentication } from '@simplewebauthn/browser';
	import { onMount, tick, untrack } from 'svelte';
	import Notice from '$lib/ui/form/Notice.svelte';
	import TextField from '$lib/ui/form/TextField.svelte';
	import ThemeSwitch from '$lib/ui/frame/ThemeSwitch.svelte';

	let { data, form } = $props();
	let signInName = $state(untrack(() => form?.signInName ?? ''));
	let password = $state('');
	let code = $state('');
	let busy = $state(false);
	/** Opened by another name of the same machine: forms sent from there are refused. */
	let elsewhere = $state(false);
	onMount(() => {
		elsewhere = location.origin !== data.origin;
	});
	const errorAt = (field: string): string | undefined =>
		form?.fields?.find((problem) => problem.field === field)?.message;
	/** Filled when a device has answered, and sent instead of name and password. */
	let passkey = $state('');
	let sealed = $state('');
	let deviceTrouble = $state('');
	let signingIn: HTMLFormElement;
	let mayPasskey = $state(false);
	onMount(() => {
		mayPasskey = data.passkey !== null && browserSupportsWebAuthn();
	});

	async function usePasskey(): Promise<void> {
		if (!data.passkey) return;
		deviceTrouble = '';
		busy = true;
		const offer = data.passkey;
		try {
			const answer = await startAuthentication({ optionsJSON: offer.options });
			passkey = JSON.stringify({ ...answer, clientExtensionResults: {} });
			sealed = offer.sealed;
			await tick();
			signingIn.requestSubmit();
		} catch {
			busy = false;
			deviceTrouble =
				'This device gave no passkey. Use the one it was made on, or sign in by name and password.';
		}
	}

	/** Once the password was right and the account has a second factor. */
	const codeAsked = $derived(errorAt('code') !== undefined);
</script>

<svelte:head><title>Sign in · Skiaxis</title></svelte:head>

<main
	id="work"
	class="mx-auto grid min-h-dvh max-w-5xl content-center gap-x-16 gap-y-8 px-5 py-10 md:grid-cols-2"
>
	<div class="flex flex-col gap-5">
		<div class="flex items-start justify-between">
			<div>
				<h1 class="text-4xl!">Skiaxis</h1>
				<p class="text-quiet mt-2 max-w-sm text-lg">
					Plan a hop, align both ends, keep what was measured.
				</p>
			</div>
			<ThemeSwitch />
		</div>
		<form
			method="POST"
			class="flex flex-col gap-4"
			bind:this={signingIn}
			use:enhance={() => {
				busy = true;
				return async ({ update }) => {
					await update({ reset: false });
					passkey = '';
					busy = false;
				};
			}}
		>
			{#if elsewhere}
				<Notice kind="caution">
					This server takes nothing from the address this page was opened at. Open it at
					<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- another origin -->
					<a class="underline" href="{data.origin}/sign-in">{data.origin}</a>.
				</Notice>
			{/if}
			{#if data.passwordSet && !form}<Notice>The new password is set. Sign in with it.</Notice>{/if}
			{#if deviceTrouble}<Notice kind="trouble">{deviceTrouble}</Notice>
			{:else if form?.message}<Notice kind="trouble">{form.message}</Notice>{/if}
			<TextField
				label="Name"
				name="signInName"
				autocomplete="username"
				bind:value={signInName}
				error={errorAt('signInName')}
			/>
			<TextField
				label="Password"
				name="password"
				type="password"
				autocomplete="current-password"
				bind:value={password}
			/>
			{#if codeAsked}
				<TextField
					label="Code"
					name="code"
					autocomplete="one-time-code"
					hint="Six digits of your authenticator, or a recovery code."
					bind:value={code}
					error={errorAt('code')}
				/>
			{/if}
			<button class="btn btn-main" disabled={busy}>{busy ? 'Signing in …' : 'Sign in'}</button>
			{#if passkey}
				<input type="hidden" name="passkey" value={passkey} />
				<input type="hidden" name="sealed" value={sealed} />
			{/if}
			{#if mayPasskey}
				<button type="button" class="btn" disabled={busy} onclick={usePasskey}
					>Sign in with a passkey</button
				>
			{/if}
			<a class="text-sm" href={resolve('/sign-in/reset')}>I have a code for a new password</a>
		</form>
	</div>

	{#if data.demo}
		<section aria-labelledby="demo-title" class="border-line md:border-l md:pl-12">
			<h2 id="demo-title">Demo accounts</h2>
			<p class="text-quiet mt-1 mb-3 text-sm">
				Everything in the demo is made up. Choose who you are; the password is filled in.
			</p>
			<ul class="flex flex-col gap-2">
				{#each data.demo.people as person (person.signInName)}
					<li>
						<button
							type="button"
							class="border-line hover:border-ink bg-card flex min-h-14 w-full items-center justify-between gap-4 rounded-lg border px-4 py-2 text-left"
							onclick={() => {
								signInName = person.signInName;
								password = data.demo?.password ?? '';
							}}
						>
							<span>
								<span class="block font-semibold">{person.displayName}, {person.role}</span>
								<span class="text-quiet block text-sm">{person.does}</span>
							</span>
							<span class="num text-sm">{person.signInName}</span>
						</button>
					</li>
				{/each}
			</ul>
		</section>
	{/if}
</main>
