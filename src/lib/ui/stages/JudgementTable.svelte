<script lang="ts">
	import type { AcceptanceLine } from '#core/accept/judgeAcceptance';

	interface Props {
		lines: readonly AcceptanceLine[];
		causes: Record<string, string>;
		editable: boolean;
		errorAt: (field: string) => string | undefined;
		oncause: (code: string, text: string) => void;
	}

	let { lines, causes, editable, errorAt, oncause }: Props = $props();
	const VERDICTS = { pass: 'holds', deviation: 'deviates', missing: 'missing' } as const;
</script>

<ul class="border-ink border-t-2" data-testid="judgement">
	{#each lines as line (line.code)}
		<li
			class="border-line grid gap-x-6 gap-y-1 border-b py-3 md:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)_7rem]"
		>
			<div>
				<p class="font-semibold">
					<span class="end-{line.end} text-end-own">{line.end}</span>
					{line.label}
				</p>
				<p class="text-quiet text-sm">planned: <span class="num">{line.planned}</span></p>
			</div>
			<div>
				<p class="num font-semibold">{line.measured || '—'}</p>
				<p class="text-sm">{line.reason}</p>
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
	{/each}
</ul>
