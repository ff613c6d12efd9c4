<script lang="ts">
	import CopyButton from '../form/CopyButton.svelte';
	import { invalidateAll } from '$app/navigation';
	import { callApi } from '../api';
	import RecoveryCodes from './RecoveryCodes.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import TextField from '../form/TextField.svelte';

	interface Offer {
		secret: string;
		uri: string;
		picture: string;
		sealed: string;
	}

	interface Props {
		factor: { on: boolean; recoveryCodesLeft: number; asked: boolean };
		/** How many passkeys there are: one of them is a second factor too. */
		passkeys: number;
	}

	let { factor, passkeys }: Props = $props();
	let offer: Offer | undefined = $state.raw();
	let code = $state('');
	let password = $state('');
	/** Shown once, until the page is left. */
	let codes: string[] = $state.raw([]);
	const working = new Saving();

	function begin(): void {
		void working.run(async () => {
			offer = await callApi<Offer>('POST', '/me/second-factor/offer', {});
		});
	}

	async function turnOn(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const done = await working.run(async () => {
			const answer = await callApi<{ recoveryCodes: string[] }>('PUT', '/me/second-factor', {
				sealed: offer?.sealed ?? '',
				code,
				password
			});
			codes = answer.recoveryCodes;
			await invalidateAll();
		});
		if (!done) return;
		offer = undefined;
		[code, password] = ['', ''];
	}

	async function turnOff(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const done = await working.run(async () => {
			await callApi('POST', '/me/second-factor/removal', { password });
			await invalidateAll();
		});
		if (done) [password, codes] = ['', []];
	}
</script>

<section class="flex flex-col gap-4" aria-labelledby="factor-title">
	<h2 id="factor-title">Authenticator</h2>
	{#if working.message}<Notice kind="trouble">{working.message}</Notice>{/if}
	<RecoveryCodes {codes} />
	{#if factor.on}
		<p>
			On. Signing in asks for a code of your authenticator;
			<span class="num">{factor.recoveryCodesLeft}</span> recovery codes are left.
		</p>
		{#if factor.asked && passkeys === 0}
			<p class="text-quiet text-sm">Your role asks for it: it stays on.</p>
		{:else}
			<form class="flex max-w-md flex-col gap-4" onsubmit={turnOff} novalidate>
				<TextField
					label="Your password"
					name="factor-password"
					type="password"
					autocomplete="current-password"
					bind:value={password}
					error={working.errorAt('password')}
				/>
				<button class="btn self-start" disabled={working.busy}>Turn it off</button>
			</form>
		{/if}
	{:else if offer}
		<form class="flex max-w-md flex-col gap-4" onsubmit={turnOn} novalidate>
			<p>
				Scan this with an authenticator, or type the secret into it. Then type the code it shows.
			</p>
			<img
				class="w-48 rounded bg-white"
				src={offer.picture}
				alt="The secret, to scan"
				width="192"
				height="192"
			/>
			<p>
				<span class="num break-all" data-testid="factor-secret">{offer.secret}</span>
				<CopyButton text={offer.secret} what="the secret" />
			</p>
			<p>
				<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- opens another program -->
				<a href={offer.uri}>Open it in the authenticator of this device</a>
			</p>
			<TextField
				label="Code it shows"
				name="code"
				autocomplete="one-time-code"
				bind:value={code}
				error={working.errorAt('code')}
			/>
			<TextField
				label="Your password"
				name="factor-password"
				type="password"
				autocomplete="current-password"
				bind:value={password}
				error={working.errorAt('password')}
			/>
			<button class="btn btn-main self-start" disabled={working.busy}>Turn it on</button>
		</form>
	{:else}
		<p class="text-quiet">
			Off. With it, a password alone lets nobody in: signing in also asks for a code that an
			authenticator on your phone shows, without a connection.
		</p>
		<button
			class="btn self-start {factor.asked && passkeys === 0 ? 'btn-main' : ''}"
			disabled={working.busy}
			onclick={begin}>Set it up</button
		>
	{/if}
</section>
