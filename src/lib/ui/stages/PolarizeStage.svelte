<script lang="ts">
	import { carrierStates } from '$core/accept/carriers';
	import { farEnd, type End } from '$core/ends';
	import {
		adviseRotation,
		discriminationNeed,
		feedTurnDeg,
		judgeDirections,
		readingsForFeed,
		settledReadings
	} from '$core/polarization/discrimination';
	import type { LinearPolarization } from '$core/propagation/rain';
	import { resolve } from '$app/paths';
	import { untrack } from 'svelte';
	import { typedNumber } from '../align/numberInput';
	import { AlignBench } from '../align/bench.svelte';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import TextField from '../form/TextField.svelte';
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
	const plan = $derived(live.revision.plan);
	const input = $derived(live.revision.input);
	const need = $derived(discriminationNeed(input, plan.dish));
	const settled = $derived(settledReadings(live.records));
	const directions = $derived(judgeDirections(need, settled, input.ends.A.polarization));
	const aligned = $derived(
		live.situation.ends.A.aim !== null && live.situation.ends.B.aim !== null
	);
	const feedDeg = $derived(feedTurnDeg(live.records, end));
	const advice = $derived(
		adviseRotation(plan, need, readingsForFeed(live.records, end), {
			end,
			pointed: aligned,
			feedDeg
		})
	);
	const holds = $derived(live.situation.baton === end);
	const reached = $derived(directions.every((direction) => direction.verdict === 'reached'));
	const open = $derived(directions.filter((direction) => direction.verdict !== 'reached'));
	/** The polarization to look at next: one not read as the feed stands, else the planned one. */
	const sent: LinearPolarization = $derived(
		directions.find((d) => d.end === end && d.verdict === 'missing')?.sent ??
			input.ends.A.polarization
	);
	let planes: LinearPolarization[] = $derived(
		need.dual ? ['vertical', 'horizontal'] : [input.ends.A.polarization]
	);

	let co = $state('');
	let cross = $state('');
	let tried = $state(false);
	const coDbm = $derived(typedNumber(co));
	const crossDbm = $derived(typedNumber(cross));
	const levelOk = (level: number | undefined): boolean =>
		level !== undefined && level >= -150 && level <= 20;

	async function readBoth(plane: LinearPolarization): Promise<void> {
		await working.run(async () => {
			await live.simulate({ end, action: 'both-polarizations', sent: plane, turned: end });
		});
	}
	async function keepTyped(plane: LinearPolarization): Promise<void> {
		tried = true;
		if (!levelOk(coDbm) || !levelOk(crossDbm)) return;
		const read = { coDbm: coDbm!, crossDbm: crossDbm! };
		[co, cross, tried] = ['', '', false];
		await live.add(end, 'discrimination', {
			sent: plane,
			turned: end,
			feedDeg,
			...read,
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
	/** Readings are made as the feed stands; what the advice wants read elsewhere is turned to first. */
	const mustTurn = $derived(
		(advice.kind === 'read' || advice.kind === 'turn') && Math.abs(advice.feedDeg - feedDeg) > 0.05
	);
	const headline = $derived(
		!aligned
			? 'Align both ends first'
			: reached
				? 'Discrimination reached'
				: advice.kind === 'pointing-first'
					? 'Look at the pointing first'
					: advice.kind === 'not-rotation'
						? 'Turning the feed will not do it'
						: mustTurn && (advice.kind === 'read' || advice.kind === 'turn')
							? `Turn the feed to ${fixed(advice.feedDeg, 1, true)}°`
							: 'Read both polarizations'
	);
	const why = $derived(
		reached ? ['Every direction and polarization shows what is needed.'] : advice.why
	);
	const hrefOf = (stage: 'align' | 'fix'): string =>
		resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
			hopId: live.hopId,
			end: end === 'A' ? 'a' : 'b',
			stage
		});
	const carriers = $derived(carrierStates(plan, live.records, end));
	let carrierLevels: Record<number, string> = $state({});
	let carrierProblem: number | undefined = $state();
	async function keepCarrier(number: number): Promise<void> {
		const levelDbm = typedNumber(carrierLevels[number] ?? '');
		carrierProblem = levelOk(levelDbm) ? undefined : number;
		if (!levelOk(levelDbm)) return;
		carrierLevels = { ...carrierLevels, [number]: '' };
		await live.add(end, 'carrier-level', { carrier: number, levelDbm: levelDbm!, source: 'hand' });
	}
</script>

<div class="end-{end} grid gap-8 pt-4 xl:grid-cols-[minmax(0,1fr)_20rem]">
	<section
		class="flex flex-col gap-3 border-t-[6px] pt-2.5 xl:order-2"
		style:border-color={holds ? 'var(--end)' : 'var(--line)'}
		aria-label="Next step"
		data-testid="next-step"
		data-step={reached ? 'reached' : mustTurn ? 'turn' : advice.kind}
	>
		<p class="text-quiet text-sm font-semibold">
			{holds ? 'Your move · you hold the baton' : `${far} holds the baton`}
		</p>
		<p class="text-[1.7rem] leading-tight font-bold">{headline}</p>
		{#each why as reason (reason)}<p>{reason}</p>{/each}
		{#if reached}
			<a class="btn btn-main btn-big" href={hrefOf('fix')}>Go on to fix</a>
		{:else if !aligned || advice.kind === 'pointing-first'}
			<a class="btn btn-main btn-big" href={hrefOf('align')}>Go to align</a>
		{:else if live.mayRecord}
			{#if mustTurn && (advice.kind === 'read' || advice.kind === 'turn')}
				{#if holds}
					<Notice kind="caution"
						>Transmitter of this end off before anyone reaches before the dish.</Notice
					>
					<button
						class="btn btn-main btn-big"
						disabled={working.busy}
						onclick={() => void turnTo(advice.feedDeg)}
						>{practice
							? 'Turn it there'
							: `The feed stands at ${fixed(advice.feedDeg, 1, true)}° now`}</button
					>
				{:else}
					<p>Ask {far} for the baton: one end moves at a time.</p>
				{/if}
			{/if}
			{#each planes as plane (plane)}
				{#if practice}
					<button
						class="btn btn-big {!mustTurn && plane === sent ? 'btn-main' : ''}"
						disabled={working.busy}
						onclick={() => void readBoth(plane)}>Read both here, {far} sends {plane}</button
					>
				{/if}
			{/each}
			{#if !practice}
				<div class="grid grid-cols-2 gap-3">
					<TextField
						label="Same polarization"
						name="co-level"
						unit="dBm"
						numeric
						bind:value={co}
						error={tried && !levelOk(coDbm) ? 'A level from −150 to 20 dBm.' : undefined}
					/>
					<TextField
						label="Other polarization"
						name="cross-level"
						unit="dBm"
						numeric
						bind:value={cross}
						error={tried && !levelOk(crossDbm) ? 'A level from −150 to 20 dBm.' : undefined}
					/>
				</div>
				{#each planes as plane (plane)}
					<button class="btn btn-big" onclick={() => void keepTyped(plane)}
						>Record, {far} sends {plane}</button
					>
				{/each}
			{/if}
			{#if holds && !reached && (advice.kind === 'stands' || advice.kind === 'not-rotation') && open.length}
				<button class="btn btn-dashed btn-big" onclick={() => void bench.handOver()}
					>Hand over the baton to {far}</button
				>
			{/if}
		{/if}
		{#if !need.dual && !reached}
			<p class="text-quiet text-sm">
				This hop uses one polarization: reading it is good to have, not asked for.
			</p>
			<a class="btn" href={hrefOf('fix')}>Go on to fix</a>
		{/if}
		{#if working.message}<Notice kind="trouble">{working.message}</Notice>{/if}
	</section>

	<div class="flex flex-col gap-4">
		<div>
			<h1>Polarization and discrimination at {end}</h1>
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
					<th class="py-2 text-right font-semibold">Discrimination</th>
					<th class="py-2 pl-6 text-right font-semibold">Needed</th>
				</tr>
			</thead>
			<tbody>
				{#each directions as direction (direction.end + direction.sent)}
					<tr class="border-line border-b" data-verdict={direction.verdict}>
						<td class="py-2.5">
							<strong class="end-{direction.end} text-end-own">{direction.end}</strong>,
							{direction.sent}
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
					{input.configuration.kind === 'two-bands'
						? 'The narrow beam is fixed first; then this one is fitted and read, and the first one read again: the aim must not have moved.'
						: input.configuration.kind === 'space-diversity'
							? 'Each dish is aligned and read by itself.'
							: 'Each unit is read by itself on the same dish.'}
				</p>
				<ul class="border-line mt-2 border-t">
					{#each carriers as { carrier, levelDbm, shortDb, verdict } (carrier.number)}
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
									{carrier.polarization}</span
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
								<label class="sr-only" for="carrier-{carrier.number}"
									>Level of {carrier.name}, dBm</label
								>
								<input
									id="carrier-{carrier.number}"
									class="input num w-28! text-right"
									inputmode="decimal"
									autocomplete="off"
									placeholder="dBm"
									bind:value={
										() => carrierLevels[carrier.number] ?? '',
										(typed) => (carrierLevels = { ...carrierLevels, [carrier.number]: typed })
									}
								/>
								<button class="btn px-3" onclick={() => void keepCarrier(carrier.number)}
									>Keep</button
								>
							{/if}
							{#if carrierProblem === carrier.number}
								<p class="trouble w-full text-sm font-semibold" role="alert">
									▲ A level from −150 to 20 dBm.
								</p>
							{/if}
						</li>
					{/each}
				</ul>
			</section>
		{/if}
	</div>
</div>
