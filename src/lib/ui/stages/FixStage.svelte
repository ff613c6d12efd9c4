<script lang="ts">
	import { spoken } from '../units.svelte';
	import { levelChangeText } from '#core/units/text';
	import { ENDS, farEnd, type End } from '#core/ends';
	import { discriminationOf } from '#core/guide/polarizationBench';
	import { inCalibration } from '#core/lock/calibration';
	import { judgeDrift } from '#core/lock/drift';
	import { allFixed, currentLockSteps, hopOfDish, isFixed } from '#core/record/hopState';
	import { untrack } from 'svelte';
	import { AlignBench } from '../align/bench.svelte';
	import ReadingSheet from '../align/ReadingSheet.svelte';
	import { typedNumber } from '../align/numberInput';
	import { mustAsk } from '../build/cardGate';
	import CodeReader from '../build/CodeReader.svelte';
	import StopCardForm from '../build/StopCardForm.svelte';
	import { Draft } from '../form/draft.svelte';
	import Notice from '../form/Notice.svelte';
	import TextField from '../form/TextField.svelte';
	import { Saving } from '../form/saving.svelte';
	import { dbm } from '../format';
	import DishSwitch from '../align/DishSwitch.svelte';
	import { stageHrefOf, type BenchHop } from '../hop/benchHop';

	interface Props {
		end: End;
		live: BenchHop;
		practice: boolean;
	}

	let { end, live, practice }: Props = $props();
	const far = $derived(farEnd(end));
	const bench = untrack(() => new AlignBench(live, end, practice));
	const working = new Saving();
	const mount = $derived(live.revision.input.ends[end].mount);
	const steps = $derived(currentLockSteps(live.recorded, end));
	const verdict = $derived(judgeDrift(steps, end));
	const fixed_ = $derived(isFixed(live.recorded, end));
	/** The same dish of the far end. */
	const farFixed = $derived.by(() => {
		const hop = hopOfDish(live.whole.recorded, far, live.dish);
		return hop !== undefined && isFixed(hop, far);
	});
	/** Another dish is to be done before anybody accepts. */
	const secondLeft = $derived(
		live.dish === 1 && ENDS.some((at) => !allFixed(live.whole.recorded, at))
	);
	const holds = $derived(live.state.baton === end);
	const level = $derived(live.state.ends[end].lastLevelDbm);
	const nextIndex = $derived(
		mount.fasteners.findIndex((_, i) => steps.every((step) => step.fastenerIndex !== i))
	);
	/** Traffic on both polarizations, and what was read of them is from before the tightening. */
	const readAgain = $derived.by(() => {
		const { need, directions } = discriminationOf(live.recorded);
		return need.dual && directions.some(({ verdict }) => verdict === 'missing');
	});
	const trouble = $derived(verdict.kind !== 'held' && verdict.kind !== 'nothing-yet');
	/** The axis that has just been locked, where the next fastener is the first of the other one. */
	const otherAxis = $derived.by(() => {
		const next = mount.fasteners[nextIndex];
		const before = mount.fasteners[nextIndex - 1];
		return next && before && before.locks !== next.locks ? before.locks : undefined;
	});
	const mayTighten = $derived(live.mayRecord && holds && !trouble && nextIndex >= 0);
	const mayWork = $derived(live.mayRecord && holds && !working.busy);

	const tool = $derived(live.recorded.ends[end].torqueTool);
	const toolExpired = $derived(
		tool !== null && !inCalibration(tool.calibratedUntil, new Date(live.nowMs).toISOString())
	);
	const draft = untrack(
		() =>
			new Draft(live.whole.placeOf(end, `fix-${live.dish}`), {
				toolSerial: '',
				toolUntil: '',
				before: null as { fastenerIndex: number; dbm: number; atMs: number } | null,
				torque: null as string | null
			})
	);
	let toolTried = $state(false);
	/** Whoever goes on without recording one has it as a deviation in the acceptance. */
	let toolPutOff = $state(false);
	let anotherTool = $state(false);
	/** Before the first fastener: the wrench is part of the evidence. A simulated end has none. */
	const asksTool = $derived(anotherTool || (!tool && !practice && !toolPutOff));
	function askTool(): void {
		anotherTool = true;
		toolPutOff = false;
	}
	function keepTool(event: SubmitEvent): void {
		event.preventDefault();
		toolTried = true;
		const { toolSerial, toolUntil } = draft.values;
		if (!toolSerial.trim() || !toolUntil) return;
		anotherTool = false;
		draft.values.toolSerial = '';
		draft.values.toolUntil = '';
		void live.add(end, 'torque-tool', { serial: toolSerial.trim(), calibratedUntil: toolUntil });
	}

	/** So long a level before still stands for the fastener that is tightened next. */
	const LEVEL_HOLDS_MS = 30 * 60_000;
	let beforeOpen = $state(false);
	let afterOpen = $state(false);
	/** Read for this fastener, and not so long ago that the air may have changed since. */
	const beforeDbm = $derived.by(() => {
		const { before } = draft.values;
		const holds =
			before?.fastenerIndex === nextIndex &&
			live.nowMs - before.atMs < LEVEL_HOLDS_MS &&
			// Nothing was moved, tightened or loosened since, at either end.
			live.recorded.ends[end].levelIsFresh;
		return holds ? before.dbm : null;
	});
	/** What the wrench gave: the sheet’s value stands ready to be confirmed until another is typed. */
	const torque = $derived(
		draft.values.torque ?? String(mount.fasteners[nextIndex]?.torqueNm ?? '')
	);
	let torqueProblem: string | undefined = $state();

	function tighten(): void {
		if (practice) {
			void working.run(async () => {
				await live.simulate({ end, action: 'tighten', fastenerIndex: nextIndex });
			});
		} else if (beforeDbm === null) beforeOpen = true;
		else {
			const given = typedNumber(torque);
			torqueProblem =
				given === undefined || given < 0.5 || given > 1000
					? 'What the wrench gave, in N·m: 0.5 to 1000.'
					: undefined;
			if (!torqueProblem) afterOpen = true;
		}
	}

	function keepStep(afterDbm: number): void {
		const fastener = mount.fasteners[nextIndex]!;
		void live.add(end, 'lock-step', {
			fastenerIndex: nextIndex,
			fastener: fastener.name,
			locks: fastener.locks,
			torqueNm: typedNumber(torque) ?? fastener.torqueNm,
			beforeDbm: beforeDbm!,
			afterDbm,
			source: 'hand'
		});
		draft.values.before = null;
		draft.values.torque = null;
	}

	const stageHref = (stage: 'align' | 'polarize' | 'accept', dish = live.dish): string =>
		stageHrefOf(live.hopId, end, stage, dish);
</script>

<div class="pt-3"><DishSwitch {end} {live} stage="fix" /></div>
<div
	class="end-{end} grid gap-x-8 gap-y-5 pt-4 xl:grid-cols-[minmax(0,1fr)_18rem] xl:grid-rows-[auto_1fr]"
>
	<div>
		<h1>
			Fix {live.dish === 2 ? `the second dish of ${end}` : end}, with the meter connected
		</h1>
		<p class="text-quiet mt-1">
			In this order, nuts in turn, to the torque of the mount's sheet. The level after must equal
			the level before.
		</p>
	</div>

	<section
		class="flex flex-col gap-3 self-start border-t-[6px] pt-2.5 xl:col-start-2 xl:row-span-2 xl:row-start-1"
		style:border-color={holds ? 'var(--end)' : 'var(--line)'}
		aria-label="Next step"
		data-testid="next-step"
		data-step={fixed_ ? 'fixed' : 'fix'}
	>
		<p class="text-quiet text-sm font-semibold">
			{holds ? 'Your move · you hold the baton' : `${far} holds the baton`}
		</p>
		<p class="num text-2xl font-bold">{dbm(level)}</p>
		{#if fixed_ && !trouble}
			<p class="text-[1.7rem] leading-tight font-bold">
				{live.dish === 2 ? `Second dish of ${end}` : end} is fixed
			</p>
			{#if !farFixed}
				<p>One end at a time: now {far}.</p>
				{#if live.mayRecord && holds}
					<button class="btn btn-main btn-dashed btn-big" onclick={() => void bench.handOver()}>
						Hand over the baton to {far}
					</button>
				{/if}
			{:else}
				{#if readAgain}
					<p>
						Tightening moves the weakest signal most: both polarizations are read once more before
						anybody signs.
					</p>
					<a class="btn btn-main btn-big" href={stageHref('polarize')}>Go on to polarize</a>
				{:else}
					{#if secondLeft}
						<a class="btn btn-main btn-big" href={stageHref('align', 2)}>Go on to the second dish</a
						>
					{:else}
						<a class="btn btn-main btn-big" href={stageHref('accept', 1)}>Go on to accept</a>
					{/if}
				{/if}
			{/if}
		{:else if !holds}
			<p class="text-[1.7rem] leading-tight font-bold">Hands off the dish</p>
			<p>One end at a time is fixed, so that a change names its culprit. {far} is at it.</p>
		{:else if live.mayRecord && mustAsk(live, end, 'climb')}
			<StopCardForm place={live.whole.stepPlace(end)} card="climb" />
		{:else if live.mayRecord}
			{#if trouble}
				<button
					class="btn btn-main btn-big"
					disabled={working.busy}
					onclick={() => void live.add(end, 'loosen', { reason: verdict.advice })}
				>
					Loosened, start again
				</button>
				<a class="btn" href={stageHref('align')}>Back to align</a>
			{:else if asksTool}
				<h2>Which torque tool?</h2>
				<form class="flex flex-wrap items-end gap-3" onsubmit={keepTool}>
					<div class="min-w-40 flex-1">
						<TextField
							label="Torque tool, serial number"
							name="tool-serial"
							bind:value={draft.values.toolSerial}
							error={toolTried && !draft.values.toolSerial.trim()
								? 'The serial number is missing.'
								: undefined}
						/>
					</div>
					<div class="min-w-40 flex-1">
						<TextField
							label="Calibrated until"
							name="tool-until"
							type="date"
							bind:value={draft.values.toolUntil}
							error={toolTried && !draft.values.toolUntil ? 'The day on its label.' : undefined}
						/>
					</div>
					<CodeReader what="the torque tool" onread={(text) => (draft.values.toolSerial = text)} />
					<button class="btn btn-main w-full">Record the tool</button>
					<button
						type="button"
						class="btn btn-dashed w-full"
						onclick={() => {
							toolPutOff = true;
							anotherTool = false;
						}}>{tool ? 'Keep the one on record' : 'Go on without: it will be a deviation'}</button
					>
				</form>
			{:else if nextIndex >= 0}
				<p class="text-[1.7rem] leading-tight font-bold">{mount.fasteners[nextIndex]!.name}</p>
				<p class="num text-2xl font-bold">
					{spoken(`${mount.fasteners[nextIndex]!.torqueNm} N·m`)}
				</p>
				{#if otherAxis}
					<p data-testid="look-again">
						The {otherAxis} is locked. Look at the {mount.fasteners[nextIndex]!.locks} once more before
						it is: a sixth of a turn either way and back. The level must be best where it stands.
						<a class="inline-block min-h-12 py-3 underline" href={stageHref('align')}
							>Move it at the bench</a
						>
					</p>
				{/if}
				{#if !practice && beforeDbm !== null}
					<TextField
						label="Torque given"
						name="lock-torque"
						unit="N·m"
						numeric
						hint="As the wrench was set; its sheet asks for the value above."
						bind:value={() => torque, (typed) => (draft.values.torque = typed)}
						error={torqueProblem}
					/>
				{/if}
				<button class="btn btn-main btn-big" disabled={!mayWork} onclick={tighten}>
					{practice
						? 'Tighten it and read'
						: beforeDbm === null
							? 'Read the level before'
							: 'Tightened: read the level after'}
				</button>
			{/if}
		{:else}
			<p class="text-quiet">You follow this hop; its crew records.</p>
		{/if}
		{#if working.message}<Notice kind="trouble">{working.message}</Notice>{/if}
	</section>

	<div class="flex flex-col gap-4">
		{#if tool}
			<p class="text-sm">
				Torque tool <strong>{tool.serial}</strong>, calibrated until
				<span class="num">{tool.calibratedUntil}</span>{#if toolExpired}
					<span class="trouble font-semibold">▲ no longer in calibration</span>{/if}.
				{#if mayTighten && !asksTool}
					<button class="min-h-12 px-1 underline" onclick={askTool}>Another tool</button>
				{/if}
			</p>
		{:else if mayTighten && !asksTool}
			<p class="text-sm">
				No torque tool is on record.
				<button class="min-h-12 px-1 underline" onclick={askTool}>Record the tool</button>
			</p>
		{/if}
		<ol class="border-line border-t">
			{#each mount.fasteners as fastener, i (fastener.name)}
				{@const step = steps.find((done) => done.fastenerIndex === i)}
				<li
					class="border-line grid grid-cols-[2rem_1fr_auto] items-center gap-3 border-b py-3"
					aria-current={i === nextIndex ? 'step' : undefined}
				>
					<span class="num text-xl font-bold {i === nextIndex ? 'text-end-own' : ''}">{i + 1}</span>
					<span class="min-w-0">
						<span class="block font-semibold">{fastener.name}</span>
						<span class="text-quiet block text-sm"
							>locks the {fastener.locks},
							<span class="num">{spoken(`${fastener.torqueNm} N·m`)}</span></span
						>
					</span>
					<span class="num text-right text-sm">
						{#if step}
							{dbm(step.beforeDbm)} → {dbm(step.afterDbm)}<br />
							<strong>{levelChangeText(step.afterDbm - step.beforeDbm)}</strong>
						{:else if i === nextIndex && beforeDbm !== null}
							before {dbm(beforeDbm)}
						{/if}
					</span>
				</li>
			{/each}
		</ol>
		<div aria-live="polite" data-testid="drift-verdict">
			{#if trouble}
				<Notice kind="trouble">{verdict.advice}</Notice>
			{:else}
				<p class="font-semibold">
					{verdict.advice}
					{#if verdict.kind === 'held'}Over all: <span class="num"
							>{levelChangeText(verdict.totalDb)}</span
						>.{/if}
				</p>
			{/if}
		</div>
	</div>
</div>

<ReadingSheet
	bind:open={beforeOpen}
	title="Level before"
	curve={bench.curve}
	onreading={(reading) => {
		if (reading.levelDbm === null) return;
		draft.values.before = {
			...{ fastenerIndex: nextIndex, dbm: reading.levelDbm },
			atMs: Date.now()
		};
		void bench.keepReading(reading);
		beforeOpen = false;
	}}
/>
<ReadingSheet
	bind:open={afterOpen}
	title="Level after"
	curve={bench.curve}
	onreading={(reading) => {
		if (reading.levelDbm === null) return;
		void bench.keepReading(reading);
		keepStep(reading.levelDbm);
		afterOpen = false;
	}}
/>
