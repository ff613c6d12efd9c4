<script lang="ts">
	import { inventoryOf } from '#core/budget/inventory';
	import type { End } from '#core/ends';
	import { stillHolds } from '#core/record/hopState';
	import { allInOperation, OPERATING_ROWS, operatingStateOf } from '#core/record/radioStates';
	import type { OperatingConfirmations } from '#core/record/records';
	import type { StopAnswer } from '#core/safety/stopCards';
	import { fixed } from '../format';
	import { untrack } from 'svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import QuestionList from '../form/QuestionList.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();
	type Row = keyof OperatingConfirmations;

	const WORDS: Record<Row, { ask: string; not: string }> = {
		powerControlAsPlanned: {
			ask: 'ATPC is as planned',
			not: 'ATPC'
		},
		adaptiveModulationAsPlanned: {
			ask: 'ACM is as planned',
			not: 'ACM'
		},
		licensedPower: { ask: 'Power is within the licence', not: 'power above the licence' }
	};

	const radios = $derived(inventoryOf(live.revision.input, end).radios);
	const several = $derived(radios.length > 1);
	const kinds = $derived([...new Map(radios.map(({ part }) => [part.code, part])).values()]);
	const stated = $derived.by(() => {
		const { operatingState } = live.recorded.ends[end];
		return stillHolds(live.recorded, 'operating-state', end, operatingState)
			? operatingState
			: null;
	});
	const restored = $derived(stated !== null && allInOperation(stated));
	/** What was answered with no when the end was last looked at, in words. */
	const notRestored = $derived.by(() => {
		if (!stated || restored) return [];
		const of = (holds: OperatingConfirmations): string[] =>
			OPERATING_ROWS.flatMap((row) => (holds[row] ? [] : WORDS[row].not));
		if (!stated.radios) return of(stated);
		return stated.radios.flatMap((one) => {
			const words = of(one);
			const name = radios.find(({ key }) => key === one.radio)?.name ?? one.radio;
			return words.length > 0 ? `${name}: ${words.join(', ')}` : [];
		});
	});

	const draft = untrack(
		() => new Draft(live.placeOf(end, 'operating'), { answers: {} as Record<string, StopAnswer> })
	);
	const { answers } = $derived(draft.values);
	const keyOf = (radio: string, row: Row): string => `${radio}/${row}`;
	const groups = $derived(
		radios.map((radio) => ({
			...radio,
			words: `${fixed(radio.transmitFrequencyGhz, 4)} GHz, ${fixed(radio.transmitPowerDbm, 1)} dBm in ${radio.modulation}`,
			questions: OPERATING_ROWS.map((row) => ({
				key: keyOf(radio.key, row),
				ask: several ? `${radio.name}: ${WORDS[row].ask}` : WORDS[row].ask,
				optional: false
			}))
		}))
	);
	const open = $derived(
		groups.flatMap(({ questions }) => questions).filter(({ key }) => !answers[key]).length
	);

	async function record(): Promise<void> {
		const yes = (radio: string, row: Row): boolean => answers[keyOf(radio, row)] === 'yes';
		const each = radios.map(({ key }) => ({
			radio: key,
			powerControlAsPlanned: yes(key, 'powerControlAsPlanned'),
			adaptiveModulationAsPlanned: yes(key, 'adaptiveModulationAsPlanned'),
			licensedPower: yes(key, 'licensedPower')
		}));
		await live.add(end, 'operating-state', operatingStateOf(each));
		draft.clear();
	}
</script>

<div class="flex flex-col gap-3" data-testid="operating-form">
	<h2>Back to operation at {end}</h2>
	{#each kinds as kind (kind.code)}
		<p class="text-sm">
			{#if kinds.length > 1}<strong>{kind.code}:</strong>{/if}
			{kind.alignmentState.leave}
		</p>
	{/each}
	{#if restored}
		<p class="font-semibold">Recorded{several ? ' of each radio' : ''}.</p>
	{:else}
		{#if stated}
			<p class="trouble font-semibold" data-testid="not-restored">
				▲ Not as planned when last looked at: {notRestored.join('; ')}.
			</p>
		{/if}
		<KeptTyping {draft} />
		{#each groups as group (group.key)}
			{#if several}
				<p class="-mb-3">
					<strong>{group.name}</strong> <span class="num text-quiet text-sm">{group.words}</span>
				</p>
			{/if}
			<QuestionList questions={group.questions} bind:answers={draft.values.answers} />
		{/each}
		<button class="btn btn-main btn-big" disabled={open > 0} onclick={record}>
			Record the state of {end}
		</button>
		{#if open > 0}
			<p class="text-quiet text-sm" data-testid="not-answered">
				Not answered yet: {open}. A no is recorded as it is, and stands in the acceptance.
			</p>
		{/if}
	{/if}
</div>
