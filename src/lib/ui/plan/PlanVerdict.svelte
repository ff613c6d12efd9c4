<script lang="ts">
	import { availabilityText } from '#core/budget/availability';
	import { ENDS, farEnd } from '#core/ends';
	import { dbm, fixed, volts } from '../format';
	import Worded from '../words/Worded.svelte';
	import Notice from '../form/Notice.svelte';
	import { measure } from '../units.svelte';
	import type { PlanEditor } from './editor.svelte';

	interface Props {
		editor: PlanEditor;
		onreview: () => void;
	}

	let { editor, onreview }: Props = $props();
	const { live, plan, review } = $derived(editor);
	const counted = (count: number, what: string): string[] =>
		count === 0 ? [] : [`${count} ${what}${count === 1 ? '' : 's'}`];
	/** What keeps the plan from being issued, in words; nothing is counted that is not there. */
	const openWords = $derived(
		[
			...counted(review?.errors ?? 0, 'error'),
			...counted(review?.openWarnings ?? 0, 'open warning')
		].join(', ')
	);
</script>

<section aria-label="What this gives" aria-live="polite" data-testid="plan-verdict">
	{#if !live}
		<p class="text-quiet">Computing …</p>
	{:else if live.kind === 'incomplete'}
		<p class="text-quiet">{live.what}</p>
	{:else if live.kind === 'out-of-range'}
		<Notice kind="trouble">{live.message}</Notice>
	{:else}
		<dl
			class="border-ink grid grid-cols-2 gap-x-6 gap-y-2 border-y-2 py-2.5 sm:grid-cols-3 lg:grid-cols-6"
		>
			{#if plan}
				<div>
					<dt class="text-quiet text-sm">Distance</dt>
					<dd class="num font-bold">{measure(plan.pathKm, 'km', 3)}</dd>
				</div>
				{#each ENDS as end (end)}
					<div>
						<dt class="text-quiet text-sm">
							<span class="end-{end} text-end-own font-bold">{end}</span>
							<Worded text="RSL" /> from {farEnd(end)}
						</dt>
						<dd class="num font-bold">
							{dbm(plan.received[end].plannedLevelDbm)}
							<span class="text-quiet block text-sm font-normal"
								>RSSI {volts(plan.received[end].plannedVolts)}</span
							>
						</dd>
					</div>
				{/each}
				<div>
					<dt class="text-quiet text-sm">Path</dt>
					<dd class="font-bold">
						{#if !plan.clearance}not looked at{:else if plan.clearance.holds}clear{:else}<span
								class="trouble">▲ short</span
							>{/if}
						{#if plan.clearance}<span class="num text-quiet block text-sm font-normal"
								>{fixed(Math.min(...plan.clearance.checks.map((c) => c.worstRatio)), 2)} F1 least</span
							>{/if}
					</dd>
				</div>
				<div>
					<dt class="text-quiet text-sm">Available</dt>
					<dd class="num font-bold">
						{plan.availability.holds ? '' : '▲ '}{availabilityText(
							plan.availability.achievedPercent,
							plan.availability.bound
						)}
						<span class="text-quiet block text-sm font-normal"
							>asked {plan.availability.requiredPercent} %</span
						>
					</dd>
				</div>
			{/if}
			<div>
				<dt class="text-quiet text-sm">Review</dt>
				<dd>
					<button type="button" class="min-h-11 text-left font-bold underline" onclick={onreview}>
						{#if review?.mayIssue}✓ may be issued{:else}<span class="trouble">▲ {openWords}</span
							>{/if}
					</button>
				</dd>
			</div>
		</dl>
	{/if}
</section>
