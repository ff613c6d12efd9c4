<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { page } from '$app/state';
	import { callApi } from '../api';
	import CopyButton from '../form/CopyButton.svelte';
	import Fold from '../form/Fold.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import { moment } from '../moment.svelte';

	interface Props {
		calendars: readonly {
			id: string;
			crewId: string | null;
			madeAt: Date | string;
			usedAt: Date | string | null;
		}[];
		crews: readonly { id: string; name: string }[];
	}

	let { calendars, crews }: Props = $props();
	const saving = new Saving();
	/** Addresses made on this page: the only time they can be read. */
	let made: { id: string; address: string }[] = $state([]);
	const nameOf = (crewId: string | null): string =>
		crewId === null
			? 'My days'
			: `Days of ${crews.find(({ id }) => id === crewId)?.name ?? 'a crew'}`;

	async function make(crewId: string | null): Promise<void> {
		const id = crypto.randomUUID();
		const done = await saving.run(async () => {
			const { path } = await callApi<{ path: string }>('POST', '/me/calendars', { id, crewId });
			made = [...made, { id, address: `${page.url.origin}${path}` }];
		});
		if (done) await invalidateAll();
	}
	async function withdraw(id: string): Promise<void> {
		if (await saving.run(() => callApi('DELETE', `/me/calendars/${id}`))) await invalidateAll();
	}
</script>

<Fold title="In a calendar">
	<div class="flex flex-col gap-3 pt-2 text-sm">
		<p class="max-w-prose">
			A calendar program can follow your days by an address. Whoever has the address reads them:
			keep it to yourself, and withdraw it when a device is lost.
		</p>
		<SavingTrouble {saving} />
		{#if calendars.length}
			<ul class="border-line border-t" data-testid="calendars">
				{#each calendars as calendar (calendar.id)}
					{@const fresh = made.find(({ id }) => id === calendar.id)}
					<li class="border-line flex flex-wrap items-center gap-x-4 gap-y-1 border-b py-1">
						<span class="min-w-0 flex-1">
							<strong>{nameOf(calendar.crewId)}</strong>
							<span class="text-quiet block"
								>made {moment(calendar.madeAt)}{calendar.usedAt
									? `, read ${moment(calendar.usedAt)}`
									: ', not read yet'}</span
							>
							{#if fresh}
								<span class="num block break-all" data-testid="calendar-address"
									>{fresh.address}</span
								>
								<span class="block font-semibold">It is shown this once. </span>
							{/if}
						</span>
						{#if fresh}<CopyButton text={fresh.address} what="the address" />{/if}
						<button
							type="button"
							class="btn"
							aria-label="Withdraw the address of {nameOf(calendar.crewId)}"
							onclick={() => void withdraw(calendar.id)}>Withdraw</button
						>
					</li>
				{/each}
			</ul>
		{/if}
		<div class="flex flex-wrap gap-3">
			<button type="button" class="btn" disabled={saving.busy} onclick={() => void make(null)}
				>Make an address for my days</button
			>
			{#each crews as crew (crew.id)}
				<button type="button" class="btn" disabled={saving.busy} onclick={() => void make(crew.id)}
					>… for {crew.name}</button
				>
			{/each}
			<a class="btn" href="/api/v1/me/calendar.ics" download>As a file</a>
		</div>
	</div>
</Fold>
