<script lang="ts">
	import Worded from '../words/Worded.svelte';
	import { bandOfShortfall, type ShortfallBand } from '#core/diagnose/shortfallBands';
	import type { End } from '#core/ends';
	import { fixed } from '../format';
	import { BAND_FILL, BAND_MEANS, BAND_WORDS } from './wellWords';

	interface Props {
		end: End;
		bands: readonly ShortfallBand[];
		plannedDbm: number;
		plannedVolts: number;
		levelDbm: number | null;
		volts: number | null;
		/** Whether more volts are better at this radio's port. */
		rising: boolean;
		implausible: boolean;
		/** Both dishes stand: what is missing then is not the pointing. */
		aimed: boolean;
	}

	let { end, bands, plannedDbm, plannedVolts, levelDbm, volts, rising, implausible, aimed }: Props =
		$props();

	const top = $derived(bands[0]?.fromDb ?? 0);
	const bottom = $derived(bands.at(-1)?.toDb ?? 50);
	const share = (db: number): number =>
		Math.min(100, Math.max(0, ((db - top) / (bottom - top)) * 100));
	const shortfall = $derived(levelDbm === null ? null : plannedDbm - levelDbm);
	const meaning = $derived(shortfall === null ? null : bandOfShortfall(bands, shortfall));
	const ticks = $derived(
		Array.from({ length: Math.floor(bottom / 10) + 1 }, (_, i) => i * 10).filter(
			(db) => db < bottom
		)
	);
	const better = $derived(rising ? 'MORE' : 'FEWER');
</script>

<section class="end-{end}" aria-label="Shortfall well">
	<h2 class="mb-1 text-base!">dB below plan</h2>
	<div class="flex gap-2.5">
		<div class="num relative w-6 text-right text-sm" aria-hidden="true">
			{#each ticks as tick (tick)}
				<span class="absolute right-0 -translate-y-1/2" style:top="{share(tick)}%">{tick}</span>
			{/each}
		</div>
		<div
			class="border-ink relative h-72 w-[7.6rem] shrink-0 border-2 lg:h-[25rem]"
			aria-hidden="true"
		>
			{#each bands as band, i (i)}
				<div
					class="absolute inset-x-0"
					style:top="{share(band.fromDb)}%"
					style:height="{share(band.toDb) - share(band.fromDb)}%"
					style:background={BAND_FILL[band.meaning]}
				></div>
			{/each}
			{#if shortfall !== null}
				<div
					class="settle absolute -right-4 -left-1 h-0 border-t-[5px]"
					style:top="{share(shortfall)}%"
					style:border-color="var(--end)"
				>
					<svg class="absolute -top-[13px] right-[-6px]" width="16" height="22" viewBox="0 0 16 22">
						<path d="M0 11 16 0v22z" fill="var(--end)" />
					</svg>
				</div>
			{/if}
			<!-- The words lie over the mark, each on its band's own ground. -->
			{#each bands as band, i (i)}
				{#if share(band.toDb) - share(band.fromDb) > 5.5}
					<div
						class="absolute inset-x-0 flex items-center justify-center text-center text-[0.82rem] leading-tight font-semibold"
						style:top="{share(band.fromDb)}%"
						style:height="{share(band.toDb) - share(band.fromDb)}%"
						style:color={band.meaning === 'on-plan' ? 'var(--on-fill)' : 'var(--ink)'}
					>
						<span class="px-1" style:background={BAND_FILL[band.meaning]}
							>{BAND_WORDS[band.meaning]}</span
						>
					</div>
				{/if}
			{/each}
		</div>
		<div class="relative flex min-w-0 flex-1 flex-col justify-center gap-1 pl-4">
			<p class="num text-quiet text-sm lg:absolute lg:top-0">
				planned <Worded text="RSL" /><br /><strong class="text-ink"
					>{fixed(plannedDbm, 1)} dBm<br />{fixed(plannedVolts, 3)} V</strong
				>
			</p>
			{#if implausible}
				<p class="trouble text-lg font-bold">▲ no level</p>
				<p class="num text-xl font-semibold">{fixed(volts, 3)} V</p>
				<p class="text-sm">This port cannot give that: pick-up, or a wrong port.</p>
			{:else if shortfall === null}
				<p class="text-quiet">No reading yet.</p>
			{:else}
				<p>
					<span class="num text-end-own text-4xl leading-none font-bold" data-testid="shortfall"
						>{fixed(shortfall, 1)}</span
					>
					<span class="block text-sm font-semibold">dB below the planned RSL</span>
				</p>
				<p class="num text-lg leading-tight font-semibold whitespace-nowrap">
					{fixed(levelDbm, 1)} dBm{#if volts !== null}<br />{fixed(volts, 3)} V{/if}
				</p>
			{/if}
			<p class="mt-1 text-sm">
				turn for <strong>{better}</strong>
				<span class="whitespace-nowrap"
					><Worded text="RSSI" /> volts <span aria-hidden="true">{rising ? '↑' : '↓'}</span></span
				>
			</p>
		</div>
	</div>
	<p class="mt-2 min-h-10 max-w-80 text-sm" aria-live="polite">
		{#if aimed && meaning && meaning !== 'on-plan'}Both dishes stand on their main lobe: what is
			missing is not the pointing.
		{:else if meaning}<strong>{BAND_WORDS[meaning]}.</strong> {BAND_MEANS[meaning]}{/if}
	</p>
</section>
