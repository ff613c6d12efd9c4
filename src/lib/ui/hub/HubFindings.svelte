<script lang="ts">
	import type { PlanFinding } from '#core/finding/planFinding';
	import type { SlowedTerminal } from '#core/hub/hubChanges';

	interface Props {
		findings: readonly PlanFinding[];
		slowed: readonly SlowedTerminal[];
		ongo: (field: string) => void;
	}

	let { findings, slowed, ongo }: Props = $props();
	const SIGNS = { error: '▲', warning: '◇', note: '·' } as const;
</script>

{#if slowed.length}
	<section aria-label="Whom this slows down">
		<h2 class="mb-1">Whom this slows down</h2>
		<ul class="border-line border-t text-sm" data-testid="slowed">
			{#each slowed as one (one.terminalId)}
				<li class="border-line border-b py-2"><strong>{one.name}</strong> {one.message}</li>
			{/each}
		</ul>
	</section>
{/if}
{#if findings.length}
	<section aria-label="Findings">
		<h2 class="mb-1">
			{findings.length === 1 ? 'One thing' : `${findings.length} things`} to look at
		</h2>
		<ul class="border-line border-t" data-testid="hub-findings">
			{#each findings as { severity, field, message }, i (i)}
				<li class="border-line border-b">
					<button
						type="button"
						class="flex min-h-11 w-full gap-2 py-2 text-left text-sm {severity === 'error'
							? 'trouble font-semibold'
							: ''}"
						onclick={() => ongo(field)}
						><span aria-hidden="true">{SIGNS[severity]}</span>{message}</button
					>
				</li>
			{/each}
		</ul>
	</section>
{/if}
