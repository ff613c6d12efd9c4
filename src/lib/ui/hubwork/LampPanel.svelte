<script lang="ts">
	import { LAMP_WORDS, type LampSeen } from '#core/catalogue/installation';
	import type { StationProgress } from '#core/bringup/bringUp';
	import Notice from '../form/Notice.svelte';
	import type { LiveHub } from './liveHub.svelte';
	import { lampText } from './stageWords';

	let { live, at }: { live: LiveHub; at: StationProgress } = $props();
	const sheet = $derived(at.station.part.installation);
	const lamps = $derived(sheet?.lamps ?? []);
	/** What a lamp can be found as: what the sheet has, or every state where nobody has typed it. */
	const states = $derived<LampSeen[]>([
		...(lamps.length ? lamps.map(({ state }) => state) : (Object.keys(LAMP_WORDS) as LampSeen[])),
		'dark'
	]);
	let busy = $state(false);
	let message: string | undefined = $state();

	async function look(): Promise<void> {
		busy = true;
		message = undefined;
		try {
			await live.look({ station: at.station.id, look: 'lamp' });
		} catch (error) {
			message = error instanceof Error ? error.message : 'It did not work.';
		}
		busy = false;
	}
	const keep = (state: LampSeen): Promise<void> =>
		live.add(at.station.id, 'lamp', { state, source: 'hand' });
</script>

<section class="flex flex-col gap-3" aria-labelledby="lamp-title" data-testid="lamp">
	<h2 id="lamp-title">
		{at.lamp === null ? 'What does its lamp show?' : 'Look at its lamp again'}
	</h2>
	{#if at.lamp !== null}
		<p>Last seen: <strong>{lampText(at.lamp, lamps)}</strong></p>
	{/if}
	{#if at.stage === 'waits'}
		<Notice
			>{at.unit?.name ?? 'Its unit'} is not up yet: until it is, this lamp can show no link. A dark lamp
			is worth telling now.</Notice
		>
	{/if}
	{#if live.mayRecord}
		{#if live.practice}
			<button
				type="button"
				class="btn {at.lamp === null && at.stage !== 'waits' ? 'btn-main' : ''} btn-big"
				disabled={busy}
				onclick={() => void look()}>{busy ? 'Looking …' : 'Look at the lamp'}</button
			>
		{:else}
			<div class="grid grid-cols-1 gap-2 sm:grid-cols-2" role="group" aria-label="Lamp">
				{#each states as state (state)}
					<button
						type="button"
						class="btn min-h-14 justify-start text-left"
						aria-pressed={at.lamp === state}
						onclick={() => void keep(state)}
					>
						<span>
							<strong class="block"
								>{state === 'dark'
									? 'Dark'
									: (lamps.find((lamp) => lamp.state === state)?.shows ??
										LAMP_WORDS[state])}</strong
							>
							<span class="text-quiet text-sm font-normal"
								>{state === 'dark' ? 'no power' : LAMP_WORDS[state]}</span
							>
						</span>
					</button>
				{/each}
			</div>
		{/if}
	{/if}
	{#if message}<p class="trouble font-semibold" role="alert">▲ {message}</p>{/if}
	{#if sheet?.reset}
		<Notice kind="caution"><strong>Reset button.</strong> {sheet.reset}</Notice>
	{/if}
</section>
