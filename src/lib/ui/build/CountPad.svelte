<script lang="ts">
	import type { ReceivedLine } from '#core/tower/receiving';
	import Keypad from '../align/Keypad.svelte';
	import { typedNumber } from '../align/numberInput';
	import Sheet from '../align/Sheet.svelte';

	interface Props {
		open: boolean;
		lines: readonly ReceivedLine[];
		/** A quantity as it stands in words with its unit. */
		unitText: (line: ReceivedLine) => string;
		onfound: (line: ReceivedLine, found: number) => void;
		/** Something is wrong with what is counted: it is written down in the list. */
		onwrong: (line: ReceivedLine) => void;
	}

	let { open = $bindable(), lines, unitText, onfound, onwrong }: Props = $props();
	let value = $state('');
	let error: string | undefined = $state();
	/** What is counted again, whatever was found of it. */
	let again: string | undefined = $state();
	/** Left for later in this round. */
	let left: string[] = $state([]);
	let lastCode: string | undefined = $state();

	const waiting = $derived(lines.filter((line) => line.verdict === 'open'));
	/** What was left for later comes last, in the order it was left. */
	const order = $derived([
		...waiting.filter(({ code }) => !left.includes(code)),
		...left.flatMap((code) => waiting.filter((line) => line.code === code))
	]);
	const current = $derived(lines.find(({ code }) => code === again) ?? order[0]);
	const last = $derived(lines.find(({ code }) => code === lastCode));

	function go(): void {
		value = '';
		error = undefined;
		again = undefined;
	}
	function keep(line: ReceivedLine): void {
		const found = typedNumber(value);
		if (found === undefined || found < 0) {
			error = 'Type the quantity you counted; 0 where none is there.';
			return;
		}
		onfound(line, found);
		lastCode = line.code;
		go();
	}
</script>

<Sheet bind:open title={current ? current.name || current.code : 'All is counted'}>
	<div data-testid="count-pad">
		{#if last && last.verdict !== 'open'}
			<p
				class="mb-2 flex flex-wrap items-center gap-x-3 text-sm {last.verdict === 'good'
					? 'text-quiet'
					: 'trouble font-semibold'}"
				role="status"
			>
				<span
					>{last.verdict === 'good' ? '✓' : '▲'}
					{last.name || last.code}: <span class="num">{last.found}</span> found. {last.reason}</span
				>
				<button
					type="button"
					class="min-h-11 underline"
					onclick={() => {
						go();
						again = last.code;
					}}>Count it again</button
				>
			</p>
		{/if}
		{#if current}
			{@const line = current}
			<p class="text-quiet mb-2 text-sm">
				<span class="num">{line.code}</span>, listed <span class="num">{line.count}</span>
				{unitText(line)}. {waiting.length === 1 ? 'The last one.' : `${waiting.length} to count.`}
			</p>
			<Keypad
				bind:value
				label="Found"
				unit={unitText({ ...line, count: 2 })}
				onenter={() => keep(line)}
				enterLabel={waiting.length > 1 ? 'Keep, next' : 'Keep it'}
				{error}
			/>
			<div class="mt-3 flex gap-2.5">
				<button
					type="button"
					class="btn min-h-14! flex-1"
					disabled={waiting.length < 2}
					onclick={() => {
						left = [...left.filter((code) => code !== line.code), line.code];
						go();
					}}>Later</button
				>
				<button
					type="button"
					class="btn min-h-14! flex-1"
					onclick={() => {
						open = false;
						onwrong(line);
					}}>Something is wrong</button
				>
			</div>
		{:else}
			<p class="mb-3">Everything on the list is counted.</p>
			<button type="button" class="btn btn-main w-full" onclick={() => (open = false)}
				>Back to the list</button
			>
		{/if}
	</div>
</Sheet>
