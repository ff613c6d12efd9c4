<script lang="ts">
	interface Props {
		subject: 'sites' | 'hops';
		columns: readonly { column: string; means: string; needed: boolean; example: string }[];
	}

	let { subject, columns }: Props = $props();
	const needed = $derived(columns.filter((one) => one.needed));
	const others = $derived(columns.filter((one) => !one.needed));
</script>

{#snippet table(rows: Props['columns'])}
	<table class="w-full text-left text-sm">
		<thead class="text-quiet"
			><tr><th class="py-1 pr-3">Column</th><th>What it holds</th></tr></thead
		>
		<tbody>
			{#each rows as { column, means } (column)}
				<tr class="border-line border-t align-top">
					<td class="py-1 pr-3"><code class="num break-all">{column}</code></td><td class="py-1"
						>{means}</td
					>
				</tr>
			{/each}
		</tbody>
	</table>
{/snippet}

<details class="mt-3" data-testid="import-columns">
	<summary class="min-h-11 cursor-pointer py-2 font-semibold"
		>The columns of a CSV file of {subject}</summary
	>
	<p class="text-quiet mb-2 text-sm">
		In any order, the first line naming them. Without these a row is nothing; the others may be left
		out, and columns of another name are not read.
	</p>
	{@render table(needed)}
	<details class="mt-2">
		<summary class="min-h-11 cursor-pointer py-2"
			>The other {others.length} {others.length === 1 ? 'column' : 'columns'}</summary
		>
		{@render table(others)}
	</details>
</details>
