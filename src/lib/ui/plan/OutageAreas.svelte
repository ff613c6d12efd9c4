<script lang="ts">
	import {
		MINUTES_PER_YEAR,
		type DirectionAvailability,
		type HopAvailability
	} from '#core/budget/availability';
	import { ENDS, farEnd } from '#core/ends';
	import { fixed } from '../format';

	interface Props {
		availability: HopAvailability;
		carrier: number;
		/** The modulation that the hop is planned for. */
		modulation: string;
	}

	let { availability, carrier, modulation }: Props = $props();

	const CAUSES: {
		name: string;
		fill: string;
		percent: (d: DirectionAvailability) => number | null | undefined;
	}[] = [
		{ name: 'rain', fill: 'var(--well-5)', percent: (d) => d.rainPercent },
		{ name: 'flat fades', fill: 'var(--well-4)', percent: (d) => d.multipathPercent },
		{ name: 'selective fades', fill: 'var(--well-3)', percent: (d) => d.selectivePercent },
		{
			name: 'XPD lost in clear air',
			fill: 'var(--well-2)',
			percent: (d) => d.clearAirCrossPolarPercent
		},
		{ name: 'XPD lost in rain', fill: 'var(--land)', percent: (d) => d.rainCrossPolarPercent }
	];
	/** A share thinner than this has no room for words; they stand in the list below it. */
	const ROOM_PERCENT = 14;
	const allowedMin = $derived((1 - availability.requiredPercent / 100) * MINUTES_PER_YEAR);
	const directions = $derived(
		ENDS.flatMap((end) =>
			availability.directions
				.filter(
					(d) =>
						d.receivingEnd === end && d.carrierNumber === carrier && d.modulation === modulation
				)
				.map((d) => {
					const causes = CAUSES.map(({ name, fill, percent }) => ({
						name,
						fill,
						minutes: ((percent(d) ?? 0) / 100) * MINUTES_PER_YEAR
					})).filter(({ minutes }) => minutes > 0);
					return { end, causes, sum: causes.reduce((sum, { minutes }) => sum + minutes, 0), d };
				})
		)
	);
	const whole = $derived(Math.max(allowedMin, ...directions.map(({ sum }) => sum)));
	const minutes = (value: number): string => fixed(value, value < 10 ? 2 : 0);
</script>

{#if directions.length}
	<section class="mt-5" aria-label="Minutes out in a year by cause" data-testid="outage-areas">
		<p class="text-sm">
			<strong>Minutes out in a year, in {modulation}</strong>
			<span class="text-quiet"
				>each area is as large as its minutes; the frame is what was asked for, {minutes(
					allowedMin
				)} min</span
			>
		</p>
		{#each directions as { end, causes, sum, d } (end)}
			<div class="mt-2 grid grid-cols-[4.5rem_1fr] items-center gap-x-3">
				<p class="end-{farEnd(end)} text-end-own text-sm font-bold">
					{farEnd(end)} to {end}
					<span class="num text-ink block font-normal">{minutes(d.outageMinutesPerYear)} min</span>
				</p>
				<div class="relative h-14">
					<div
						class="border-line absolute inset-y-0 left-0 flex overflow-hidden border"
						style:width="{(100 * sum) / whole}%"
					>
						{#each causes as { name, fill, minutes: long } (name)}
							<div
								class="flex h-full min-w-0 flex-col justify-center px-1.5 text-xs leading-tight"
								style:background={fill}
								style:width="{(100 * long) / sum}%"
								title="{name}: {minutes(long)} min"
							>
								{#if (100 * long) / whole > ROOM_PERCENT}
									<span class="truncate font-semibold">{name}</span>
									<span class="num">{minutes(long)} min</span>
								{/if}
							</div>
						{/each}
					</div>
					<div
						class="border-ink pointer-events-none absolute inset-y-0 left-0 border-2 border-dashed"
						style:width="{(100 * allowedMin) / whole}%"
					></div>
				</div>
				<p class="text-quiet col-start-2 text-xs">
					{causes.map((cause) => `${cause.name} ${minutes(cause.minutes)} min`).join(', ')}
				</p>
			</div>
		{/each}
	</section>
{/if}
