<script lang="ts">
	import { untrack } from 'svelte';
	import type { StationProgress } from '#core/bringup/bringUp';
	import { typedNumber } from '../align/numberInput';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import TextField from '../form/TextField.svelte';
	import { dbm, fixed } from '../format';
	import type { LiveHub } from './liveHub.svelte';

	let { live, at }: { live: LiveHub; at: StationProgress } = $props();
	const served = $derived(at.station.kind === 'terminal' ? at.station.served : null);
	const draft = untrack(
		() =>
			new Draft(live.placeOf(at.station.id, 'link-level'), {
				...{ downDbm: '', upDbm: '', downMbitS: '', upMbitS: '' }
			})
	);
	const FIELDS = [
		{ key: 'downDbm', label: 'Level at the terminal', unit: 'dBm', low: -150, high: 20 },
		{ key: 'upDbm', label: 'Level at the hub', unit: 'dBm', low: -150, high: 20 },
		{ key: 'downMbitS', label: 'Rate towards it', unit: 'Mbit/s', low: 0, high: 100_000 },
		{ key: 'upMbitS', label: 'Rate from it', unit: 'Mbit/s', low: 0, high: 100_000 }
	] as const;
	type Key = (typeof FIELDS)[number]['key'];
	const planned = $derived<Record<Key, string | undefined>>({
		downDbm: served ? dbm(served.down.used.levelDbm) : undefined,
		upDbm: served ? dbm(served.up.used.levelDbm) : undefined,
		downMbitS: served ? `${fixed(served.down.rateMbitS, 0)} Mbit/s alone` : undefined,
		upMbitS: served ? `${fixed(served.up.rateMbitS, 0)} Mbit/s alone` : undefined
	});
	let tried = $state(false);
	let busy = $state(false);
	let message: string | undefined = $state();
	const valueOf = (key: Key): number | undefined => {
		const { low, high } = FIELDS.find((field) => field.key === key)!;
		const value = typedNumber(draft.values[key]);
		return value !== undefined && value >= low && value <= high ? value : undefined;
	};
	/** Only the first is needed; one that is typed must be a number. */
	const problemAt = (key: Key): string | undefined => {
		const text = draft.values[key].trim();
		if (!tried || (text === '' && key !== 'downDbm') || valueOf(key) !== undefined)
			return undefined;
		const { label, unit, low, high } = FIELDS.find((field) => field.key === key)!;
		return `${label}: a number from ${low} to ${high} ${unit} is needed.`;
	};

	async function keep(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		tried = true;
		const downDbm = valueOf('downDbm');
		if (downDbm === undefined || FIELDS.some(({ key }) => problemAt(key))) return;
		const payload = {
			downDbm,
			upDbm: valueOf('upDbm') ?? null,
			downMbitS: valueOf('downMbitS') ?? null,
			upMbitS: valueOf('upMbitS') ?? null,
			source: 'hand' as const
		};
		draft.clear();
		tried = false;
		await live.add(at.station.id, 'link-level', payload);
	}
	async function look(): Promise<void> {
		busy = true;
		message = undefined;
		try {
			await live.look({ station: at.station.id, look: 'page' });
		} catch (error) {
			message = error instanceof Error ? error.message : 'It did not work.';
		}
		busy = false;
	}
</script>

<section class="flex flex-col gap-3" aria-labelledby="level-title" data-testid="level">
	<h2 id="level-title">Level and rate, from its own page</h2>
	{#if at.level}
		<p class="num">
			Read: {dbm(at.level.downDbm)} at the terminal{at.level.upDbm === null
				? ''
				: `, ${dbm(at.level.upDbm)} at the hub`}{at.level.downMbitS === null
				? ''
				: `; ${fixed(at.level.downMbitS, 0)} Mbit/s towards it`}{at.level.upMbitS === null
				? ''
				: `, ${fixed(at.level.upMbitS, 0)} Mbit/s from it`}.
		</p>
	{/if}
	{#if live.mayRecord}
		{#if live.practice}
			<p class="text-quiet text-sm">
				By the plan {planned.downDbm ?? 'nothing'} at the terminal, {planned.upDbm ?? 'nothing'} at the
				hub.
			</p>
			<button
				type="button"
				class="btn {at.level ? '' : 'btn-main'} btn-big"
				disabled={busy}
				onclick={() => void look()}>{busy ? 'Reading …' : 'Read its page'}</button
			>
		{:else}
			<form class="flex flex-col gap-3" onsubmit={keep} novalidate>
				<KeptTyping {draft} />
				<div class="grid grid-cols-1 gap-3 sm:grid-cols-2">
					{#each FIELDS as { key, label, unit } (key)}
						<TextField
							{label}
							name={key}
							{unit}
							numeric
							hint={planned[key] ? `Plan: ${planned[key]}.` : undefined}
							error={problemAt(key)}
							bind:value={draft.values[key]}
						/>
					{/each}
				</div>
				<button class="btn {at.level ? '' : 'btn-main'} btn-big">Record level and rate</button>
			</form>
		{/if}
	{/if}
	{#if message}<p class="trouble font-semibold" role="alert">▲ {message}</p>{/if}
</section>
