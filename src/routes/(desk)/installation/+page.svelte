<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { callApi } from '$lib/ui/api';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import TextField from '$lib/ui/form/TextField.svelte';
	import { moment } from '$lib/ui/moment.svelte';

	let { data } = $props();
	const { installation } = $derived(data);
	const empty = { name: '', publicKey: '' };
	let values = $state({ ...empty });
	const adding = new Saving();
	const withdrawing = new Saving();

	async function add(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const done = await adding.run(async () => {
			await callApi('POST', '/installation/trusted', values);
			await invalidateAll();
		});
		if (done) values = { ...empty };
	}

	function withdraw(publicKey: string): void {
		void withdrawing.run(async () => {
			await callApi('POST', `/installation/trusted/${publicKey}/withdrawal`, {});
			await invalidateAll();
		});
	}
</script>

<svelte:head><title>Installation · Skiaxis</title></svelte:head>
<h1>Installation</h1>
<p class="text-quiet mt-1 max-w-2xl">
	Every hop that leaves here as a ZIP is signed with the key of this installation. Whoever trusts
	this key sees who recorded and who signed; without it, what comes in reads as not verified.
</p>

<div class="mt-6 grid gap-10 lg:grid-cols-[1fr_22rem]">
	<div class="flex min-w-0 flex-col gap-8">
		<section aria-labelledby="own-title">
			<h2 id="own-title">Its own key</h2>
			<dl class="mt-2 grid gap-x-6 gap-y-2 sm:grid-cols-[9rem_1fr]">
				<dt class="text-quiet">Signs as</dt>
				<dd>{installation.name || 'no name yet: set SKIAXIS_NAME where it is started'}</dd>
				<dt class="text-quiet">Public key</dt>
				<dd class="num break-all" data-testid="own-key">{installation.publicKey}</dd>
				<dt class="text-quiet">Fingerprint</dt>
				<dd class="num font-semibold">{installation.fingerprint}</dd>
			</dl>
			<p class="text-quiet mt-2 text-sm">
				Send the public key to the other installation's administrator, and read the fingerprint to
				them by voice.
			</p>
		</section>

		<section aria-labelledby="trusted-title">
			<h2 id="trusted-title">Installations trusted here</h2>
			{#if withdrawing.message}<Notice kind="trouble">{withdrawing.message}</Notice>{/if}
			{#if installation.trusted.length === 0}
				<p class="text-quiet mt-2">
					None yet: hops from elsewhere can be imported, and read as not verified.
				</p>
			{:else}
				<ul class="border-line mt-2 border-t">
					{#each installation.trusted as one (one.publicKey)}
						<li
							class="border-line flex flex-wrap items-center justify-between gap-x-6 gap-y-1 border-b py-2"
							data-trusted={one.withdrawnAt === null}
						>
							<span class="min-w-0 flex-1 basis-72">
								<strong>{one.name}</strong><br />
								<span class="num">{one.fingerprint}</span><br />
								<span class="text-quiet text-sm"
									>{one.withdrawnAt
										? `No longer trusted since ${moment(one.withdrawnAt)}`
										: `Added by ${one.addedBy}, ${moment(one.addedAt)}`}</span
								>
							</span>
							{#if one.withdrawnAt === null}
								<button
									class="btn"
									disabled={withdrawing.busy}
									onclick={() => withdraw(one.publicKey)}
									aria-label="Trust {one.name} no longer">Trust no longer</button
								>
							{/if}
						</li>
					{/each}
				</ul>
			{/if}
		</section>
	</div>

	<form class="flex flex-col gap-4" onsubmit={add} novalidate {@attach adding.form}>
		<h2>Trust another installation</h2>
		{#if adding.message}<Notice kind="trouble">{adding.message}</Notice>{/if}
		<TextField
			label="Its name"
			name="name"
			hint="As it shall read here beside what it signed."
			bind:value={values.name}
			error={adding.errorAt('name')}
		/>
		<TextField
			label="Its public key"
			name="publicKey"
			hint="43 signs, as its own Installation page shows them. Compare the fingerprint by voice."
			bind:value={values.publicKey}
			error={adding.errorAt('publicKey')}
		/>
		<button class="btn btn-main" disabled={adding.busy}>Trust it</button>
	</form>
</div>
