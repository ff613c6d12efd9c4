<script lang="ts">
	import { chainsApart, chainState } from '#core/tower/chainState';
	import type { LinearPolarization } from '#core/propagation/rain';
	import { farEnd, type End } from '#core/ends';
	import Notice from '../form/Notice.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';

	/** `joints`: those that are looked at here, by their keys. */
	let { end, live, joints }: { end: End; live: LiveHop; joints: readonly string[] } = $props();
	const own = $derived(chainState(live.recorded, end, joints));
	const far = $derived(chainState(live.recorded, farEnd(end)));
	const apart = $derived(chainsApart(live.recorded));
	const PLANES: LinearPolarization[] = ['vertical', 'horizontal'];
	const WALL = { vertical: 'M13 4V28M19 4V28', horizontal: 'M4 13H28M4 19H28' };
</script>

{#snippet glyph(shows: LinearPolarization | null, wrong: boolean)}
	<svg viewBox="0 0 32 32" width="30" height="30" aria-hidden="true" class="shrink-0">
		<circle
			cx="16"
			cy="16"
			r="14"
			fill="none"
			stroke={wrong ? 'var(--trouble)' : 'var(--ink)'}
			stroke-width={wrong ? 3 : 1.5}
			stroke-dasharray={shows ? undefined : '3 3'}
		/>
		{#if shows}<path
				d={WALL[shows]}
				stroke={wrong ? 'var(--trouble)' : 'var(--ink)'}
				stroke-width="3"
			/>{/if}
	</svg>
{/snippet}

<div data-testid="chain">
	<p class="text-quiet mb-2 text-sm">
		From the radio to the dish, this end left, {farEnd(end)} right. Two upright bars: vertical; two level
		bars: horizontal; dashed: not looked at.
	</p>
	<ol>
		{#each own.joints as state (state.joint.key)}
			{@const other = far.joints.find((joint) => joint.joint.key === state.joint.key)}
			<li
				class="border-line border-b py-2.5"
				data-joint={state.joint.key}
				data-verdict={state.verdict}
			>
				<div class="flex items-center gap-3">
					{@render glyph(state.shows, state.verdict === 'wrong')}
					<div class="min-w-0 flex-1">
						<p class="leading-tight font-semibold">{state.joint.part}</p>
						<p class="text-sm">Plan: {state.joint.shows[state.joint.expected]}</p>
						<p class="text-quiet text-sm">
							Look at: {state.joint.mark}{state.joint.delivered
								? `; delivered ${state.joint.delivered}`
								: ''}
						</p>
					</div>
					{#if other}{@render glyph(other.shows, other.verdict === 'wrong')}{/if}
				</div>
				{#if live.mayRecord}
					<div class="mt-2 grid grid-cols-2 gap-2" role="group" aria-label={state.joint.part}>
						{#each PLANES as plane (plane)}
							<button
								class="btn px-2 text-left text-[0.95rem] leading-tight {state.shows === plane
									? 'btn-main'
									: ''}"
								aria-pressed={state.shows === plane}
								onclick={() =>
									void live.add(end, 'polarization-set', { joint: state.joint.key, shows: plane })}
								>{state.joint.shows[plane]}</button
							>
						{/each}
					</div>
				{/if}
				{#if state.verdict === 'wrong'}
					<p class="trouble mt-1 text-sm font-semibold">▲ {state.reason}</p>
				{/if}
			</li>
		{/each}
	</ol>
	{#each apart as text (text)}
		<div class="mt-3"><Notice kind="trouble">{text}</Notice></div>
	{/each}
</div>
