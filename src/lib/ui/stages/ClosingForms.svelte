<script lang="ts">
	import { untrack } from 'svelte';
	import type { StopAnswer } from '#core/safety/stopCards';
	import { CLOSING_QUESTIONS, judgeErrorTest, openClosingQuestions } from '#core/accept/closing';
	import { readErrorLog } from '#core/accept/errorTable';
	import type { End } from '#core/ends';
	import { stillHolds, type HopState } from '#core/record/hopState';
	import { typedNumber } from '../align/numberInput';
	import { pickedFile } from '../form/pickedFile';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import QuestionList from '../form/QuestionList.svelte';
	import { signatureProblemOf, type TypedSignature } from '../form/signature';
	import TextField from '../form/TextField.svelte';
	import { moment } from '../moment.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import SignatureBox from './SignatureBox.svelte';
	import Snags from './Snags.svelte';

	let { end, live }: { end: End; live: LiveHop } = $props();

	const look = untrack(
		() => new Draft(live.placeOf(end, 'look'), { answers: {} as Record<string, StopAnswer> })
	);
	const { answers } = $derived(look.values);
	const open = $derived(openClosingQuestions(live.recorded, end));
	const unanswered = $derived(
		CLOSING_QUESTIONS.filter(({ key }) => answers[key] === undefined).length
	);
	let lookAgain = $state(false);
	async function keepLook(): Promise<void> {
		const given = answers;
		look.clear();
		lookAgain = false;
		await live.add(end, 'closing-check', { answers: given, note: '' });
	}

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
		await live.add(end, 'error-test', {
			test: 'errors',
			...result.log,
			note: picked.file.name.slice(0, 200)
		});
	}

	const signatureOf = (state: HopState): HopState['ends'][End]['crewSignature'] => {
		const { crewSignature } = state.ends[end];
		return stillHolds(state, 'crew-signature', end, crewSignature) ? crewSignature : null;
	};
	const crewSigned = $derived(signatureOf(live.recorded));
	let signature: TypedSignature = $state({
		name: '',
		method: 'typed'
	});
	let signatureProblem: string | undefined = $state();
	async function signForCrew(): Promise<void> {
		signatureProblem = signatureProblemOf(signature);
		if (signatureProblem) return;
		await live.add(end, 'crew-signature', { ...signature, name: signature.name.trim() });
	}
</script>

<section aria-labelledby="look-title" data-testid="closing-look">
	<h2 id="look-title">Final look at {end}</h2>
	{#if open !== null && !lookAgain}
		<p class={open.length ? 'trouble font-semibold' : ''}>
			{open.length ? `▲ Left open: ${open.join('; ')}.` : 'Done, nothing left open.'}
		</p>
		{#if live.mayRecord}
			<button class="min-h-12 underline" onclick={() => (lookAgain = true)}>Look again</button>
		{/if}
	{:else if live.mayRecord}
		<KeptTyping draft={look} />
		<QuestionList questions={CLOSING_QUESTIONS} bind:answers={look.values.answers} />
		<button class="btn btn-main mt-3" disabled={unanswered > 0} onclick={() => void keepLook()}
			>{unanswered > 0 ? `${unanswered} to answer` : 'Record the final look'}</button
		>
	{/if}
</section>

<section aria-labelledby="test-title" data-testid="error-test">
	<h2 id="test-title">Error, traffic or soak test</h2>
	{#if tested.measured}
		<p class={tested.verdict === 'pass' ? '' : 'trouble font-semibold'}>
			{tested.verdict === 'pass' ? '' : '▲ '}<span class="num">{tested.measured}</span>. {tested.reason}
		</p>
	{/if}
	{#if live.mayRecord}
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
			<button class="btn">Record the test</button>
			<label class="btn cursor-pointer">
				From a log, CSV
				<input
					type="file"
					accept=".csv,text/csv"
					class="sr-only"
					onchange={(e) => void takeLog(e)}
				/>
			</label>
		</form>
		{#if fileProblem}<p class="trouble font-semibold" role="alert">▲ {fileProblem}</p>{/if}
	{/if}
</section>

<Snags {end} {live} />

<section aria-labelledby="crew-sign-title" class="flex flex-col gap-3" data-testid="crew-signature">
	<h2 id="crew-sign-title">Signature of the crew at {end}</h2>
	{#if crewSigned}
		<p>{crewSigned.name}, {moment(crewSigned.at)}.</p>
	{:else if live.mayRecord}
		<SignatureBox
			bind:signature
			errorAt={(field) => (field === 'signature.name' ? signatureProblem : undefined)}
		/>
		{#if signatureProblem && signature.method === 'drawn'}
			<p class="trouble font-semibold">▲ {signatureProblem}</p>
		{/if}
		<button class="btn" onclick={() => void signForCrew()}>Sign for the crew</button>
	{/if}
</section>
