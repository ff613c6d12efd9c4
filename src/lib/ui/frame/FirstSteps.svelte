<script lang="ts">
	import type { Snippet } from 'svelte';
	import { untrack } from 'svelte';
	import { resolve } from '$app/paths';
	import { firstStepsCookie, firstStepsOf, type GuidedRole } from '../words/firstSteps';

	interface Props {
		role: GuidedRole;
		/** Put away on this device; known before the page is drawn, so that nothing moves. */
		seen: boolean;
		/** The page that they stand above. */
		children: Snippet;
	}

	let { role, seen, children }: Props = $props();
	let away = $state(untrack(() => seen));
	function put(value: boolean): void {
		away = value;
		const keptS = value ? 400 * 86_400 : 0;
		document.cookie = `${firstStepsCookie(role)}=seen; path=/; max-age=${keptS}; samesite=lax`;
	}
</script>

{#if !away}
	<section
		class="border-ink no-print mb-6 rounded-lg border-2 px-4 py-3"
		aria-labelledby="first-steps"
		data-testid="first-steps"
	>
		<h2 id="first-steps">How to begin here</h2>
		<ol class="mt-2 grid gap-x-8 gap-y-2 md:grid-cols-2">
			{#each firstStepsOf(role) as step, i (step.does)}
				<li class="grid grid-cols-[1.6rem_1fr]">
					<span class="num font-bold">{i + 1}</span>
					<span
						>{#if step.to}<a class="font-semibold" href={resolve(step.to)}>{step.does}</a
							>{:else}<strong>{step.does}</strong>{/if}
						<span class="text-quiet block text-sm">{step.why}</span></span
					>
				</li>
			{/each}
		</ol>
		<button class="btn mt-3" onclick={() => put(true)}>Put this away</button>
	</section>
{/if}
{@render children()}
{#if away}
	<p class="no-print mt-8">
		<button class="min-h-11 underline" onclick={() => put(false)}>How to begin here</button>
	</p>
{/if}
