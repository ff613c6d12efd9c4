<script lang="ts">
	import { spoken } from '../../units.svelte';
	import { resolve } from '$app/paths';
	import { acceptanceKey, type ReviewedFinding } from '#core/review/reviewPlan';
	import { usePlanEditor } from '../editor.svelte';
	import { sheetOf } from '../sheets';

	const editor = usePlanEditor();
	const review = $derived(editor.review);

	function saidTo(finding: ReviewedFinding): string {
		const key = acceptanceKey(finding);
		return editor.draft.values.acceptances.find((a) => a.key === key)?.text ?? '';
	}

	function accept(finding: ReviewedFinding, text: string): void {
		const key = acceptanceKey(finding);
		const known = editor.draft.values.acceptances.find((a) => a.key === key);
		if (known) known.text = text;
		else editor.draft.values.acceptances.push({ key, text });
	}
	const siteId = (field: string): string | undefined =>
		field === 'sites.A' ? editor.sites.A?.id : field === 'sites.B' ? editor.sites.B?.id : undefined;
</script>

{#if review}
	<p class="text-xl font-bold" data-testid="review-verdict">
		{#if review.mayIssue}
			✓ This plan may be issued.
		{:else}
			<span class="trouble" aria-hidden="true">▲</span>
			{review.errors
				? `${review.errors} ${review.errors === 1 ? 'error blocks' : 'errors block'} issuing`
				: ''}{review.errors && review.openWarnings ? ', ' : ''}{review.openWarnings
				? `${review.openWarnings} ${review.openWarnings === 1 ? 'warning waits' : 'warnings wait'} for a written acceptance`
				: ''}.
		{/if}
	</p>
	<ul class="mt-4 flex flex-col">
		{#each review.findings as finding (finding.code + finding.field + finding.message)}
			{@const id = siteId(finding.field)}
			<li
				class="border-line grid gap-x-5 gap-y-2 border-t py-3.5 md:grid-cols-[7rem_1fr_9rem]"
				data-finding={finding.code}
			>
				<p class="font-bold {finding.severity === 'error' ? 'trouble' : ''}">
					{finding.severity === 'error'
						? '▲ error'
						: finding.severity === 'warning'
							? finding.acceptance
								? '✓ accepted'
								: '! warning'
							: 'note'}
				</p>
				<div class="min-w-0">
					<p>{spoken(finding.message)}</p>
					{#if finding.severity === 'warning'}
						<label class="mt-2 block text-sm">
							<span class="text-quiet">Accepted in writing, with the reason</span>
							<textarea
								class="input mt-1 min-h-12"
								rows="1"
								maxlength="1000"
								value={saidTo(finding)}
								oninput={(event) => accept(finding, event.currentTarget.value)}></textarea>
						</label>
					{/if}
				</div>
				<div>
					{#if id}
						<a class="btn w-full" href={resolve('/(desk)/sites/[siteId]', { siteId: id })}
							>Mend at the site</a
						>
					{:else if sheetOf(finding.field)}
						<button type="button" class="btn w-full" onclick={() => editor.goTo(finding.field)}
							>Mend it</button
						>
					{/if}
				</div>
			</li>
		{:else}
			<li class="text-quiet border-line border-t py-3.5">
				No findings: this plan is ready to issue.
			</li>
		{/each}
	</ul>
{/if}
