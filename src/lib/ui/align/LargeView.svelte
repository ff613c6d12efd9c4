<script lang="ts">
	import X from '@lucide/svelte/icons/x';
	import type { ShortfallBand } from '#core/diagnose/shortfallBands';
	import { bandOfShortfall } from '#core/diagnose/shortfallBands';
	import type { End } from '#core/ends';
	import { Dialog } from 'bits-ui';
	import { fixed } from '../format';
	import { BAND_FILL, BAND_WORDS } from './wellWords';
	import type { StepWords } from './stepWords';

	interface Props {
		open: boolean;
		end: End;
		words: StepWords;
		bands: readonly ShortfallBand[];
		belowPlanDb: number | null;
		volts: number | null;
		action: string;
		disabled: boolean;
		onact: () => void;
	}

	let {
		open = $bindable(),
		end,
		words,
		bands,
		belowPlanDb,
		volts,
		action,
		disabled,
		onact
	}: Props = $props();
	const top = $derived(bands[0]?.fromDb ?? 0);
	const bottom = $derived(bands.at(-1)?.toDb ?? 50);
	const share = (db: number): number =>
		Math.min(100, Math.max(0, ((db - top) / (bottom - top)) * 100));
	const ARROWS: Record<StepWords['arrow'], string> = {
		left: 'M90 50H14M40 20 10 50l30 30',
		right: 'M10 50H86M60 20l30 30-30 30',
		up: 'M50 90V14M20 40 50 10l30 30',
		down: 'M50 10V86M20 60l30 30 30-30',
		across: 'M12 50H88M32 28 10 50l22 22M68 28l22 22-22 22',
		'up-down': 'M50 12V88M28 32 50 10l22 22M28 68l22 22 22-22',
		none: ''
	};
</script>

<Dialog.Root bind:open>
	<Dialog.Portal>
		<Dialog.Content
			class="bg-paper end-{end} fixed inset-0 z-50 grid grid-cols-[5.5rem_minmax(0,1fr)] gap-4 p-3 select-none"
			data-testid="large-view"
		>
			<div class="border-ink relative border-2" aria-hidden="true">
				{#each bands as band, i (i)}
					<div
						class="absolute inset-x-0"
						style:top="{share(band.fromDb)}%"
						style:height="{share(band.toDb) - share(band.fromDb)}%"
						style:background={BAND_FILL[band.meaning]}
					></div>
				{/each}
				{#if belowPlanDb !== null}
					<div
						class="settle absolute -inset-x-2 h-0 border-t-[10px]"
						style:top="{share(belowPlanDb)}%"
						style:border-color="var(--end)"
					></div>
				{/if}
			</div>
			<div class="flex min-w-0 flex-col justify-between gap-2">
				<div class="flex items-start justify-between gap-2">
					<div aria-live="polite" class="min-w-0">
						<Dialog.Title class="text-[clamp(2rem,9vw,4.5rem)] leading-none font-bold"
							>{words.what}</Dialog.Title
						>
						<p class="num text-[clamp(1.6rem,7vw,3.6rem)] leading-tight font-bold">
							{words.amount}
						</p>
					</div>
					<Dialog.Close
						class="flex h-14 w-14 shrink-0 items-center justify-center"
						aria-label="Close the large view"><X size={34} /></Dialog.Close
					>
				</div>
				{#if ARROWS[words.arrow]}
					<svg viewBox="0 0 100 100" class="mx-auto min-h-0 w-full flex-1" aria-hidden="true">
						<path
							d={ARROWS[words.arrow]}
							fill="none"
							stroke="var(--end)"
							stroke-width="13"
							stroke-linecap="round"
							stroke-linejoin="round"
						/>
					</svg>
				{/if}
				<p>
					<span
						class="num text-end-own block text-[clamp(4rem,22vw,11rem)] leading-[0.9] font-bold"
						data-testid="large-shortfall">{belowPlanDb === null ? '—' : fixed(belowPlanDb, 1)}</span
					>
					<span class="text-xl font-semibold">
						dB below plan{#if belowPlanDb !== null}: {BAND_WORDS[
								bandOfShortfall(bands, belowPlanDb)
							]}{/if}
						{#if volts !== null}<span class="num ml-3">{fixed(volts, 3)} V</span>{/if}
					</span>
				</p>
				{#if action}
					<button class="btn btn-main min-h-20! text-2xl!" {disabled} onclick={onact}
						>{action}</button
					>
				{/if}
			</div>
		</Dialog.Content>
	</Dialog.Portal>
</Dialog.Root>
