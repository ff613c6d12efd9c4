<script lang="ts">
	import type { VisitLine } from '#core/visit/judgeVisit';

	let { lines }: { lines: readonly VisitLine[] } = $props();
	const WORDS: Record<VisitLine['verdict'], string> = {
		'as-accepted': '✓ as accepted',
		changed: 'changed',
		'not-read': 'not read',
		open: 'open',
		trouble: '▲ must be done'
	};
</script>

<ul class="border-ink border-t-2" data-testid="visit-lines">
	{#each lines as line (line.code)}
		<li
			class="border-line grid gap-x-6 gap-y-1 border-b py-3 md:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)_9rem]"
			data-verdict={line.verdict}
		>
			<div>
				<p class="font-semibold">
					<span class="end-{line.end} text-end-own">{line.end}</span>
					{line.label}
				</p>
				{#if line.then}
					<p class="text-quiet text-sm">accepted: <span class="num">{line.then}</span></p>
				{/if}
			</div>
			<div>
				<p class="num font-semibold">{line.now || '—'}</p>
				<p class="text-sm">{line.reason}</p>
			</div>
			<p class="font-bold md:text-right {line.verdict === 'trouble' ? 'trouble' : ''}">
				{WORDS[line.verdict]}
			</p>
		</li>
	{/each}
</ul>
