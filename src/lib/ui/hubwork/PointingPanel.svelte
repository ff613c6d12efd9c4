<script lang="ts">
	import { untrack } from 'svelte';
	import type { StationProgress } from '#core/bringup/bringUp';
	import { advisePointing } from '#core/bringup/coarsePointing';
	import { typedNumber } from '../align/numberInput';
	import { Draft } from '../form/draft.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import TextField from '../form/TextField.svelte';
	import { bearing, dbm } from '../format';
	import type { LiveHub } from './liveHub.svelte';

	let { live, at }: { live: LiveHub; at: StationProgress } = $props();
	const display = $derived(at.station.part.installation?.display ?? []);
	const { station } = $derived(at);
	/** The link that this end looks along: of either end its terminal has it. */
	const served = $derived(
		live.work.plan.terminals.find(
			(one) => one.terminal.id === station.id || one.served?.unit.id === station.id
		)?.served
	);
	const plannedDbm = $derived(
		served ? served[station.kind === 'terminal' ? 'down' : 'up'].used.levelDbm : null
	);
	/** Looks since this end was last put up anew. */
	const shown = $derived(
		at.own.pointings.filter(({ seq }) => seq > (at.own.reopenedAt['station-heading'] ?? 0))
	);
	const advice = $derived(
		plannedDbm === null ? undefined : advisePointing(station, shown, plannedDbm)
	);
	const draft = untrack(
		() => new Draft(live.placeOf(at.station.id, 'pointing'), { heading: '', level: '' })
	);
	/** What is typed, or else where the advice sends. */
	const heading = $derived(typedNumber(draft.values.heading) ?? advice?.headingDeg);
	let problem: string | undefined = $state();
	let busy = $state(false);

	const rounded = (deg: number): number => Math.round(deg * 10) / 10;
	async function keep(levelDbm: number | null, step?: number): Promise<void> {
		problem = undefined;
		if (heading === undefined || heading < 0 || heading > 360) {
			problem = 'Heading: degrees from 0 to 360 are needed.';
			return;
		}
		const payload = {
			headingDeg: rounded(heading),
			levelDbm,
			...(step === undefined ? {} : { step }),
			source: 'hand' as const
		};
		draft.clear();
		await live.add(station.id, 'pointing', payload);
	}
	async function keepFigure(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const level = typedNumber(draft.values.level);
		if (level === undefined || level < -150 || level > 20) {
			problem = 'Level: dBm from −150 to 20 are needed.';
			return;
		}
		await keep(level);
	}
	async function look(): Promise<void> {
		if (heading === undefined) return;
		busy = true;
		problem = undefined;
		try {
			await live.look({ station: station.id, look: 'pointing', headingDeg: rounded(heading) });
			draft.clear();
		} catch (error) {
			problem = error instanceof Error ? error.message : 'It did not work.';
		}
		busy = false;
	}
	const shownText = ({ levelDbm, step }: { levelDbm: number | null; step?: number }): string =>
		step !== undefined
			? (display[step - 1]?.shows ?? `step ${step}`)
			: levelDbm === null
				? 'nothing'
				: dbm(levelDbm);
	const WORDS = {
		turn: 'Turn it to',
		set: 'Set it to',
		stays: 'It stays at',
		beside: 'The best found is at'
	} as const;
</script>

{#if advice}
	<section class="flex flex-col gap-3" aria-labelledby="pointing-title" data-testid="pointing">
		<h2 id="pointing-title">Point it by what it shows</h2>
		<div
			class="border-ink rounded-lg border-2 p-3"
			data-testid="pointing-advice"
			data-kind={advice.kind}
		>
			<p class="text-lg font-semibold">{WORDS[advice.kind]} {bearing(advice.headingDeg, 1)}</p>
			<p class="text-sm">{advice.why}</p>
		</div>
		<p class="text-quiet text-sm">
			One person: set this end, then go to the other and back once. Two: only one end moves at a
			time.
		</p>
		{#if live.mayRecord && advice.kind !== 'stays'}
			<KeptTyping {draft} />
			<TextField
				label="Where it looks now"
				name="heading"
				unit="° true"
				numeric
				hint="Left empty: {bearing(advice.headingDeg, 1)}, as advised."
				bind:value={draft.values.heading}
			/>
			{#if live.practice}
				<button
					type="button"
					class="btn btn-main btn-big"
					disabled={busy}
					onclick={() => void look()}>{busy ? 'Looking …' : 'Turn it there and look'}</button
				>
			{:else if display.length}
				<div class="grid grid-cols-2 gap-2" role="group" aria-label="What it shows there">
					<button type="button" class="btn btn-big" onclick={() => void keep(null)}>Nothing</button>
					{#each display as { shows }, i (shows)}
						<button type="button" class="btn btn-big" onclick={() => void keep(null, i + 1)}
							>{shows}</button
						>
					{/each}
				</div>
			{:else}
				<form class="flex flex-col gap-2" onsubmit={keepFigure} novalidate>
					<TextField
						label="Level there"
						name="pointing-level"
						unit="dBm"
						numeric
						bind:value={draft.values.level}
					/>
					<div class="grid grid-cols-2 gap-2">
						<button class="btn btn-main btn-big">Record it</button>
						<button type="button" class="btn btn-big" onclick={() => void keep(null)}
							>Nothing</button
						>
					</div>
				</form>
			{/if}
			{#if problem}<p class="trouble font-semibold" role="alert">▲ {problem}</p>{/if}
		{/if}
		{#if shown.length}
			<ol class="border-line num grid grid-cols-2 gap-x-6 border-t text-sm sm:grid-cols-3">
				{#each shown as look (look.seq)}
					<li class="border-line flex justify-between border-b py-1">
						<span>{bearing(look.headingDeg, 1)}</span><span>{shownText(look)}</span>
					</li>
				{/each}
			</ol>
		{/if}
	</section>
{/if}
