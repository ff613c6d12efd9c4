<script lang="ts">
	import { inventoryOf, type RadioItem } from '#core/budget/inventory';
	import { whileAligning } from '#core/budget/senders';
	import { ALL_REMAINING, buildStateOf } from '#core/tower/buildState';
	import { stopStateOf } from '#core/safety/stopCards';
	import { farEnd, type End } from '#core/ends';
	import { untrack } from 'svelte';
	import { resolve } from '$app/paths';
	import { allInAlignment, alignmentStateOf, type ALIGNMENT_ROWS } from '#core/record/radioStates';
	import type { RadioInAlignment } from '#core/record/records';
	import StopCardForm from '../build/StopCardForm.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import Notice from '../form/Notice.svelte';
	import TextField from '../form/TextField.svelte';
	import { fixed } from '../format';
	import { moment } from '../moment.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import Worded from '../words/Worded.svelte';
	import RadioByRadio from './RadioByRadio.svelte';

	interface Props {
		end: End;
		live: LiveHop;
	}

	let { end, live }: Props = $props();
	const far = $derived(farEnd(end));
	const own = $derived(live.recorded.ends[end]);
	const latest = $derived(own.alignmentState);
	const confirmed = $derived(live.state.ends[end].alignmentStateConfirmed);
	const farConfirmed = $derived(live.state.ends[far].alignmentStateConfirmed);

	type Row = (typeof ALIGNMENT_ROWS)[number];
	const RADIO_ROWS: { key: Row; what: (radio: RadioItem) => string; why: string }[] = [
		{
			key: 'powerControlOff',
			what: () => 'ATPC is off',
			why: 'It hides a worse aim by sending more: the reading rises as the pointing worsens.'
		},
		{
			key: 'adaptiveModulationOff',
			what: () => 'ACM is off',
			why: 'A lower modulation may send more power, and the level jumps.'
		},
		{
			key: 'fixedPower',
			what: (radio) =>
				`Power is fixed at ${fixed(radio.alignmentPowerDbm, 0)} dBm in ${radio.part.alignmentState.modulation}`,
			why: 'The planned level of the far end holds for this power only.'
		},
		{
			key: 'sendsAsListed',
			what: (radio) =>
				radio.number === 1
					? `The transmitter is on, on ${fixed(radio.transmitFrequencyGhz, 3)} GHz`
					: `As planned: ${whileAligning(radio)}`,
			why: 'The far end aligns on what this end sends; nothing else may be read in its place.'
		}
	];
	const radios = $derived(inventoryOf(live.revision.input, end).radios);
	/** A record from before each radio was confirmed by itself stands for all of them. */
	function sinceOf(radio: string): string | undefined {
		const since =
			own.radiosIn[radio] ?? (confirmed && !own.alignmentState?.radios ? latest?.at : '');
		return since ? `In it since ${moment(since)}` : undefined;
	}
	/** What of each radio stands while aligning: its own power, frequency and what it waits for. */
	const settings = $derived(
		radios.map((radio) => ({
			key: radio.key,
			name: radio.name,
			stands: sinceOf(radio.key),
			rows: RADIO_ROWS.map(({ key, what, why }) => ({ key, what: what(radio), why })),
			words: [
				`${fixed(radio.transmitFrequencyGhz, 4)} GHz, ${fixed(radio.alignmentPowerDbm, 0)} dBm in ${radio.part.alignmentState.modulation}, ${radio.polarization}`,
				whileAligning(radio)
			]
				.filter(Boolean)
				.join('; ')
		}))
	);
	const several = $derived(radios.length > 1);
	/** How each kind of radio here enters the state: once where all are alike. */
	const kinds = $derived([...new Map(radios.map(({ part }) => [part.code, part])).values()]);

	const building = $derived(buildStateOf(live.recorded, end));
	/** What was accepted is not asked for again by who comes on a visit. */
	const leftToBuild = $derived(
		live.accepted ? 0 : building.steps.length - building.done - building.skipped
	);
	const mayTransmit = $derived(
		stopStateOf('transmit', live.recorded.ends[end].stopCards.transmit, live.nowMs).kind === 'go' &&
			leftToBuild === 0
	);
	const draft = untrack(
		() => new Draft(live.placeOf(end, 'leave-out'), { cause: '', authorisedBy: '' })
	);
	const { cause, authorisedBy } = $derived(draft.values);
	let causeProblem: string | undefined = $state();
	let wordProblem: string | undefined = $state();
	/** What can hurt or destroy is left out by a named person only. */
	const gated = $derived(
		building.steps.some(({ step, state }) => step.gate && (state === 'open' || state === 'blocked'))
	);
	function leaveOut(event: SubmitEvent): void {
		event.preventDefault();
		causeProblem = cause.trim().length < 3 ? 'Write the cause in a few words.' : undefined;
		wordProblem =
			gated && authorisedBy.trim().length < 2
				? 'Lifts and supplies are among them: name the person on whose word they are left out.'
				: undefined;
		if (!causeProblem && !wordProblem) {
			void live.add(end, 'step-skipped', {
				step: ALL_REMAINING,
				cause: cause.trim(),
				...(gated ? { authorisedBy: authorisedBy.trim() } : {})
			});
			draft.clear();
		}
	}
	/** What was ticked of each radio. */
	const ticks = untrack(
		() => new Draft(live.placeOf(end, 'alignment-state'), { ticked: [] as string[] })
	);
	const each = $derived(
		ticks.values.ticked.length === 0
			? []
			: settings.map(({ key, stands }) =>
					stateOf(
						key,
						(row) => stands !== undefined || ticks.values.ticked.includes(`${key}/${row}`)
					)
				)
	);
	const said = $derived(alignmentStateOf(each));

	function confirm(): void {
		const whole = said;
		// Entered anew some day, nothing is ticked from before.
		ticks.clear();
		void live.add(end, 'alignment-state', whole);
	}

	/** One radio left by itself or by a hand; the others stay in it. */
	function leftIt(left: string): void {
		const list = radios.map(({ key }) => stateOf(key, () => key !== left && !!own.radiosIn[key]));
		void live.add(end, 'alignment-state', alignmentStateOf(list));
	}

	const stateOf = (radio: string, holds: (row: Row) => boolean): RadioInAlignment => ({
		radio,
		powerControlOff: holds('powerControlOff'),
		adaptiveModulationOff: holds('adaptiveModulationOff'),
		fixedPower: holds('fixedPower'),
		sendsAsListed: holds('sendsAsListed')
	});

	function leave(): void {
		void live.add(end, 'alignment-state', {
			powerControlOff: false,
			adaptiveModulationOff: false,
			fixedPower: false,
			transmitterOn: false
		});
	}
</script>

<div class="flex max-w-2xl flex-col gap-5 pt-4">
	<div>
		<h1>Bring {end} into the alignment state</h1>
		<p class="text-quiet mt-1">
			<Worded
				text="ATPC and ACM off, power fixed, transmitter on: at both ends, before any dish moves."
			/>
			{#each kinds as kind (kind.code)}
				{kind.code} takes about <span class="num">{kind.bootMinutes}</span> minutes to come up.
			{/each}
		</p>
	</div>
	<Notice kind="caution">
		<strong>Before the transmitter goes on:</strong> nobody in front of the dish or with an open waveguide
		in hand; transmit only as licensed; indoor supply before outdoor. Local rules and licensed people
		decide.
	</Notice>
	{#each kinds as kind (kind.code)}
		<Notice>
			<strong>How {kinds.length > 1 ? kind.code : 'this radio'} enters it:</strong>
			{kind.alignmentState.enter}
		</Notice>
	{/each}

	{#if confirmed}
		<p class="text-lg font-semibold">
			{end} is in the alignment state, confirmed {latest ? moment(latest.at) : ''}{latest?.by
				? ` by ${latest.by}`
				: ''}.
		</p>
		<p>
			{farConfirmed
				? `${far} is ready too: the dishes may move.`
				: `Wait for ${far}: no dish moves until both ends are ready.`}
		</p>
		{#if several}
			<RadioByRadio
				radios={settings}
				onleft={live.mayRecord && Object.keys(own.radiosIn).length > 0 ? leftIt : undefined}
			/>
		{/if}
		<div class="flex flex-wrap gap-3">
			<a
				class="btn btn-main"
				href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
					hopId: live.hopId,
					end: end === 'A' ? 'a' : 'b',
					stage: 'align'
				})}>Go on to align</a
			>
			{#if live.mayRecord}
				<button class="btn" onclick={leave}
					>{several ? 'All of them have left it again' : 'It has left that state again'}</button
				>
			{/if}
		</div>
	{:else if live.mayRecord}
		{#if leftToBuild > 0}
			<section class="flex flex-col gap-3" data-testid="left-to-build">
				<Notice kind={building.trouble ? 'trouble' : 'caution'}>
					<strong>{leftToBuild} steps of the building are open.</strong>
					{building.steps.find((step) => step.state === 'trouble')?.reason ??
						`Next: ${building.next?.step.title ?? ''}.`}
				</Notice>
				<a
					class="btn"
					href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
						hopId: live.hopId,
						end: end === 'A' ? 'a' : 'b',
						stage: 'build'
					})}>Go to the building</a
				>
				{#if building.trouble === 0}
					<form class="flex flex-col gap-2" onsubmit={leaveOut}>
						<KeptTyping {draft} />
						<TextField
							label="Or leave them out, with the cause"
							name="build-cause"
							hint="Such as: built on an earlier visit, this one only aligns."
							bind:value={draft.values.cause}
							error={causeProblem}
						/>
						{#if gated}
							<TextField
								label="On whose word"
								name="build-authorised"
								hint="Name and function. It stands in the acceptance, with every step that was left out."
								bind:value={draft.values.authorisedBy}
								error={wordProblem}
							/>
						{/if}
						<button class="btn">Leave the building out</button>
					</form>
				{/if}
			</section>
		{/if}
		<StopCardForm place={live.whole.stepPlace(end)} card="transmit" />
		<KeptTyping draft={ticks} />
		<RadioByRadio radios={settings} draft={ticks} onleft={leftIt} />
		<button
			class="btn btn-main btn-big"
			disabled={!allInAlignment(said) || !mayTransmit}
			onclick={confirm}
		>
			{end} is in the alignment state
		</button>
		{#if !mayTransmit}
			<p class="text-quiet text-sm">
				First {leftToBuild > 0 ? 'finish the building or say why not' : 'answer the card above'}.
			</p>
		{/if}
	{:else}
		<p class="text-quiet">The crew at {end} has not confirmed it yet.</p>
	{/if}
</div>
