<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import {
		browserSupportsWebAuthn,
		startRegistration,
		type PublicKeyCredentialCreationOptionsJSON
	} from '@simplewebauthn/browser';
	import { onMount } from 'svelte';
	import { callApi } from '../api';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import TextField from '../form/TextField.svelte';
	import { moment } from '../moment.svelte';
	import RecoveryCodes from './RecoveryCodes.svelte';

	interface Props {
		passkeys: { id: string; name: string; madeAt: string; usedAt: string | null }[];
		/** Whether this server was opened by a name: a number can have none. */
		possible: boolean;
	}

	let { passkeys, possible }: Props = $props();
	let adding = $state(false);
	/** The one that is about to be taken away. */
	let going: string | undefined = $state();
	let name = $state('');
	let password = $state('');
	let codes: string[] = $state.raw([]);
	let deviceTrouble = $state('');
	let supported = $state(true);
	const working = new Saving();
	onMount(() => {
		supported = browserSupportsWebAuthn();
	});

	function begin(): void {
		[adding, going, deviceTrouble] = [true, undefined, ''];
	}

	async function add(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		deviceTrouble = '';
		const done = await working.run(async () => {
			const { options, sealed } = await callApi<{
				options: PublicKeyCredentialCreationOptionsJSON;
				sealed: string;
			}>('POST', '/me/passkeys/offer', {});
			let answer;
			try {
				answer = await startRegistration({ optionsJSON: options });
			} catch (error) {
				deviceTrouble =
					(error as Error).name === 'InvalidStateError'
						? 'This device has a passkey of your account already.'
						: 'This device made no passkey. Try again, or use another one.';
				return;
			}
			const response = { ...answer, clientExtensionResults: {} };
			const kept = await callApi<{ recoveryCodes: string[] }>('POST', '/me/passkeys', {
				...{ sealed, response, name, password }
			});
			codes = kept.recoveryCodes;
			await invalidateAll();
		});
		if (!done || deviceTrouble) return;
		[adding, name, password] = [false, '', ''];
	}

	async function remove(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const done = await working.run(async () => {
			await callApi('POST', `/me/passkeys/${going}/removal`, { password });
			await invalidateAll();
		});
		if (done) [going, password, codes] = [undefined, '', []];
	}
</script>

<section class="flex flex-col gap-4" aria-labelledby="passkeys-title">
	<h2 id="passkeys-title">Passkeys</h2>
	{#if deviceTrouble || working.message}
		<Notice kind="trouble">{deviceTrouble || working.message}</Notice>
	{/if}
	<RecoveryCodes {codes} />
	{#if passkeys.length}
		<ul class="border-line border-t">
			{#each passkeys as passkey (passkey.id)}
				<li class="border-line border-b py-1.5">
					<div class="flex min-h-12 flex-wrap items-center justify-between gap-x-4">
						<span>
							{passkey.name}<br />
							<span class="text-quiet text-sm"
								>since {moment(passkey.madeAt)}{passkey.usedAt
									? `, last used ${moment(passkey.usedAt)}`
									: ', not used yet'}</span
							>
						</span>
						{#if going !== passkey.id}
							<button
								class="btn"
								aria-label="Take away the passkey {passkey.name}"
								onclick={() => ([going, adding, password] = [passkey.id, false, ''])}
								>Take away</button
							>
						{/if}
					</div>
					{#if going === passkey.id}
						<form class="flex max-w-md flex-col gap-4 py-3" onsubmit={remove} novalidate>
							<TextField
								label="Your password"
								name="passkey-password"
								type="password"
								autocomplete="current-password"
								bind:value={password}
								error={working.errorAt('password')}
							/>
							<span class="flex gap-3">
								<button class="btn btn-main" disabled={working.busy}>Take it away</button>
								<button type="button" class="btn" onclick={() => (going = undefined)}
									>Keep it</button
								>
							</span>
						</form>
					{/if}
				</li>
			{/each}
		</ul>
	{:else}
		<p class="text-quiet">
			None. With a passkey this device lets you in by finger, face or PIN: no password is typed, and
			none can be spied out.
		</p>
	{/if}
	{#if !possible}
		<p class="text-quiet text-sm">
			This server was opened by its number; passkeys need its name. Ask whoever runs it.
		</p>
	{:else if !supported}
		<p class="text-quiet text-sm">This browser has no passkeys.</p>
	{:else if adding}
		<form class="flex max-w-md flex-col gap-4" onsubmit={add} novalidate>
			<TextField
				label="What you call this device"
				name="passkey-name"
				bind:value={name}
				error={working.errorAt('name')}
			/>
			<TextField
				label="Your password"
				name="passkey-password"
				type="password"
				autocomplete="current-password"
				bind:value={password}
				error={working.errorAt('password')}
			/>
			<button class="btn btn-main self-start" disabled={working.busy}>Make the passkey</button>
		</form>
	{:else}
		<button class="btn self-start" onclick={begin}>Add a passkey</button>
	{/if}
</section>
