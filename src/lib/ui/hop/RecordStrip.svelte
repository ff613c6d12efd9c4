<script lang="ts">
	import { resolve } from '$app/paths';
	import { clockWords } from '#core/record/deviceClock';
	import { deviceClock } from '../deviceClock.svelte';
	import Notice from '../form/Notice.svelte';
	import { timeOfDay } from '../moment.svelte';
	import { session } from '../session.svelte';
	import { forgetOnDevice } from '../frame/device';
	import { saveText, unsentText } from './unsentFile';
	import type { LiveFeed } from './liveFeed';

	interface Props {
		live: LiveFeed;
		kept: boolean;
		personName: string;
		/** What is on this device once it is kept. */
		what?: 'hop' | 'hub';
	}

	let { live, kept, personName, what = 'hop' }: Props = $props();
	const outgoing = $derived(live.outgoing);
	const refusedCount = $derived(outgoing.refused.length + outgoing.refusedPhotos.length);
	/** Saved by its owner, what was refused may be taken off the device. */
	let saved = $state(false);

	async function save(): Promise<void> {
		const text = await unsentText({
			hopId: live.id,
			name: personName,
			writtenBy: personName,
			records: outgoing.refused.map(({ record }) => record),
			photos: outgoing.refusedPhotos
		});
		saveText(text, `unsent-${live.id.slice(0, 8)}.json`);
		saved = true;
	}

	async function takeOff(): Promise<void> {
		await outgoing.takeOff();
		saved = false;
	}
	const waits = $derived(live.waitingCount + live.photosWaiting.length > 0);
	const alive = $derived(live.nowMs > 0);
	const standing = $derived.by(() => {
		if (session.ended) return 'Signed out: what you record is kept on this device.';
		if (live.barred) return 'Not followed any more.';
		if (!live.connected) return 'No connection: what you record is kept on this device.';
		if (outgoing.otherPerson) return 'Connected, sending nothing in another name.';
		if (live.planRevised) return 'Connected, waiting for your answer.';
		if (waits) return 'Connected, sending.';
		return refusedCount > 0 ? 'Connected; not everything was taken.' : 'Connected, all sent.';
	});
</script>

<div class="mt-1 flex flex-col gap-2" aria-live="polite">
	<!-- As high before it is alive and while it sends as afterwards: what is below does not move. -->
	<p
		class="text-quiet flex min-h-15 flex-wrap content-start gap-x-2 text-sm lg:min-h-5"
		data-testid="record-state"
	>
		{#if alive}
			<span class={live.connected ? '' : 'text-ink font-semibold'}>
				<span aria-hidden="true">{live.connected ? '●' : '○'}</span>
				{standing}
			</span>
			{#if live.waitingCount > 0}
				<span>
					<span class="num">{live.waitingCount}</span>
					{live.waitingCount === 1 ? 'record waits' : 'records wait'} to be sent.
				</span>
			{/if}
			{#if live.photosWaiting.length > 0}
				<span>
					<span class="num">{live.photosWaiting.length}</span>
					{live.photosWaiting.length === 1 ? 'photo waits' : 'photos wait'} to be sent.
				</span>
			{/if}
			{#if kept && live.connected}<span>This {what} is on this device.</span>{/if}
		{/if}
	</p>
	{#if deviceClock.aheadS !== 0}
		<Notice kind="trouble">
			<p data-testid="clock-off">
				The clock of this device is {clockWords(deviceClock.aheadS)}. Set it right: the times in the
				record come from it.
			</p>
		</Notice>
	{/if}
	{#if live.barred}
		<Notice kind="trouble">
			<p data-testid="barred">
				{live.barred} Whoever runs the job can give it back to you; what waits here stays on this device.
			</p>
		</Notice>
	{/if}
	{#if live.planRevised}
		<Notice kind="trouble">
			<p class="font-semibold">{live.planRevised}</p>
			<p class="mt-1">
				Nothing is lost: {live.waitingCount}
				{live.waitingCount === 1 ? 'record waits' : 'records wait'} on this device. They can be kept as
				measured against the older plan; look at the new one first if levels or parts may have changed.
			</p>
			<div class="mt-2 flex flex-wrap gap-3">
				<button class="btn" onclick={() => location.reload()}>Show the new plan</button>
				<button class="btn btn-main" onclick={() => void live.keepAgainstOlder()}
					>Keep them against the older plan</button
				>
			</div>
		</Notice>
	{/if}
	{#if outgoing.otherPerson}
		<Notice kind="trouble">
			<p>{outgoing.otherPerson}</p>
			<!-- Who is signed in goes first: the page to sign in leads on whoever is. -->
			<form class="mt-2" method="POST" action={resolve('/sign-out')} onsubmit={forgetOnDevice}>
				<button class="btn">Sign out, then sign in again</button>
			</form>
		</Notice>
	{/if}
	{#if refusedCount > 0}
		<Notice kind="trouble">
			<p class="font-semibold">
				The server did not take {refusedCount === 1 ? 'this' : `these ${refusedCount}`}. Nothing is
				lost: it stays on this device.
			</p>
			<ul class="mt-1 list-disc pl-5" data-testid="refused">
				{#each outgoing.refused as { record, why } (record.id)}
					<li>
						{record.kind.replaceAll('-', ' ')} of
						{timeOfDay(record.recordedAt)}: {why.message}
					</li>
				{/each}
				{#each outgoing.refusedPhotos as photo (photo.id)}
					<li>photo at {photo.end}: {photo.refused?.message}</li>
				{/each}
			</ul>
			<div class="mt-2 flex flex-wrap gap-3">
				<button class="btn" onclick={() => void outgoing.tryAgain()}>Try again</button>
				<button class="btn" onclick={() => void save()}>Save as a file</button>
				{#if saved}
					<button class="btn" onclick={() => void takeOff()}>Saved: take off this device</button>
				{/if}
			</div>
		</Notice>
	{/if}
	{#each outgoing.others as { name, count } (name)}
		<Notice>
			<p data-testid="others-waiting">
				<span class="num">{count}</span>
				{count === 1 ? 'record or photo' : 'records and photos'} of {name || 'somebody else'}
				{count === 1 ? 'waits' : 'wait'} on this device, to be sent when {name || 'they'}
				{name ? 'signs' : 'sign'} in here.
			</p>
		</Notice>
	{/each}
</div>
