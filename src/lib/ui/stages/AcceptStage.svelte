<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { acceptanceDue } from '#core/accept/acceptanceDue';
	import {
		judgeAcceptance,
		type AcceptanceJudgement,
		type AcceptanceLine
	} from '#core/accept/judgeAcceptance';
	import type { End } from '#core/ends';
	import { originWords, type Origin, type Provenance } from '#core/provenance/provenance';
	import { dishSuffix, type DishNumber } from '#core/record/secondDish';
	import { untrack } from 'svelte';
	import { AlignBench } from '../align/bench.svelte';
	import ReadingSheet from '../align/ReadingSheet.svelte';
	import { callApi } from '../api';
	import KeptTyping from '../form/KeptTyping.svelte';
	import { Draft } from '../form/draft.svelte';
	import type { TypedSignature } from '../form/signature';
	import CopyButton from '../form/CopyButton.svelte';
	import Download from '../form/Download.svelte';
	import AskFirst from '../form/AskFirst.svelte';
	import Notice from '../form/Notice.svelte';
	import NotHere from '../form/NotHere.svelte';
	import { Saving } from '../form/saving.svelte';
	import { moment } from '../moment.svelte';
	import { units } from '../units.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import { SecondDishHop } from '../hop/secondDishHop.svelte';
	import SendBack from './SendBack.svelte';
	import ClosingSteps from './ClosingSteps.svelte';
	import ImportNote from '../frame/ImportNote.svelte';
	import JudgementTable from './JudgementTable.svelte';
	import SignatureBox from './SignatureBox.svelte';

	interface SignedAcceptance {
		id: string;
		number: number;
		judgement: AcceptanceJudgement;
		causes: Record<string, string>;
		signature: { name: string; method: string; drawing?: string };
		signedBy: string;
		signedAt: string;
		revisionNumber: number;
		lastSeq: number;
		recordDigest: string | null;
		origin: Origin;
	}

	interface Props {
		end: End;
		live: LiveHop;
		hopId: string;
		practice: boolean;
		/** Where the hop came from; null where it was made here. */
		provenance: Provenance | null;
		/** Every acceptance, the oldest first. */
		acceptances: readonly SignedAcceptance[];
		maySign: boolean;
		signerName: string;
	}

	let { end, live, hopId, practice, provenance, acceptances, maySign, signerName }: Props =
		$props();
	const bench = untrack(() => new AlignBench(live, end, practice));
	/** The bench of every dish: each has its own final level. */
	const benches = untrack(() => [
		{ dish: 1 as DishNumber, bench, name: '' },
		...(live.state.second
			? [
					{
						dish: 2 as DishNumber,
						bench: new AlignBench(new SecondDishHop(live, end), end, practice),
						name: ' of the second dish'
					}
				]
			: [])
	]);
	const latest = $derived(acceptances.at(-1) ?? null);
	const due = $derived(acceptanceDue(live.recorded, live.revision.number, latest));
	/** What is shown frozen; null while the hop is to be accepted, for the first time or again. */
	const acceptance = $derived(due.kind === 'stands' || due.kind === 'in-visit' ? latest : null);
	/** What the acceptor wants seen to before signing; done with once an acceptance is signed after it. */
	const sentBack = $derived.by(() => {
		const last = live.recorded.sentBack;
		return last && last.seq > (latest?.lastSeq ?? 0) ? last : undefined;
	});
	const earlier = $derived(acceptances.filter((one) => one.id !== acceptance?.id));
	const judgement = $derived(acceptance?.judgement ?? judgeAcceptance(live.recorded));
	const levelOf = (dish: DishNumber): AcceptanceLine =>
		judgement.lines.find(({ code }) => code === `level-${end}${dishSuffix(dish)}`)!;
	/** A crew is led through what its end owes; everybody else reads the judgement. */
	const closing = $derived(!acceptance && live.mayRecord);
	const missing = $derived(judgement.lines.filter(({ verdict }) => verdict === 'missing'));
	/** The dish whose level is being typed. */
	let finalOf: DishNumber = $state(1);
	let finalOpen = $state(false);
	const finalBench = $derived(benches.find(({ dish }) => dish === finalOf) ?? benches[0]!);
	/** Causes and signature of the acceptor, of the whole hop at whichever end it is looked at. */
	const draft = untrack(
		() =>
			new Draft(live.placeOf('A', 'acceptance'), {
				causes: {} as Record<string, string>,
				signature: { name: signerName, method: 'typed' } as TypedSignature
			})
	);
	const { causes } = $derived(draft.values);
	/** What the crew has written already stands in the field until it is changed. */
	const given = $derived(
		Object.fromEntries(judgement.lines.map((line) => [line.code, line.givenCause ?? '']))
	);
	const signing = new Saving();
	let requestId: string | undefined;

	function readFinal(dish: DishNumber): void {
		finalOf = dish;
		if (practice) void finalBench.bench.read('final');
		else finalOpen = true;
	}

	/** A reading of a visit is no final level: what was accepted stays the baseline. */
	let visitOpen = $state(false);
	function readInVisit(dish: DishNumber): void {
		finalOf = dish;
		if (practice) void finalBench.bench.read('watch');
		else visitOpen = true;
	}

	let asking = $state(false);
	async function sign(): Promise<void> {
		requestId ??= crypto.randomUUID();
		const written = Object.fromEntries(
			judgement.lines
				.filter((line) => line.verdict === 'deviation')
				.map((line) => [line.code, causes[line.code] ?? line.givenCause ?? ''])
				.filter(([, cause]) => cause !== '')
		);
		const done = await signing.run(async () => {
			await callApi('POST', `/hops/${hopId}/acceptance`, {
				id: requestId,
				lastSeq: live.lastSeq,
				causes: written,
				signature: draft.values.signature
			});
			await invalidateAll();
		});
		if (!done) return;
		requestId = undefined;
		draft.clear();
	}
</script>

<div class="end-{end} flex flex-col gap-7 pt-4">
	<div>
		<h1>
			{acceptance ? 'Accepted and signed' : closing ? `Close ${end}` : 'Planned against measured'}
		</h1>
		<p class="text-quiet mt-1">
			{acceptance
				? `By ${acceptance.signature.name}, ${moment(acceptance.signedAt)}, against plan revision ${acceptance.revisionNumber}. Frozen.`
				: closing
					? 'What is owed here before an acceptor signs.'
					: `Judged from the record as it stands, against plan revision ${live.revision.number}.`}
		</p>
		{#if acceptance && acceptance.origin.kind !== 'own'}
			<p
				class="mt-2 font-bold"
				data-testid="acceptance-origin"
				data-origin={acceptance.origin.kind}
			>
				{originWords(acceptance.origin)}.
			</p>
		{/if}
		<ImportNote {provenance} />
		{#if practice}
			<div class="mt-3">
				<Notice kind="caution">
					<p data-testid="practice-mark">
						This is a practice hop: what is measured here is simulated. Its packs say so on every
						page.
					</p>
				</Notice>
			</div>
		{/if}
		{#if sentBack}
			<div class="mt-3">
				<Notice kind="caution">
					<p data-testid="sent-back">
						<strong>Sent back by {sentBack.by}, {moment(sentBack.at)}:</strong>
						{sentBack.reason}
					</p>
				</Notice>
			</div>
		{/if}
		{#if due.kind === 'again'}
			<Notice kind="caution">
				To be accepted anew. {due.why.join(' ')}
				{#if live.mayOpenVisit}Begin a visit to read what is missing.{/if}
			</Notice>
		{/if}
	</div>

	{#if latest}
		{#await import('./VisitPanel.svelte') then { default: VisitPanel }}
			<VisitPanel
				{end}
				{live}
				acceptedSeq={latest.lastSeq}
				personName={signerName}
				onread={readInVisit}
				reading={finalBench.bench.busy}
			/>
		{:catch}<NotHere />{/await}
		{#if finalBench.bench.message}<Notice kind="trouble">{finalBench.bench.message}</Notice>{/if}
		<h2>{acceptance ? 'As it was accepted' : 'As it stands'}</h2>
	{/if}

	{#if closing}
		<ClosingSteps {end} {live} {judgement}>
			{#snippet level({ dish, title })}
				{@const { bench, name } = benches.find((one) => one.dish === dish)!}
				{@const line = levelOf(dish)}
				<h2>{title}</h2>
				<p class="text-sm">
					With both ends fixed and nobody touching a dish. The plan's level holds for the fixed
					alignment power, so read it before ATPC takes over.
				</p>
				<p class="num text-quiet">planned {line.planned}</p>
				{#if line.measured}
					<p data-testid="final-level" data-verdict={line.verdict}>
						<strong class="num text-2xl">{line.measured}</strong><br />
						<span class={line.verdict === 'pass' ? '' : 'trouble font-semibold'}
							>{line.verdict === 'pass' ? '' : '▲ '}{line.reason}</span
						>
					</p>
				{/if}
				<button
					class="btn {line.verdict === 'missing' ? 'btn-main btn-big' : ''}"
					disabled={bench.busy}
					onclick={() => readFinal(dish)}
				>
					{bench.busy
						? 'Reading …'
						: line.measured && line.verdict !== 'missing'
							? `Read the final level${name} at ${end} again`
							: `Read the final level${name} at ${end}`}
				</button>
				{#if bench.message}<Notice kind="trouble">{bench.message}</Notice>{/if}
			{/snippet}
			{#snippet after()}
				{#if !judgement.complete}
					<p>
						The closing is done at both ends. {missing.length === 1
							? 'One line below is'
							: `${missing.length} lines below are`} still missing.
					</p>
				{:else if maySign}
					<p>Nothing is missing.</p>
					<a class="btn btn-main btn-big" href="#sign-title">Go on to sign</a>
				{:else}
					<p>Nothing is missing: an acceptor signs.</p>
				{/if}
			{/snippet}
		</ClosingSteps>
	{/if}

	{#if closing}
		<h2 class="-mb-4">Planned against measured</h2>
	{/if}
	<JudgementTable
		lines={judgement.lines}
		causes={acceptance?.causes ?? { ...given, ...causes }}
		editable={!acceptance && maySign}
		errorAt={(field) => signing.errorAt(field)}
		oncause={(code, text) => (draft.values.causes = { ...causes, [code]: text })}
	/>

	{#if acceptance}
		<section class="flex flex-col gap-3" aria-labelledby="signed-title">
			<h2 id="signed-title">Signature</h2>
			{#if acceptance.signature.drawing}
				<img
					class="border-line w-72 rounded border bg-white"
					src={acceptance.signature.drawing}
					alt="Signature of {acceptance.signature.name}"
				/>
			{/if}
			<p>
				<span class="text-2xl italic">{acceptance.signature.name}</span><br />
				<span class="text-quiet text-sm"
					>{acceptance.origin.kind === 'own'
						? `signed in as ${acceptance.signedBy}`
						: `${originWords(acceptance.origin)}: said to be signed in as ${acceptance.signedBy}`}, {moment(
						acceptance.signedAt
					)}</span
				>
				{#if acceptance.recordDigest}
					<br /><span class="text-quiet text-sm"
						>over the record up to entry {acceptance.lastSeq}, digest
						<span class="num break-all">{acceptance.recordDigest}</span><CopyButton
							text={acceptance.recordDigest}
							what="the digest"
						/></span
					>
				{/if}
			</p>
		</section>
	{:else if maySign}
		<section class="flex max-w-xl flex-col gap-4" aria-labelledby="sign-title">
			<h2 id="sign-title">Sign the acceptance</h2>
			{#if !judgement.complete}
				<p class="text-quiet">
					Not yet: {missing.length === 1 ? '1 line above is' : `${missing.length} lines above are`} still
					missing.
				</p>
			{/if}
			<KeptTyping {draft} />
			<SignatureBox
				bind:signature={draft.values.signature}
				errorAt={(field) => signing.errorAt(field)}
			/>
			{#if signing.message}<Notice kind="trouble">{signing.message}</Notice>{/if}
			<button
				class="btn btn-main btn-big"
				disabled={!judgement.complete || signing.busy}
				onclick={() => (asking = true)}
			>
				{signing.busy ? 'Signing …' : 'Sign the acceptance'}
			</button>
			<AskFirst
				bind:open={asking}
				title="Sign the acceptance of this hop?"
				means="The record is frozen as it stands and your name stands under it. Whatever is measured later belongs to a visit."
				yes="Sign it"
				onyes={() => void sign()}
			/>
			<SendBack {end} {live} />
		</section>
	{:else}
		<p class="text-quiet">An acceptor signs here once nothing above is missing.</p>
	{/if}

	{#if earlier.length}
		<section aria-labelledby="earlier-title" data-testid="earlier-acceptances">
			<h2 id="earlier-title">Earlier acceptances</h2>
			<ul class="border-line mt-1 border-t">
				{#each earlier as one (one.id)}
					<li class="border-line flex flex-wrap items-center justify-between gap-3 border-b py-2">
						<span
							>{one.signature.name}, {moment(one.signedAt)}, plan revision
							<span class="num">{one.revisionNumber}</span>{one.origin.kind === 'own'
								? ''
								: `. ${originWords(one.origin)}`}</span
						>
						<Download
							href="/api/v1/hops/{hopId}/pack.pdf?acceptance={one.number}&units={units.system}"
							label="Its pack as PDF"
						/>
					</li>
				{/each}
			</ul>
		</section>
	{/if}

	<section aria-label="Downloads" class="flex flex-wrap gap-3">
		<Download
			href="/api/v1/hops/{hopId}/pack.pdf?units={units.system}"
			label="Acceptance pack as PDF"
		/>
		<Download href="/api/v1/hops/{hopId}/archive.zip" label="Whole hop as ZIP" />
		<Download href="/api/v1/hops/{hopId}/as-built.json" label="As-built as JSON" />
		<Download href="/api/v1/hops/{hopId}/as-built.csv" label="As-built as CSV" />
	</section>
</div>

<ReadingSheet
	bind:open={finalOpen}
	title="Final level{finalBench.name} at {end}"
	curve={finalBench.bench.curve}
	onreading={(reading) => {
		void finalBench.bench.keepReading(reading, 'final');
		finalOpen = false;
	}}
/>
<ReadingSheet
	bind:open={visitOpen}
	title="Level{finalBench.name} at {end}"
	curve={finalBench.bench.curve}
	onreading={(reading) => {
		void finalBench.bench.keepReading(reading);
		visitOpen = false;
	}}
/>
