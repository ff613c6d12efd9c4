<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { farEnd, type Axis, type End } from '#core/ends';
	import { shortfallBands } from '#core/diagnose/shortfallBands';
	import { endReadings } from '#core/guide/endReadings';
	import { recordsOf, type MeterSource } from '#core/record/records';
	import type { Stage } from '#core/stage/stages';
	import { adjusterAngleDeg } from '#core/sweep/adjusterScale';
	import { CONFIGURATION_RULES } from '#core/budget/configuration';
	import { untrack } from 'svelte';
	import { AlignBench } from '../align/bench.svelte';
	import EyesOnNut from '../align/EyesOnNut.svelte';
	import NextStepPanel from '../align/NextStepPanel.svelte';
	import PositionSheet from '../align/PositionSheet.svelte';
	import ReadingSheet from '../align/ReadingSheet.svelte';
	import ShortfallWell from '../align/ShortfallWell.svelte';
	import SkyMap from '../align/SkyMap.svelte';
	import SweepChart from '../align/SweepChart.svelte';
	import { positionInWords, stepInWords, sureInWords } from '../align/stepWords';
	import TravelBar from '../align/TravelBar.svelte';
	import { alignmentTimer } from '#core/catalogue/alignmentTimer';
	import { inventoryOf } from '#core/budget/inventory';
	import { sendersWhileAligning } from '#core/budget/senders';
	import { mustAsk } from '../build/cardGate';
	import StopCardForm from '../build/StopCardForm.svelte';
	import Notice from '../form/Notice.svelte';
	import NotHere from '../form/NotHere.svelte';
	import { Opening } from '../form/opening.svelte';
	import { fixed } from '../format';
	import { moment } from '../moment.svelte';
	import DishSwitch from '../align/DishSwitch.svelte';
	import { stageHrefOf, type BenchHop } from '../hop/benchHop';

	/** Samples closer than this share of a beam let a cut be read by itself. */
	const FINE_SHARE = 0.4;

	interface Props {
		end: End;
		live: BenchHop;
		practice: boolean;
	}

	let { end, live, practice }: Props = $props();
	const far = $derived(farEnd(end));
	const bench = untrack(() => new AlignBench(live, end, practice));
	$effect(() => untrack(() => bench.start()));

	const { input, plan } = $derived(live.revision);
	const budget = $derived(plan.received[end]);
	const own = $derived(live.state.ends[end]);
	const step = $derived(bench.step);
	const holds = $derived(live.state.baton === end);
	const ready = $derived(
		own.alignmentStateConfirmed && live.state.ends[far].alignmentStateConfirmed
	);
	const senders = $derived(sendersWhileAligning(live.whole.revision.input, end, live.dish));
	const recorded = $derived(live.recorded.ends[end]);
	const timer = $derived(
		ready && recorded.alignmentState
			? alignmentTimer(
					inventoryOf(input, end).radios.map(({ key, name, part }) => ({
						...{ name, part },
						enteredAt: recorded.radiosIn[key] ?? recorded.alignmentState!.at
					})),
					live.nowMs
				)
			: undefined
	);
	/** Nobody goes up to move a dish before the card is answered; what runs is let finish. */
	const askFirst = $derived(holds && ready && !bench.running && mustAsk(live, end, 'climb'));
	const mayMove = $derived(
		live.mayRecord && !askFirst && holds && ready && !bench.busy && !bench.running && !live.weighing
	);
	const bands = $derived(
		shortfallBands({
			toleranceDb: budget.toleranceDb,
			ownFirstSideLobeDb: plan.dish[end].firstSideLobeDb,
			farFirstSideLobeDb: plan.dish[far].firstSideLobeDb,
			crossPolarDiscriminationDb: Math.min(
				plan.dish[end].crossPolarDiscriminationDb,
				plan.dish[far].crossPolarDiscriminationDb
			),
			aboveFloorDb: budget.plannedLevelDbm - budget.floorDbm
		})
	);
	const lastSweepRecord = $derived(recordsOf(live.records, 'sweep', end).at(-1));
	const shownAxis: Axis = $derived(
		bench.running?.axis ?? lastSweepRecord?.payload.axis ?? 'azimuth'
	);
	const farMove = $derived(recordsOf(live.records, 'move', far).at(-1));

	/** A search steps too widely to be read as a cut by itself; the map weighs it. */
	const fineSweep = $derived.by(() => {
		if (!own.lastSweep || !lastSweepRecord) return false;
		const { fromDeg, toDeg } = own.lastSweep;
		const stepDeg = (toDeg - fromDeg) / (lastSweepRecord.payload.samples.length - 1);
		return stepDeg < FINE_SHARE * plan.dish[end].beamwidthDeg;
	});

	/** Nothing more is to be gained by turning: what a sweep alone would advise is out of date. */
	const standing = $derived(
		step.kind === 'lock' ||
			step.kind === 'ask-far' ||
			(step.kind === 'check' && step.about === 'link' && live.state.ends[far].aim !== null)
	);

	const dual = $derived(CONFIGURATION_RULES[input.configuration.kind].coChannelDual);
	let diagnosisOpen = $state(false);
	$effect(() => {
		if (step.kind === 'check') diagnosisOpen = true;
	});

	let inTurns = $state(true);
	let readingOpen = $state(false);
	let sweepReadingOpen = $state(false);
	const importing = new Opening();
	let positionOpen = $state(false);
	const metering = new Opening();
	const calibrating = new Opening();
	const large = new Opening();
	let positionAxis: Axis = $state('azimuth');
	const mount = $derived(input.ends[end].mount);

	const METER_WORDS: Record<MeterSource, string> = {
		hand: 'typed',
		simulated: 'simulated',
		serial: 'bench meter',
		replay: 'replayed',
		import: 'typed'
	};
	const largeAction = $derived.by(() => {
		if (!live.mayRecord) return '';
		if (bench.running) return bench.driven ? '' : 'Take the reading here';
		switch (step.kind) {
			case 'sweep':
				return 'Begin the sweep';
			case 'move':
			case 'turn-mount':
				return bench.driven ? 'Turn it there' : 'It stands there now';
			case 'read':
				return 'Read';
			default:
				return '';
		}
	});

	const sweepPosition = $derived.by(() => {
		const turns = bench.nextTurns;
		if (turns === undefined || !bench.running) return '';
		const deg = adjusterAngleDeg(mount[bench.running.axis], turns);
		return positionInWords(turns, deg, inTurns);
	});

	/** The level as the eye should see it: the running meter's, else the last one recorded. */
	const shownDbm = $derived(bench.shown ? bench.shown.levelDbm : own.lastLevelDbm);
	const shownVolts = $derived(bench.shown ? bench.shown.volts : own.lastVolts);
	const belowPlanDb = $derived(shownDbm === null ? null : budget.plannedLevelDbm - shownDbm);
	const words = $derived(stepInWords(step, mount, own, inTurns, bench.running));

	const stageHref = (at: End, stage: Stage): string =>
		stageHrefOf(live.hopId, at, stage, live.dish);

	function readNow(): void {
		if (bench.driven) void bench.read();
		else if (bench.shown) {
			const { volts, levelDbm } = bench.shown;
			void bench.keepReading({ volts, levelDbm });
		} else readingOpen = true;
	}

	function readAtSweep(): void {
		if (bench.shown) void bench.keepSweepReading(bench.shown.volts);
		else sweepReadingOpen = true;
	}

	let acting = $state(false);
	/** One press does one thing, however often it is repeated while the record is being sent. */
	async function once(work: () => Promise<void>): Promise<void> {
		if (acting) return;
		acting = true;
		try {
			await work();
		} finally {
			acting = false;
		}
	}

	async function act(): Promise<void> {
		const wanted = step;
		if (wanted.kind === 'read' || wanted.kind === 'check') {
			readNow();
			return;
		}
		await bench.keepAdvice();
		if (wanted.kind === 'sweep') {
			bench.beginSweep(wanted);
			if (bench.source === 'hand') sweepReadingOpen = true;
		} else if (wanted.kind === 'move') await bench.moveTo(wanted.axis, wanted.targetDeg);
		else if (wanted.kind === 'turn-mount') await bench.turnMount(wanted.byDeg, wanted.compassDeg);
		else if (wanted.kind === 'hand-over') {
			await bench.handOver();
			// eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved in stageHref
			if (live.state.crews === 1) await goto(stageHref(far, 'align'));
		}
	}

	async function close(): Promise<void> {
		await bench.keepAdvice();
		await live.add(end, 'aimed', {});
		// eslint-disable-next-line svelte/no-navigation-without-resolve -- resolved in stageHref
		await goto(stageHref(end, dual ? 'polarize' : 'fix'));
	}

	/** A sweep of the user's own choice: a beam and a half either way of where the dish stands. */
	function ownSweep(axis: Axis): void {
		const reach = 3 * plan.dish[end].beamwidthDeg;
		const at = own.angleDeg[axis];
		const travel = mount[axis].travelDeg;
		bench.beginSweep({
			axis,
			fromDeg: Math.max(-travel, at - reach),
			toDeg: Math.min(travel, at + reach),
			stepDeg: plan.dish[end].beamwidthDeg / 6
		});
		if (bench.source === 'hand') sweepReadingOpen = true;
	}
</script>

<div class="pt-3"><DishSwitch {end} {live} stage="align" /></div>
<div
	class="end-{end} grid gap-x-6 gap-y-6 pt-3 md:grid-cols-[17rem_minmax(0,1fr)] xl:grid-cols-[17rem_minmax(0,1fr)_16rem]"
>
	<div class="contents xl:col-start-3 xl:row-start-1 xl:flex xl:flex-col xl:gap-6">
		<div class="order-1 md:order-none md:col-start-2 md:row-start-1">
			{#if live.state.ends[far].asksForLevel && live.mayRecord && !bench.running}
				<div class="mb-3">
					<Notice kind="caution">
						<p class="mb-2" data-testid="level-wanted">{far} asks for the level at {end}.</p>
						<button class="btn" disabled={bench.busy} onclick={readNow}>Read it for {far}</button>
					</Notice>
				</div>
			{/if}
			{#if askFirst}
				<StopCardForm place={live.whole.stepPlace(end)} card="climb" />
			{:else}
				<NextStepPanel
					{end}
					{live}
					{bench}
					{inTurns}
					{sweepPosition}
					stageHref={(stage) => stageHref(end, stage)}
					{acting}
					onact={() => void once(act)}
					onread={readNow}
					onsweepreading={readAtSweep}
					onclose={() => void once(close)}
				/>
			{/if}
		</div>

		<section
			aria-label="Adjusters"
			class="border-line order-4 flex flex-col gap-3 border-t pt-3 md:order-none md:col-start-2"
		>
			{#each ['azimuth', 'tilt'] as const as axis (axis)}
				<TravelBar
					{axis}
					adjuster={mount[axis]}
					turns={own.turns[axis]}
					targetDeg={step.kind === 'move' && step.axis === axis ? step.targetDeg : undefined}
					{inTurns}
					disabled={!mayMove}
					onset={() => {
						positionAxis = axis;
						positionOpen = true;
					}}
				/>
			{/each}
		</section>
	</div>

	<div class="order-2 md:order-none md:col-start-1 md:row-span-2 md:row-start-1">
		<ShortfallWell
			{end}
			{bands}
			plannedDbm={budget.plannedLevelDbm}
			plannedVolts={budget.plannedVolts}
			levelDbm={shownDbm}
			volts={shownVolts}
			rising={budget.betterDirection === 'rising'}
			implausible={bench.shown ? bench.shown.pickUp : own.implausibleReading}
			aimed={standing}
		/>
		{#if bench.meter}
			<p class="num text-sm" data-testid="meter">
				{bench.meter.name}: {fixed(bench.shown?.perSecond, 1)} readings a second, ± {fixed(
					bench.shown?.resolutionDb,
					2
				)} dB
			</p>
		{/if}
		{#if senders}<p class="text-sm" data-testid="senders">{senders}</p>{/if}
		{#if timer && timer.state !== 'runs'}
			<Notice kind={timer.state === 'over' ? 'trouble' : 'caution'}>
				{timer.state === 'over'
					? `By its sheet ${timer.radio.toLowerCase()} of ${end} has left the alignment state by itself, ${moment(timer.endsAt)}: enter it again under power.`
					: `${timer.radio} of ${end} leaves the alignment state by itself in ${fixed(timer.minutesLeft, 0)} min.`}
			</Notice>
		{/if}
		{#if bench.meterTrouble}<Notice kind="trouble">{bench.meterTrouble}</Notice>{/if}
		<div class="mt-2 flex flex-col gap-2">
			<EyesOnNut
				{belowPlanDb}
				stepWords={`${words.what} ${words.amount}`}
				onlarge={() => (large.open = true)}
			/>
		</div>
	</div>

	<div class="order-3 flex min-w-0 flex-col gap-4 md:order-none md:col-start-2 xl:row-start-1">
		{#if step.kind === 'check' && own.lastReadAt !== null && !bench.running}
			{@render diagnosing()}
		{/if}
		{#if own.lastReadAt !== null && !bench.running}
			<SkyMap
				{end}
				own={endReadings(live.state, end)}
				location={bench.location}
				beamwidthDeg={plan.dish[end].beamwidthDeg}
				floorDbm={Math.max(budget.floorDbm, bench.curve.lowestLevelDbm)}
				{mount}
				target={step.kind === 'move'
					? {
							azimuthDeg: step.axis === 'azimuth' ? step.targetDeg : own.angleDeg.azimuth,
							tiltDeg: step.axis === 'tilt' ? step.targetDeg : own.angleDeg.tilt
						}
					: undefined}
				{inTurns}
			/>
		{/if}
		{#if bench.running || lastSweepRecord}
			<SweepChart
				{end}
				title={bench.running
					? `Sweeping ${bench.running.axis}`
					: `Last sweep, ${lastSweepRecord!.payload.axis}`}
				samples={bench.running?.samples ?? lastSweepRecord!.payload.samples}
				curve={bench.curve}
				adjuster={mount[shownAxis]}
				beamwidthDeg={plan.dish[end].beamwidthDeg}
				plannedDbm={budget.plannedLevelDbm}
				analysis={bench.running ? undefined : own.lastSweep?.analysis}
				{inTurns}
			/>
			{#if live.weighing}
				<p class="text-quiet" role="status">Weighing what was recorded …</p>
			{:else if own.lastSweep && !bench.running && fineSweep}
				<div data-testid="sweep-verdict">
					<p class="font-bold">
						{own.lastSweep.analysis.verdict.replaceAll('-', ' ')}
						<span class="num text-quiet font-normal"
							>{sureInWords(own.lastSweep.analysis.confidence)}</span
						>
					</p>
					{#if !standing && step.why[0] !== own.lastSweep.analysis.reasons[0]}
						<ul class="mt-1 list-disc pl-5 text-[0.95rem]">
							{#each own.lastSweep.analysis.reasons as reason, i (i)}<li>{reason}</li>{/each}
						</ul>
					{/if}
				</div>
			{/if}
		{:else}
			<p class="text-quiet py-6">
				No sweep of {end} yet. It is drawn here with its lobes and a ruler of one beam ({plan.dish[
					end
				].beamwidthDeg.toFixed(2)}°).
			</p>
		{/if}
		{#if !holds && farMove}
			<p class="text-quiet text-sm">
				{far} last moved its {farMove.payload.axis} to {positionInWords(
					farMove.payload.toTurns,
					adjusterAngleDeg(input.ends[far].mount[farMove.payload.axis], farMove.payload.toTurns),
					inTurns
				)}.
			</p>
		{/if}

		{#if step.kind !== 'check' && own.lastReadAt !== null && !bench.running}
			{@render diagnosing()}
		{/if}
		<section aria-label="Tools" class="border-line flex flex-col gap-3 border-t pt-3">
			<div class="flex flex-wrap gap-2 [&_.btn]:px-3 [&_.btn]:text-[0.95rem]">
				<button class="btn" aria-pressed={!inTurns} onclick={() => (inTurns = !inTurns)}>
					Show {inTurns ? 'degrees' : 'turns'}
				</button>
				<button class="btn" disabled={!mayMove} onclick={() => ownSweep('azimuth')}
					>Sweep azimuth here</button
				>
				<button class="btn" disabled={!mayMove} onclick={() => ownSweep('tilt')}
					>Sweep tilt here</button
				>
				<button class="btn" disabled={!mayMove} onclick={() => (importing.open = true)}
					>Import a sweep</button
				>
				<button
					class="btn"
					disabled={bench.busy || bench.running !== undefined}
					onclick={() => (metering.open = true)}>Meter: {METER_WORDS[bench.source]}</button
				>
				<button class="btn" onclick={() => (calibrating.open = true)}>Measure the adjuster</button>
				{#if live.mayRecord}
					<button
						class="btn"
						aria-pressed={live.state.crews === 1}
						onclick={() =>
							void live.add(end, 'crew-mode', { crews: live.state.crews === 1 ? 2 : 1 })}
						>{live.state.crews === 1 ? 'A crew at each end' : 'One crew for both ends'}</button
					>
				{/if}
				<a class="btn" href={resolve('/hops/[hopId]/record', { hopId: live.hopId })}
					>Replay the record</a
				>
			</div>
			{#if bench.message}<Notice kind="trouble">{bench.message}</Notice>{/if}
		</section>
	</div>
</div>

<ReadingSheet
	bind:open={readingOpen}
	title="Reading at {end}"
	curve={bench.curve}
	onreading={(reading) => {
		void bench.keepReading(reading);
		readingOpen = false;
	}}
/>
<ReadingSheet
	bind:open={sweepReadingOpen}
	title={bench.running ? `Sweep of ${bench.running.axis}` : 'Sweep'}
	description={bench.running && bench.running.samples.length < bench.running.turns.length
		? `Reading ${bench.running.samples.length + 1} of ${bench.running.turns.length}: bring the ${bench.running.axis} to ${sweepPosition}, then read.`
		: 'All positions are read.'}
	curve={bench.curve}
	enterLabel="Keep, next position"
	onreading={async (reading) => {
		const volts = reading.volts ?? bench.curve.voltsAt(reading.levelDbm ?? -200);
		await bench.keepSweepReading(volts);
		if (!bench.running) sweepReadingOpen = false;
	}}
/>
<PositionSheet
	bind:open={positionOpen}
	axis={positionAxis}
	adjuster={mount[positionAxis]}
	onposition={(deg) => void bench.moveTo(positionAxis, deg)}
/>
{#if importing.ever}
	{#await import('../align/ImportSheet.svelte') then { default: ImportSheet }}
		<ImportSheet
			bind:open={importing.open}
			onsweep={(axis, samples) => void bench.importSweep(axis, samples)}
		/>
	{:catch}<NotHere />{/await}
{/if}
{#if metering.ever}
	{#await import('../align/MeterSheet.svelte') then { default: MeterSheet }}
		<MeterSheet bind:open={metering.open} {bench} {practice} />
	{:catch}<NotHere />{/await}
{/if}
{#if calibrating.ever}
	{#await import('../align/CalibrateSheet.svelte') then { default: CalibrateSheet }}
		<CalibrateSheet bind:open={calibrating.open} {end} {live} {bench} />
	{:catch}<NotHere />{/await}
{/if}
{#if large.ever}
	{#await import('../align/LargeView.svelte') then { default: LargeView }}
		<LargeView
			bind:open={large.open}
			{end}
			{words}
			{bands}
			{belowPlanDb}
			volts={shownVolts}
			action={largeAction}
			disabled={bench.busy || live.weighing || acting}
			onact={() => (bench.running ? readAtSweep() : void once(act))}
		/>
	{:catch}<NotHere />{/await}
{/if}

{#snippet diagnosing()}
	{#await import('../align/DiagnosisPanel.svelte') then { default: DiagnosisPanel }}
		<DiagnosisPanel {end} {live} {bench} bind:open={diagnosisOpen} />
	{:catch}<NotHere />{/await}
{/snippet}
