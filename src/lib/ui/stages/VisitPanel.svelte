<script lang="ts">
	import CodeReader from '../build/CodeReader.svelte';
	import { resolve } from '$app/paths';
	import type { End } from '#core/ends';
	import { emptyHopState, hopsAt, openVisit } from '#core/record/hopState';
	import { dishSuffix, type DishNumber } from '#core/record/secondDish';
	import { VISIT_PURPOSE_WORDS } from '#core/record/kinds';
	import { VISIT_PURPOSES, type VisitPurpose } from '#core/record/records';
	import { partsToReplace } from '#core/tower/partsToReplace';
	import { baselineOf } from '#core/visit/baseline';
	import { judgeVisit } from '#core/visit/judgeVisit';
	import { visitsOf } from '#core/visit/visits';
	import { untrack } from 'svelte';
	import PhotoStrip from '../build/PhotoStrip.svelte';
	import { Draft } from '../form/draft.svelte';
	import Notice from '../form/Notice.svelte';
	import SelectField from '../form/SelectField.svelte';
	import { signatureProblemOf, type TypedSignature } from '../form/signature';
	import TextField from '../form/TextField.svelte';
	import { moment } from '../moment.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import SignatureBox from './SignatureBox.svelte';
	import Snags from './Snags.svelte';
	import VisitLines from './VisitLines.svelte';

	interface Props {
		end: End;
		live: LiveHop;
		/** Last record that the acceptance judged. */
		acceptedSeq: number;
		personName: string;
		/** Reads the level at this end: by the simulated meter, or by asking for it. */
		onread: (dish: DishNumber) => void;
		/** While a reading is under way. */
		reading: boolean;
	}

	let { end, live, acceptedSeq, personName, onread, reading }: Props = $props();
	const visit = $derived(openVisit(live.recorded));
	const start = $derived(emptyHopState(live.revision.input, live.revision.plan));
	const visits = $derived(visitsOf(start, live.records, live.findings));
	const judgement = $derived(
		judgeVisit(
			baselineOf(start, live.records, acceptedSeq, live.findings),
			live.recorded,
			visits.at(-1)!
		)
	);

	/** The level of every dish of this end, and whether it was read in this visit. */
	const levels = $derived(
		hopsAt(live.state, end).map(({ dish }) => {
			const code = `visit-level-${end}${dishSuffix(dish)}`;
			return {
				dish,
				of: dish === 2 ? ' of the second dish' : '',
				unread: judgement.lines.find((line) => line.code === code)?.now === ''
			};
		})
	);
	const powerHref = $derived(
		resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
			hopId: live.hopId,
			end: end === 'A' ? 'a' : 'b',
			stage: 'power'
		})
	);

	const coming = untrack(
		() =>
			new Draft(live.placeOf(end, 'visit'), {
				purpose: 'storm-check' as VisitPurpose,
				why: '',
				people: personName
			})
	);
	const { purpose, why, people } = $derived(coming.values);
	let tried = $state(false);
	const problems = $derived({
		why: why.trim().length < 3 ? 'Say in a few words why you came.' : undefined,
		people: people.trim() === '' ? 'Who is here; several names with commas.' : undefined
	});
	async function open(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		tried = true;
		if (Object.values(problems).some((problem) => problem)) return;
		const opened = {
			visitId: crypto.randomUUID(),
			purpose,
			why: why.trim(),
			people: people
				.split(',')
				.map((name) => name.trim())
				.filter(Boolean)
				.slice(0, 20)
		};
		coming.clear();
		tried = false;
		await live.add(end, 'visit-opened', opened);
	}

	const parts = $derived(partsToReplace(live.recorded, end));
	const partDraft = untrack(
		() =>
			new Draft(live.placeOf(end, 'part-replaced'), {
				...{ key: '', code: '', serial: '', reason: '' },
				photoIds: [] as string[]
			})
	);
	const part = $derived(partDraft.values);
	let partOpen = $state(untrack(() => partDraft.restored));
	let partTried = $state(false);
	const partProblems = $derived({
		key: part.key === '' ? 'Choose the part.' : undefined,
		code: part.code.trim() === '' ? 'Type code of what hangs there now.' : undefined,
		serial: part.serial.trim() === '' ? 'The serial number is missing.' : undefined,
		reason: part.reason.trim().length < 3 ? 'Say why, in a few words.' : undefined
	});
	async function keepPart(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		partTried = true;
		if (Object.values(partProblems).some((problem) => problem)) return;
		const changed = {
			part: part.key,
			code: part.code.trim(),
			serial: part.serial.trim(),
			reason: part.reason.trim(),
			photoIds: [...part.photoIds]
		};
		partDraft.clear();
		[partOpen, partTried] = [false, false];
		await live.add(end, 'part-replaced', changed);
	}

	const ending = untrack(() => new Draft(live.placeOf(end, 'visit-closed'), { found: '' }));
	const { found } = $derived(ending.values);
	let signature: TypedSignature = $state({ name: untrack(() => personName), method: 'typed' });
	let closeTried = $state(false);
	const foundProblem = $derived(
		found.trim().length < 3 ? 'Say in a few words what was found.' : undefined
	);
	const signatureProblem = $derived(signatureProblemOf(signature));
	async function close(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		closeTried = true;
		if (!visit || foundProblem || signatureProblem || !judgement.mayClose) return;
		const closed = {
			visitId: visit.visitId,
			found: found.trim(),
			...signature,
			name: signature.name.trim()
		};
		ending.clear();
		closeTried = false;
		await live.add(end, 'visit-closed', closed);
	}
</script>

{#if live.mayOpenVisit}
	<section aria-labelledby="visit-title" data-testid="visit-open">
		<h2 id="visit-title">Visit this hop again</h2>
		<p class="text-quiet mt-1 text-sm">
			What was accepted stays as it is. All that you read and do from now on belongs to this visit,
			and is compared with it.
		</p>
		<form class="mt-3 grid max-w-3xl gap-3 md:grid-cols-2" onsubmit={(event) => void open(event)}>
			<SelectField
				label="Why you come"
				name="visit-purpose"
				bind:value={() => purpose, (chosen) => (coming.values.purpose = chosen as VisitPurpose)}
				options={VISIT_PURPOSES.filter((one) => one !== 'installation').map((value) => ({
					value,
					label: VISIT_PURPOSE_WORDS[value]
				}))}
			/>
			<TextField
				label="In a few words"
				name="visit-why"
				bind:value={coming.values.why}
				error={tried ? problems.why : undefined}
			/>
			<TextField
				label="Who is here"
				name="visit-people"
				hint="Several names with commas."
				bind:value={coming.values.people}
				error={tried ? problems.people : undefined}
			/>
			<button class="btn btn-main self-end">Begin the visit</button>
		</form>
	</section>
{:else if visit}
	<section aria-labelledby="visit-title" class="flex flex-col gap-5" data-testid="visit">
		<div>
			<h2 id="visit-title">{VISIT_PURPOSE_WORDS[visit.purpose]}, going on</h2>
			<p class="text-sm">
				{visit.opened.why}. Begun at {visit.opened.end}, {moment(visit.opened.at)}, by
				{visit.opened.people.join(', ')}.
			</p>
			<p class="text-quiet mt-1 text-sm">
				For a comparison that holds, both ends go into the alignment state first, at
				<a href={powerHref}>Power</a>. A dish that must be moved is aligned and fixed as at the
				first time.
			</p>
			{#if live.mayRecord}
				<div class="mt-3 flex flex-wrap gap-3">
					{#each levels as { dish, of, unread } (dish)}
						<button
							class="btn {unread ? 'btn-main' : ''}"
							disabled={reading}
							onclick={() => onread(dish)}
							>{reading
								? 'Reading …'
								: unread
									? `Read the level${of} at ${end}`
									: `Read the level${of} at ${end} again`}</button
						>
					{/each}
				</div>
			{/if}
		</div>
		<VisitLines lines={judgement.lines} />
		<Snags {end} {live} />
		{#if live.mayRecord}
			{#if !partOpen}
				<div><button class="btn" onclick={() => (partOpen = true)}>A part was changed</button></div>
			{:else}
				<form
					class="grid max-w-3xl gap-3 md:grid-cols-2"
					onsubmit={(event) => void keepPart(event)}
					aria-label="A part was changed"
				>
					<SelectField
						label="Part of {end}"
						name="part-key"
						bind:value={partDraft.values.key}
						options={[
							{ value: '', label: 'Choose …' },
							...parts.map(({ key, name }) => ({ value: key, label: name }))
						]}
						error={partTried ? partProblems.key : undefined}
					/>
					<TextField
						label="Type code of the new one"
						name="part-code"
						bind:value={partDraft.values.code}
						error={partTried ? partProblems.code : undefined}
					/>
					<TextField
						label="Its serial number"
						name="part-serial"
						bind:value={partDraft.values.serial}
						error={partTried ? partProblems.serial : undefined}
					/>
					<CodeReader
						what="the serial number"
						onread={(text) => (partDraft.values.serial = text)}
					/>
					<TextField
						label="Why"
						name="part-reason"
						bind:value={partDraft.values.reason}
						error={partTried ? partProblems.reason : undefined}
					/>
					<PhotoStrip
						{end}
						{live}
						about="part-replaced"
						bind:photoIds={partDraft.values.photoIds}
					/>
					<button class="btn btn-main self-end">Record the change</button>
				</form>
			{/if}
			<form class="flex max-w-xl flex-col gap-4" onsubmit={(event) => void close(event)}>
				<h2>Close the visit</h2>
				{#if !judgement.mayClose}
					<Notice kind="trouble">
						Not yet: {judgement.lines
							.filter(({ verdict }) => verdict === 'trouble')
							.map(({ reason }) => reason)
							.join(' ')}
					</Notice>
				{/if}
				{#if judgement.needsAcceptance}
					<p>What was changed in this visit asks for a new acceptance afterwards.</p>
				{/if}
				<TextField
					label="What was found"
					name="visit-found"
					bind:value={ending.values.found}
					error={closeTried ? foundProblem : undefined}
				/>
				<SignatureBox
					bind:signature
					errorAt={(field) =>
						closeTried && field === 'signature.name' ? signatureProblem : undefined}
				/>
				<button class="btn btn-main btn-big" disabled={!judgement.mayClose}
					>Sign and close the visit</button
				>
			</form>
		{/if}
	</section>
{/if}
