<script lang="ts">
	import { availabilityText } from '#core/budget/availability';
	import { untrack } from 'svelte';
	import { ENDS, type End } from '#core/ends';
	import { findDishAt } from '#core/catalogue/dishAt';
	import { fixed } from '../format';
	import { measure } from '../units.svelte';
	import type { LivePlan } from './compute';
	import { usePlanEditor } from './editor.svelte';
	import { draftValuesOf } from './planForm';
	import { PlanReader } from './planReader';
	import Fold from '../form/Fold.svelte';
	import Pick from '../form/Pick.svelte';
	import Slide from '../form/Slide.svelte';

	const editor = usePlanEditor();
	let powerDb = $state(0);
	let heightM = $state(0);
	let modulation = $state(untrack(() => editor.draft.values.operatingModulation));
	let polarization = $state(untrack(() => editor.draft.values.polarization));
	let live: LivePlan | undefined = $state.raw();
	const reader = new PlanReader(
		untrack(() => editor.parts),
		(answer) => (live = answer)
	);
	$effect(() => () => reader.stop());

	/** Dishes that serve both ends' frequency, smallest first; the present one is among them. */
	const dishes = $derived.by(() => {
		const ghz = ENDS.map((end) => Number(editor.draft.values.ends[end].transmitFrequencyGhz));
		return editor.parts.dishes
			.filter((dish) => ghz.every((f) => findDishAt(dish, f)))
			.sort((p, q) => p.diameterM - q.diameterM);
	});
	const presentDish = $derived(
		Math.max(
			0,
			dishes.findIndex((dish) => dish.code === editor.draft.values.ends.A.dishCode)
		)
	);
	let dishIndex = $derived(presentDish);
	const modulations = $derived(
		editor.parts.radios.find((radio) => radio.code === editor.draft.values.ends.A.radioCode)
			?.modulations ?? []
	);
	const changed = $derived(
		powerDb !== 0 ||
			heightM !== 0 ||
			dishIndex !== presentDish ||
			modulation !== editor.draft.values.operatingModulation ||
			polarization !== editor.draft.values.polarization
	);

	const higherWords = $derived(`${heightM > 0 ? '+' : ''}${measure(heightM, 'm', 0)}`);
	const dishWords = $derived(measure(dishes[dishIndex]?.diameterM, 'm', 1));
	const POLARIZATIONS = [
		{ value: 'vertical', label: 'vertical' },
		{ value: 'horizontal', label: 'horizontal' }
	];

	const higher = (aglM: number): number => Number(Math.max(0.5, aglM + heightM).toFixed(2));

	$effect(() => {
		const draft = draftValuesOf($state.snapshot(editor.draft.values));
		const { A, B } = editor.sites;
		if (!draft || !A || !B) return;
		const dish = dishes[dishIndex];
		for (const end of ENDS) {
			const own = draft.ends[end];
			own.transmitPowerDbm += powerDb;
			own.alignmentPowerDbm += powerDb;
			own.antennaHeightAglM = higher(own.antennaHeightAglM);
			if (dish && dishIndex !== presentDish) own.dishCode = dish.code;
		}
		draft.operatingModulation = modulation;
		draft.polarization = polarization as 'vertical' | 'horizontal';
		reader.ask({
			name: 'what if',
			draft,
			sites: $state.snapshot({ A, B }),
			neighbours: editor.neighbours
		});
	});
	const plan = $derived(
		live?.kind === 'computed' && live.result.kind === 'plan' ? live.result.plan : undefined
	);

	function takeOver(): void {
		const { values } = editor.draft;
		const dish = dishes[dishIndex];
		for (const end of ENDS) {
			const own = values.ends[end];
			const add = (text: string, more: number): string =>
				String(Number((Number(text) + more).toFixed(2)));
			own.transmitPowerDbm = add(own.transmitPowerDbm, powerDb);
			own.alignmentPowerDbm = add(own.alignmentPowerDbm, powerDb);
			own.antennaHeightAglM = String(higher(Number(own.antennaHeightAglM)));
			if (dish && dishIndex !== presentDish) own.dishCode = dish.code;
		}
		values.operatingModulation = modulation;
		values.polarization = polarization;
		reset();
	}

	function reset(): void {
		powerDb = 0;
		heightM = 0;
		dishIndex = presentDish;
		modulation = editor.draft.values.operatingModulation;
		polarization = editor.draft.values.polarization;
	}
	const levelAt = (end: End): string => fixed(plan?.received[end].plannedLevelDbm, 1);
</script>

<Fold class="border-line mt-5 rounded-lg border px-4 py-1" title="What if …">
	<div class="grid gap-x-6 gap-y-4 pb-3 sm:grid-cols-2 lg:grid-cols-5">
		<div class="flex flex-col gap-1 text-sm">
			<span>Power at both ends <strong class="num">{fixed(powerDb, 0, true)} dB</strong></span>
			<Slide
				label="Power at both ends, dB"
				min={-20}
				max={12}
				words="{fixed(powerDb, 0, true)} dB"
				bind:value={powerDb}
			/>
		</div>
		<div class="flex flex-col gap-1 text-sm">
			<span>Height of both <strong class="num">{higherWords}</strong></span>
			<Slide label="Height of both" min={-20} max={40} words={higherWords} bind:value={heightM} />
		</div>
		<div class="flex flex-col gap-1 text-sm">
			<span>Dishes <strong class="num">{dishWords}</strong></span>
			<Slide
				label="Dishes"
				min={0}
				max={Math.max(0, dishes.length - 1)}
				words={dishWords}
				bind:value={dishIndex}
			/>
		</div>
		<div class="flex flex-col gap-1 text-sm">
			<span>Modulation</span>
			<Pick
				label="Modulation"
				options={modulations.map(({ name }) => ({ value: name, label: name }))}
				bind:value={modulation}
			/>
		</div>
		<div class="flex flex-col gap-1 text-sm">
			<span>Polarization</span>
			<Pick label="Polarization" options={POLARIZATIONS} bind:value={polarization} />
		</div>
	</div>
	<div class="flex flex-wrap items-center gap-x-6 gap-y-2 pb-3" aria-live="polite">
		{#if plan}
			<p>
				Then <strong class="num"
					>{availabilityText(plan.availability.achievedPercent, plan.availability.bound)}</strong
				>
				<span class="text-quiet num"
					>({fixed(
						plan.availability.achievedPercent - (editor.plan?.availability.achievedPercent ?? 0),
						4,
						true
					)})</span
				>, aligned level
				<span class="num">A {levelAt('A')}, B {levelAt('B')} dBm</span>{plan.clearance
					? `, ${plan.clearance.holds ? 'path clear' : 'path short'}`
					: ''}.
			</p>
		{:else if live}
			<p class="trouble">
				▲ {live.kind === 'computed'
					? 'This cannot be computed.'
					: live.kind === 'incomplete'
						? live.what
						: live.message}
			</p>
		{/if}
		<div class="flex flex-wrap gap-3">
			<button type="button" class="btn" disabled={!changed} onclick={takeOver}>Take it over</button>
			<button type="button" class="btn" disabled={!changed} onclick={reset}>Back to the plan</button
			>
		</div>
	</div>
</Fold>
