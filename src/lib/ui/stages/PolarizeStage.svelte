<script lang="ts">
	import { carrierStates, type CarrierState } from '#core/accept/carriers';
	import { inventoryOf } from '#core/budget/inventory';
	import { makeLevelCurve } from '#core/radio/levelCurve';
	import Worded from '../words/Worded.svelte';
	import { senderOf, SWITCHING } from '#core/budget/standby';
	import { farEnd, type End } from '#core/ends';
	import { polarizationBench } from '#core/guide/polarizationBench';
	import { isFixed } from '#core/record/hopState';
	import { discriminationPorts } from '#core/polarization/ports';
	import { pairWords, type PairNumber } from '#core/polarization/discrimination';
	import type { LinearPolarization } from '#core/propagation/rain';
	import { resolve } from '$app/paths';
	import { untrack } from 'svelte';
	import ReadingSheet from '../align/ReadingSheet.svelte';
	import { AlignBench } from '../align/bench.svelte';
	import { mustAsk } from '../build/cardGate';
	import StopCardForm from '../build/StopCardForm.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import { fixed } from '../format';
	import type { LiveHop } from '../hop/liveHop.svelte';

	interface Props {
		end: End;
		live: LiveHop;
		practice: boolean;
	}

	let { end, live, practice }: Props = $props();
	const far = $derived(farEnd(end));
	const bench = untrack(() => new AlignBench(live, end, practice));
	const working = new Saving();
	const input = $derived(live.revision.input);
	const { need, directions, feedDeg, step } = $derived(polarizationBench(live.state, end));
	const holds = $derived(live.state.baton === end);
	const asked = $derived(live.state.ends[end].asksForBaton);
	const planes: LinearPolarization[] = $derived(
		need.dual ? ['vertical', 'horizontal'] : [input.ends.A.polarization]
	);

	/** What can be sent for a reading: each polarization, on each frequency pair. */
	const sendings = $derived(
		need.pairs.flatMap((pair) => planes.map((plane) => ({ pair, plane, key: `${plane}-${pair}` })))
	);
	const ofPair = (pair: PairNumber): { pair?: 2 } => (pair === 2 ? { pair } : {});

	async function readBoth(plane: LinearPolarization, pair: PairNumber): Promise<void> {
		await working.run(async () => {
			await live.simulate({
				...{ end, action: 'both-polarizations', sent: plane, turned: end },
				...ofPair(pair)
			});
		});
	}
	interface Reading {
		volts: number | null;
		levelDbm: number;
	}
	/** What is being read by hand: the two ports of a sending one after the other. */
	let beingRead: { plane: LinearPolarization; pair: PairNumber; co: Reading | null } | undefined =
		$state();
	let readingOpen = $state(false);
	const ports = $derived(
		beingRead ? discriminationPorts(input, end, beingRead.plane, beingRead.pair) : undefined
	);
	const port = $derived(beingRead?.co ? ports?.cross : ports?.co);
	const portCurve = $derived(makeLevelCurve((port?.part ?? input.ends[end].radio).levelPort.curve));

	function ask(plane: LinearPolarization, pair: PairNumber): void {
		beingRead = { plane, pair, co: null };
		readingOpen = true;
	}
	function keepRead({ volts, levelDbm }: { volts: number | null; levelDbm: number | null }): void {
		// What the port cannot give is said in the sheet, which stays open.
		if (!beingRead || levelDbm === null) return;
		const read = { volts, levelDbm };
		if (!beingRead.co) {
			beingRead = { ...beingRead, co: read };
			return;
		}
		const { plane, pair, co } = beingRead;
		readingOpen = false;
		void live.add(end, 'discrimination', {
			sent: plane,
			...ofPair(pair),
			turned: end,
			feedDeg,
			coDbm: co.levelDbm,
			crossDbm: levelDbm,
			...(co.volts === null ? {} : { coVolts: co.volts }),
			...(volts === null ? {} : { crossVolts: volts }),
			source: 'hand'
		});
	}
	async function turnTo(toDeg: number): Promise<void> {
		const to = Number(toDeg.toFixed(1));
		await working.run(async () => {
			if (practice) await live.simulate({ end, action: 'turn-feed', feedDeg: to });
			else await live.add(end, 'feed-turn', { toDeg: to, source: 'hand' });
		});
	}
	/** Read again after both were fixed, the next is the acceptance. */
	const onward = $derived(
		isFixed(live.recorded, 'A') && isFixed(live.recorded, 'B') ? 'accept' : 'fix'
	);
	const hrefOf = (stage: 'align' | 'fix' | 'accept'): string =>
		resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
			hopId: live.hopId,
			end: end === 'A' ? 'a' : 'b',
			stage
		});
	const carriers = $derived(carrierStates(live.recorded, end));
	/** The carrier whose level is being typed. */
	let carrierAsked: CarrierState['carrier'] | undefined = $state();
	let carrierOpen = $state(false);
	/** Each carrier comes in by a radio of its own, with a port of its own. */
	const carrierCurve = $derived(
		makeLevelCurve(
			(
				inventoryOf(input, end).radios[(carrierAsked?.number ?? 1) - 1]?.part ??
				input.ends[end].radio
			).levelPort.curve
		)
	);
	async function askCarrier(carrier: CarrierState['carrier']): Promise<void> {
		if (practice) {
			await working.run(async () => {
				await live.simulate({ end, action: 'carrier', carrier: carrier.number });
			});
			return;
		}
		carrierAsked = carrier;
		carrierOpen = true;
	}
	function keepCarrier(levelDbm: number | null): void {
		// What the port cannot give is said in the sheet, which stays open.
		if (!carrierAsked || levelDbm === null) return;
		const { number } = carrierAsked;
		void live.add(end, 'carrier-level', { carrier: number, levelDbm, source: 'hand' });
		carrierOpen = false;
	}
</script>

{#snippet reading(main: string | undefined)}
	{#each sendings as { plane, pair, key } (key)}
		<button
			class="btn {key === main ? 'btn-main btn-big' : ''}"
			disabled={working.busy}
			onclick={() => void (practice ? readBoth(plane, pair) : ask(plane, pair))}
			>Read both here, {far} sends {plane}{pairWords(pair)}</button
		>
	{/each}
{/snippet}

<div class="end-{end} grid gap-8 pt-4 xl:grid-cols-[minmax(0,1fr)_20rem]">
	<section
		class="flex flex-col gap-3 border-t-[6px] pt-2.5 xl:order-2"
		style:border-color={holds ? 'var(--end)' : 'var(--line)'}
		aria-label="Next step"
		data-testid="next-step"
		data-step={step.kind}
	>
		<p class="text-quiet text-sm font-semibold">
			{holds ? 'Your move · you hold the baton' : `${far} holds the baton`}
		</p>
		<p class="text-[1.7rem] leading-tight font-bold">{step.headline}</p>
		{#each step.why as reason (reason)}<p>{reason}</p>{/each}
		{#if step.kind === 'reached' || step.kind === 'not-asked'}
			<a class="btn btn-main btn-big" href={hrefOf(onward)}>Go on to {onward}</a>
		{:else if step.kind === 'align-first' || step.kind === 'pointing-first'}
			<a class="btn btn-main btn-big" href={hrefOf('align')}>Go to align</a>
		{/if}
		{#if live.mayRecord && !['reached', 'align-first', 'pointing-first'].includes(step.kind)}
			{#if step.kind === 'turn' && mustAsk(live, end, 'climb')}
				<StopCardForm place={live.whole.stepPlace(end)} card="climb" />
			{:else if step.kind === 'turn'}
				<Notice kind="caution"
					>Transmitter of this end off before anyone reaches before the dish.</Notice
				>
				<button
					class="btn btn-main btn-big"
					disabled={working.busy}
					onclick={() => void turnTo(step.feedDeg)}
					>{practice
						? 'Turn it there'
						: `The feed stands at ${fixed(step.feedDeg, 1, true)}° now`}</button
				>
			{:else if step.kind === 'hand-over'}
				<button
					class="btn btn-main btn-big"
					disabled={bench.busy}
					onclick={() => void bench.handOver()}>Hand over the baton to {far}</button
				>
			{:else if step.kind === 'ask-baton'}
				<button
					class="btn btn-main btn-big"
					disabled={asked}
					onclick={() => void live.add(end, 'baton-request', {})}
					>{asked ? `${far} was asked for the baton` : 'Ask for the baton'}</button
				>
			{/if}
			{@render reading(step.kind === 'read' ? `${step.sent}-${step.pair}` : undefined)}
		{/if}
		{#if !need.dual && step.kind !== 'reached' && step.kind !== 'not-asked'}
			<a class="btn" href={hrefOf(onward)}>Go on to {onward}</a>
		{/if}
		{#if working.message}<Notice kind="trouble">{working.message}</Notice>{/if}
	</section>

	<div class="flex flex-col gap-4">
		<div>
			<h1><Worded text="Polarization and XPD at {end}" /></h1>
			<p class="text-quiet mt-1">
				Send one polarization, read both. The weak signal is the one to align on: it moves far more
				than the strong one. {need.why}
			</p>
		</div>
		{#if need.impossible}
			<Notice kind="trouble"
				>These antennas cannot give what the modulation asks; the plan needs another look.</Notice
			>
		{/if}
		<table class="w-full text-left">
			<thead class="text-quiet text-sm">
				<tr class="border-ink border-b">
					<th class="py-2 font-semibold">Read at, sent</th>
					<th class="py-2 text-right font-semibold">XPD</th>
					<th class="py-2 pl-6 text-right font-semibold">Needed</th>
				</tr>
			</thead>
			<tbody>
				{#each directions as direction (direction.end + direction.sent + direction.pair)}
					<tr class="border-line border-b" data-verdict={direction.verdict}>
						<td class="py-2.5">
							<strong class="end-{direction.end} text-end-own">{direction.end}</strong>,
							{direction.sent}{pairWords(direction.pair)}
							<span class="text-quiet block text-sm">{direction.reason}</span>
						</td>
						<td class="num py-2.5 text-right text-lg font-bold">
							{direction.discriminationDb === null
								? '—'
								: `${fixed(direction.discriminationDb, 1)} dB`}
							{#if direction.verdict === 'short'}<span class="trouble" aria-label="too little"
									>▲</span
								>{/if}
						</td>
						<td class="num py-2.5 pl-6 text-right whitespace-nowrap"
							>{fixed(need.neededDb, 1)} dB</td
						>
					</tr>
				{/each}
			</tbody>
		</table>
		<p class="text-sm">
			Feed of {end} stands at <strong class="num">{fixed(feedDeg, 1, true)}°</strong> from its first
			mark, clockwise seen from behind. The antennas give
			<span class="num">{fixed(need.antennasDb, 1)} dB</span> together at worst,
			<span class="num">{fixed(need.usualDb, 1)} dB</span> as a rule.
		</p>
		{#if carriers.length}
			<section aria-labelledby="carriers-title" data-testid="carriers">
				<h2 id="carriers-title">The other carriers at {end}</h2>
				<p class="text-quiet mt-1 text-sm">
					Each unit is read by itself on the same dish{input.configuration.kind === 'hot-standby'
						? `: ${SWITCHING}`
						: ''}.
				</p>
				<ul class="border-line mt-2 border-t">
					{#each carriers as { carrier, levelDbm, shortDb, verdict } (carrier.number)}
						{@const sender = senderOf(live.state.plan, carrier, end)}
						<li
							class="border-line flex flex-wrap items-center gap-3 border-b py-2"
							data-verdict={verdict}
						>
							<span class="min-w-0 flex-1 basis-44">
								<strong>{carrier.name}</strong>
								<span class="text-quiet block text-sm"
									>plan <span class="num"
										>{fixed(carrier.received[end].plannedLevelDbm, 1)} dBm</span
									>,
									{carrier.polarization}{sender ? `, the far ${sender} unit sending` : ''}</span
								>
							</span>
							{#if levelDbm !== null}
								<span class="num text-right font-bold">
									{#if verdict === 'off'}<span class="trouble">▲</span>{/if}
									{fixed(levelDbm, 1)} dBm
									<span class="block text-sm font-normal"
										>{fixed(Math.abs(shortDb ?? 0), 1)} dB {(shortDb ?? 0) > 0
											? 'below'
											: 'above'}</span
									>
								</span>
							{/if}
							{#if live.mayRecord}
								<button
									class="btn px-3"
									disabled={working.busy}
									onclick={() => void askCarrier(carrier)}>Read {carrier.name.toLowerCase()}</button
								>
							{/if}
						</li>
					{/each}
				</ul>
			</section>
		{/if}
	</div>
</div>

<ReadingSheet
	bind:open={carrierOpen}
	title="Level of {carrierAsked?.name.toLowerCase() ?? 'the carrier'} at {end}"
	curve={carrierCurve}
	onreading={({ levelDbm }) => keepCarrier(levelDbm)}
/>

<ReadingSheet
	bind:open={readingOpen}
	title="{beingRead?.co ? 'Other' : 'Same'} polarization at {end}: {port?.name.toLowerCase() ??
		'the radio'}"
	description={beingRead
		? `${far} sends ${beingRead.plane}${pairWords(beingRead.pair)}. ${
				beingRead.co
					? `Read after ${fixed(beingRead.co.levelDbm, 1)} dBm on the same polarization, now the weak one.`
					: 'First the strong one, then the other.'
			}`
		: ''}
	curve={portCurve}
	enterLabel={beingRead?.co ? 'Keep both' : 'On to the other'}
	onreading={keepRead}
/>
