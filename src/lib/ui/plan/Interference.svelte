<script lang="ts">
	import { farEnd, type End } from '#core/ends';
	import type { HopInterference, ToldReceiver } from '$lib/server/services/interference';
	import { callApi, troubleOf } from '../api';
	import Notice from '../form/Notice.svelte';
	import { fixed } from '../format';
	import { measure } from '../units.svelte';
	import { usePlanEditor } from './editor.svelte';

	const editor = usePlanEditor();
	let found: HopInterference | undefined = $state.raw();
	let busy = $state(false);
	let trouble = $state('');
	let taken = $state(false);

	async function look(): Promise<void> {
		if (!editor.hopId || busy) return;
		busy = true;
		trouble = '';
		taken = false;
		try {
			found = await callApi<HopInterference>('GET', `/hops/${editor.hopId}/interference`);
		} catch (error) {
			trouble = troubleOf(error);
		} finally {
			busy = false;
		}
	}

	/** The strongest that any receiver of an end hears on a pair; nothing where none hears anything. */
	function levelAt(end: End, secondPair: boolean): string {
		const levels = (found?.heard ?? []).flatMap((receiver) =>
			receiver.end === end && receiver.secondPair === secondPair && receiver.levelDbm !== null
				? [receiver.levelDbm]
				: []
		);
		return levels.length ? Math.max(-160, ...levels).toFixed(1) : '';
	}

	function takeOver(): void {
		for (const end of ['A', 'B'] as const) {
			const own = editor.draft.values.ends[end];
			own.interferenceDbm = levelAt(end, false);
			own.secondInterferenceDbm = levelAt(end, true);
		}
		taken = true;
	}

	const CHANNELS = {
		same: 'on the same channel',
		adjacent: 'on the next channel',
		second: 'on the channel after the next'
	} as const;
	const hearing = $derived(found?.heard.filter(({ levelDbm }) => levelDbm !== null) ?? []);
	const silent = $derived((found?.heard.length ?? 0) - hearing.length);
	const several = $derived((editor.plan?.carriers.length ?? 0) > 1);
	/** A level below this raises no threshold that anybody sees, dB. */
	const SEEN_DB = 0.05;
	const raised = (receiver: ToldReceiver): string =>
		receiver.degradationDb < SEEN_DB
			? 'raises no threshold'
			: `raises every threshold by ${fixed(receiver.degradationDb, 1)} dB`;
	const shiftWords = (mhz: number): string =>
		mhz === 0
			? 'the same channel'
			: `both frequencies ${fixed(Math.abs(mhz), 0)} MHz ${mhz > 0 ? 'higher' : 'lower'}`;
</script>

<div class="flex flex-wrap items-center gap-3">
	<button type="button" class="btn" disabled={busy || !editor.hopId} onclick={() => void look()}
		>{busy ? 'Looking …' : found ? 'Look again' : 'Look at the network'}</button
	>
	<span class="text-quiet text-sm"
		>{editor.hopId
			? 'Every hop in reach, by its draft as it is saved; this one too.'
			: 'Save the hop first.'}</span
	>
</div>
{#if trouble}<div class="mt-3"><Notice kind="trouble">{trouble}</Notice></div>{/if}
{#if found}
	<div class="mt-3 flex max-w-prose flex-col gap-3" data-testid="interference">
		{#if hearing.length === 0}<p>No receiver of this hop hears anybody.</p>{/if}
		{#each hearing as receiver (`${receiver.carrierNumber} ${receiver.end}`)}
			<div>
				<p>
					<span class="end-{receiver.end} text-end-own font-bold"
						>{farEnd(receiver.end)} to {receiver.end}{several
							? `, ${receiver.carrierName.toLowerCase()}`
							: ''}</span
					>:
					{#if receiver.levelDbm !== null}
						<strong class="num">{fixed(receiver.levelDbm, 1)} dBm</strong> of others, {#if receiver.carrierToInterferenceDb !== null}<span
								class="num">{fixed(receiver.carrierToInterferenceDb, 1)} dB</span
							> below the own signal;{/if}
						{raised(receiver)}.
					{/if}
				</p>
				{#if receiver.contributions.length}
					<ol class="mt-1 flex flex-col gap-0.5 text-sm">
						{#each receiver.contributions as one, i (i)}
							<li>
								<span class="num">{fixed(one.levelDbm, 1)} dBm</span>
								<strong>{one.hopName}</strong>, from {one.siteName},
								{measure(one.distanceKm, 'km', 1)} away, {CHANNELS[one.channels]}{one.crossed
									? ', crossed'
									: ''}; {fixed(one.offAxisHereDeg, 1)}° off this dish, {fixed(
									one.offAxisThereDeg,
									1
								)}° off that one{one.terrainDb === null
									? '; the ground was not looked at'
									: one.terrainDb > 0.5
										? `; the ground takes ${fixed(one.terrainDb, 0)} dB`
										: ''}.
							</li>
						{/each}
					</ol>
				{/if}
			</div>
		{/each}
		{#if hearing.length && silent}<p>
				{silent === 1 ? 'The other receiver hears' : `The ${silent} other receivers hear`} nobody.
			</p>{/if}
		{#if found.harmed.length}
			<div>
				<p class="font-semibold">What this hop does to others</p>
				<ul class="mt-1 flex flex-col gap-0.5 text-sm">
					{#each found.harmed as receiver, i (i)}
						<li>
							<strong>{receiver.hopName}</strong> at {receiver.siteName}: {raised(receiver)}.
						</li>
					{/each}
				</ul>
			</div>
		{/if}
		{#if found.choices.length}
			<div>
				<p class="font-semibold">Quieter, in this order</p>
				<ul class="mt-1 flex flex-col gap-0.5 text-sm">
					{#each found.choices as choice, i (i)}
						<li>
							{shiftWords(choice.shiftMhz)}{choice.crossed ? ', the other polarization' : ''}: at
							most {fixed(choice.hereDb, 1)} dB lost here, {fixed(choice.thereDb, 1)} dB elsewhere, over
							open ground.
						</li>
					{/each}
				</ul>
			</div>
		{/if}
		<p class="text-quiet text-sm">
			{found.looked === 1 ? 'One other hop' : `${found.looked} other hops`} of this band within
			{measure(found.reachKm, 'km', 0)}{found.more ? ', and more that were not looked at' : ''}, by
			the peak envelopes of their dishes (ITU-R F.699-7), free space, and the terrain for the
			strongest. What stands at the same site is judged in the review.
			{#if found.overlapOnly}A radio here states nothing of neighbouring channels: only channels
				that overlap are counted.{/if}
			{#if found.leftOut.length}Left out, since their drafts contradict themselves: {found.leftOut.join(
					', '
				)}.{/if}
		</p>
		<div>
			<button type="button" class="btn" onclick={takeOver}>Take these levels into the plan</button>
			{#if taken}<span class="text-quiet ml-2 text-sm" role="status"
					>Taken: the margins count them. Save the plan to keep them.</span
				>{/if}
		</div>
	</div>
{/if}
