<script lang="ts">
	import { untrack } from 'svelte';
	import { judgeErrorTest } from '#core/accept/closing';
	import { readErrorLog } from '#core/accept/errorTable';
	import type { End } from '#core/ends';
	import { typedNumber } from '../align/numberInput';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import { pickedFile } from '../form/pickedFile';
	import TextField from '../form/TextField.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();

	const TESTS = [
		{ kind: 'errors', label: 'Error test' },
		{ kind: 'traffic', label: 'Traffic test' },
		{ kind: 'soak', label: 'Soak' }
	] as const;
	const tested = $derived(judgeErrorTest(live.recorded));
	const typedTest = untrack(
		() =>
			new Draft(live.placeOf(end, 'error-test'), {
				...{ kind: 'errors', minutes: '', errored: '', ratio: '', note: '' }
			})
	);
	const test = $derived(typedTest.values);
	let testTried = $state(false);
	let again = $state(false);
	let fileProblem: string | undefined = $state();
	const minutes = $derived(typedNumber(test.minutes));
	const errored = $derived(typedNumber(test.errored));
	const ratio = $derived(test.ratio.trim() === '' ? null : Number(test.ratio.replace(',', '.')));
	const testProblems = $derived({
		minutes:
			minutes === undefined || minutes <= 0 || minutes > 43_200
				? 'How long it ran, in minutes.'
				: undefined,
		errored:
			errored === undefined || !Number.isInteger(errored) || errored < 0
				? 'A whole number of seconds, 0 for none.'
				: minutes !== undefined && errored > minutes * 60
					? 'More than the test lasted.'
					: undefined,
		ratio:
			ratio !== null && !(ratio >= 0 && ratio <= 1)
				? 'A share from 0 to 1, as 1e-9; empty where it is not known.'
				: undefined
	});
	async function keepTest(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		testTried = true;
		if (Object.values(testProblems).some((problem) => problem)) return;
		const run = {
			test: test.kind as 'errors' | 'traffic' | 'soak',
			durationS: minutes! * 60,
			erroredSeconds: errored!,
			bitErrorRatio: ratio,
			note: test.note.trim()
		};
		typedTest.clear();
		testTried = false;
		again = false;
		await live.add(end, 'error-test', run);
	}
	async function takeLog(event: Event): Promise<void> {
		const picked = pickedFile(event, 20_000_000);
		if (!picked) return;
		fileProblem = 'problem' in picked ? picked.problem : undefined;
		if ('problem' in picked) return;
		const { default: Papa } = await import('papaparse');
		const { data } = Papa.parse<Record<string, string>>((await picked.file.text()).trim(), {
			header: true,
			skipEmptyLines: 'greedy'
		});
		const result = readErrorLog(data);
		if (result.kind === 'unreadable') {
			fileProblem = `Line ${result.line}: ${result.reason}`;
			return;
		}
		again = false;
		await live.add(end, 'error-test', {
			test: 'errors',
			...result.log,
			note: picked.file.name.slice(0, 200)
		});
	}
</script>

<section aria-labelledby="test-title" data-testid="error-test">
	<h2 id="test-title">Error, traffic or soak test</h2>
	{#if tested.measured}
		<p class={tested.verdict === 'pass' ? '' : 'trouble font-semibold'}>
			{tested.verdict === 'pass' ? '' : '▲ '}<span class="num">{tested.measured}</span>. {tested.reason}
		</p>
	{/if}
	{#if live.mayRecord && tested.verdict === 'pass' && !again && !typedTest.changed}
		<button class="min-h-12 underline" onclick={() => (again = true)}>Record another test</button>
	{:else if live.mayRecord}
		<KeptTyping draft={typedTest} />
		<form class="mt-2 grid grid-cols-2 gap-3" onsubmit={(event) => void keepTest(event)}>
			<div class="col-span-2 flex flex-wrap gap-2" role="group" aria-label="Kind of test">
				{#each TESTS as { kind, label } (kind)}
					<button
						type="button"
						class="btn {typedTest.values.kind === kind ? 'btn-main' : ''}"
						aria-pressed={typedTest.values.kind === kind}
						onclick={() => (typedTest.values.kind = kind)}>{label}</button
					>
				{/each}
			</div>
			<TextField
				label="It ran for"
				name="test-minutes"
				unit="min"
				numeric
				bind:value={typedTest.values.minutes}
				error={testTried ? testProblems.minutes : undefined}
			/>
			<TextField
				label="Errored seconds"
				name="test-errored"
				numeric
				bind:value={typedTest.values.errored}
				error={testTried ? testProblems.errored : undefined}
			/>
			<TextField
				label="Bit error ratio"
				name="test-ratio"
				hint="Empty where it is not known."
				bind:value={typedTest.values.ratio}
				error={testTried ? testProblems.ratio : undefined}
			/>
			<label class="btn cursor-pointer self-end">
				From a log, CSV
				<input
					type="file"
					accept=".csv,text/csv"
					class="sr-only"
					onchange={(e) => void takeLog(e)}
				/>
			</label>
			<button class="btn btn-main btn-big col-span-2">Record the test</button>
		</form>
		{#if fileProblem}<p class="trouble font-semibold" role="alert">▲ {fileProblem}</p>{/if}
	{/if}
</section>
