<script lang="ts">
	import ChevronRight from '@lucide/svelte/icons/chevron-right';
	import { spoken } from '../units.svelte';
	import type { AcceptanceLine } from '#core/accept/judgeAcceptance';

	interface Props {
		lines: readonly AcceptanceLine[];
		causes: Record<string, string>;
		editable: boolean;
		errorAt: (field: string) => string | undefined;
		oncause: (code: string, text: string) => void;
	}

	let { lines, causes, editable, errorAt, oncause }: Props = $props();
	/** What asks for somebody comes first: missing, then off; then what holds. */
	const RANK = { missing: 0, deviation: 1, pass: 2 } as const;
	const open = $derived(
		lines
			.filter(({ verdict }) => verdict !== 'pass')
			.sort((p, q) => RANK[p.verdict] - RANK[q.verdict])
	);
	const missing = $derived(open.filter(({ verdict }) => verdict === 'missing').length);
	const held = $derived(lines.filter(({ verdict }) => verdict === 'pass'));
	/** Until it is pressed what holds is folded on a phone, and open at a desk, where it is signed. */
	let unfolded: boolean | undefined = $state();
	const isWide = (): boolean => matchMedia('(min-width: 48rem)').matches;
	/** Longer than this a reason is folded, characters. */
	const LONG = 240;
	let whole: string[] = $state([]);
	const VERDICTS = { pass: 'holds', deviation: 'deviates', missing: 'missing' } as const;
</script>

{#snippet row(line: AcceptanceLine)}
	<li
		class="border-line grid gap-x-6 gap-y-1 border-b py-3 md:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)_7rem]"
	>
		<div>
			<p class="font-semibold">
				<span class="end-{line.end} text-end-own">{line.end}</span>
				{line.label}
			</p>
			<p class="text-quiet text-sm">planned: <span class="num">{spoken(line.planned)}</span></p>
		</div>
		<div>
			<p class="num font-semibold {line.measured ? '' : 'max-md:hidden'}">
				{line.measured ? spoken(line.measured) : '—'}
			</p>
			{#if line.reason.length > LONG && !whole.includes(line.code)}
				<p class="line-clamp-3 text-sm">{spoken(line.reason)}</p>
				<button class="min-h-11 text-sm underline" onclick={() => (whole = [...whole, line.code])}
					>All of it</button
				>
			{:else}
				<p class="text-sm">{spoken(line.reason)}</p>
			{/if}
			{#if line.verdict === 'deviation'}
				{#if editable}
					<label class="mt-2 block">
						<span class="text-sm font-semibold">Cause of this deviation</span>
						<textarea
							class="input mt-1"
							rows="2"
							maxlength="2000"
							value={causes[line.code] ?? ''}
							aria-invalid={errorAt(`causes.${line.code}`) !== undefined}
							oninput={(event) => oncause(line.code, event.currentTarget.value)}></textarea>
					</label>
					{#if errorAt(`causes.${line.code}`)}
						<p class="trouble text-sm font-semibold">▲ {errorAt(`causes.${line.code}`)}</p>
					{/if}
				{:else if causes[line.code]}
					<p class="mt-1 text-sm"><strong>Cause:</strong> {causes[line.code]}</p>
				{/if}
			{/if}
		</div>
		<p
			class="font-bold md:text-right {line.verdict === 'deviation' ? 'trouble' : ''}"
			data-verdict={line.verdict}
		>
			{#if line.verdict === 'deviation'}<span aria-hidden="true">▲</span>{/if}
			{#if line.verdict === 'pass'}<span aria-hidden="true">✓</span>{/if}
			{VERDICTS[line.verdict]}
		</p>
	</li>
{/snippet}

<div data-testid="judgement">
	{#if open.length}
		<p class="text-quiet mb-2 text-sm">
			{[
				...(missing ? [`${missing} missing`] : []),
				...(open.length > missing ? [`${open.length - missing} deviating`] : []),
				`${held.length} as planned`
			].join(', ')}.
		</p>
	{/if}
	{#if open.length}
		<ul class="border-ink border-t-2">
			{#each open as line (line.code)}{@render row(line)}{/each}
		</ul>
	{/if}
	{#if held.length}
		<button
			type="button"
			class="mt-3 flex min-h-12 items-center gap-2 font-semibold"
			aria-expanded={unfolded}
			aria-controls="lines-that-hold"
			onclick={() => (unfolded = !(unfolded ?? isWide()))}
		>
			<ChevronRight
				size={18}
				class="shrink-0 {unfolded === undefined ? 'md:rotate-90' : unfolded ? 'rotate-90' : ''}"
			/>
			{held.length === 1 ? 'One line holds' : `${held.length} lines hold`}
		</button>
		<ul
			id="lines-that-hold"
			class="border-ink border-t-2 print:block! {unfolded === undefined
				? 'max-md:hidden'
				: unfolded
					? ''
					: 'hidden'}"
		>
			{#each held as line (line.code)}{@render row(line)}{/each}
		</ul>
	{/if}
</div>
