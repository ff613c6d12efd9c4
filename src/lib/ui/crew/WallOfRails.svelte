<script lang="ts">
	import type { ProjectSchedule, Stint } from '#core/schedule/projectDays';
	import type { PerEnd } from '#core/ends';
	import { clockAt, lengthWords } from '../timetable/timetableWords';
	import { dayWords } from './dayWords';
	import { columnsByCrew, columnsByHop, wallDays, within } from './wallColumns';

	interface Props {
		schedule: ProjectSchedule;
		hops: readonly { id: string; name: string; sites: PerEnd<string> }[];
		crews: readonly { id: string; name: string }[];
		zone: string;
		by: 'hop' | 'crew';
		/** How far a minute is drawn, px. */
		pxPerMin: number;
		/** What is looked at. */
		selected: Stint | undefined;
		/** Now, minutes since 1970; 0 where it is not known yet. */
		now: number;
	}

	let { schedule, hops, crews, zone, by, pxPerMin, selected = $bindable(), now }: Props = $props();
	const columns = $derived(
		by === 'hop'
			? columnsByHop(schedule, { hops, crews })
			: columnsByCrew(schedule, { hops, crews })
	);
	const days = $derived(wallDays(schedule, zone));
	const LANE_PX = $derived(by === 'hop' ? 78 : 140);
	/** Rows of text that a block of some height holds. */
	const ROW_PX = 15;
	const crewName = (id: string): string => crews.find((crew) => crew.id === id)?.name ?? '';
	const hopName = (id: string): string => hops.find((hop) => hop.id === id)?.name ?? '';
	const words = (stint: Stint): string =>
		`${hopName(stint.hop)}, ${stint.end}: ${crewName(stint.crew)}, ${clockAt(stint.from, zone)} to ${clockAt(stint.to, zone)}${stint.done ? ', done' : ''}`;
</script>

<div class="overflow-x-auto pb-2" data-testid="wall">
	<table class="border-separate border-spacing-x-2 border-spacing-y-0 text-xs">
		<thead>
			<tr>
				<td class="bg-paper sticky left-0 z-10"></td>
				{#each columns as column (column.key)}
					<th
						scope="col"
						class="px-0.5 pb-1 text-left align-bottom leading-tight font-semibold"
						style:width="{LANE_PX * column.lanes.length}px">{column.title}</th
					>
				{/each}
			</tr>
		</thead>
		<tbody>
			{#each days as day (day.day)}
				{@const height = Math.max(34, (day.to - day.from) * pxPerMin)}
				{@const scale = height / (day.to - day.from)}
				<tr>
					<th
						scope="row"
						class="bg-paper border-ink sticky left-0 z-10 border-t pt-1 pr-1 text-left align-top font-semibold whitespace-nowrap"
						>{dayWords(day.day)}
						<span class="num text-quiet block font-normal"
							>{clockAt(day.from, zone)}–{clockAt(day.to, zone)}</span
						></th
					>
					{#each columns as column (column.key)}
						<td class="border-ink relative border-t p-0 align-top">
							<div class="flex" style:height="{height}px">
								{#each column.lanes as lane (lane.key)}
									<div
										class="{lane.end ? `end-${lane.end}` : ''} bg-card relative {lane.end === 'B'
											? 'border-r-2'
											: 'border-l-2'}"
										style:width="{LANE_PX}px"
										style:border-color={lane.end ? 'var(--end)' : 'var(--ink)'}
									>
										{#each lane.stints as stint (stint.from)}
											{@const part = within(stint, day)}
											{#if part}
												{@const tall = (part.to - part.from) * scale}
												<button
													type="button"
													class="end-{stint.end} absolute inset-x-0.5 overflow-hidden rounded-sm border px-0.5 text-left leading-[15px] {stint.done
														? 'bg-fill text-on-fill border-transparent'
														: 'bg-paper'} {selected === stint ? 'outline-ink outline-3' : ''}"
													style:border-color={stint.done ? undefined : 'var(--end)'}
													style:border-left-width={stint.done ? undefined : '5px'}
													style:top="{(part.from - day.from) * scale}px"
													style:height="{Math.max(7, tall - 1)}px"
													aria-label={words(stint)}
													aria-pressed={selected === stint}
													onclick={() => (selected = selected === stint ? undefined : stint)}
												>
													{#if tall >= ROW_PX}<span class="block truncate"
															>{by === 'hop'
																? crewName(stint.crew)
																: `${stint.end} ${hopName(stint.hop)}`}</span
														>{/if}
												</button>
											{/if}
										{/each}
									</div>
								{/each}
							</div>
							{#if column.gate !== null && column.gate > day.from && column.gate <= day.to}
								<span
									class="bg-ink pointer-events-none absolute inset-x-0 h-0.5"
									style:top="{(column.gate - day.from) * scale}px"
									title="Both ends ready to be aligned, {clockAt(column.gate, zone)}"
								></span>
							{/if}
							{#if now > day.from && now < day.to}
								<span
									class="border-trouble pointer-events-none absolute inset-x-0 border-t-2 border-dashed"
									style:top="{(now - day.from) * scale}px"
									title="Now"
								></span>
							{/if}
						</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
</div>
{#if selected}
	<div
		class="end-{selected.end} bg-card sticky bottom-2 z-10 mt-2 flex flex-wrap items-start gap-x-6 gap-y-1 rounded-lg border-2 p-3 text-sm"
		style:border-color="var(--end)"
		data-testid="stint"
	>
		<p class="min-w-0 flex-1">
			<strong
				><span class="text-end-own">{selected.end}</span>
				{hopName(selected.hop)}: {crewName(selected.crew)}</strong
			>
			<span class="block"
				><span class="num">{clockAt(selected.from, zone)}</span> to
				<span class="num">{clockAt(selected.to, zone)}</span>, {lengthWords(
					selected.to - selected.from
				)}{selected.done ? ', done' : ''}</span
			>
			<span class="text-quiet block">{[...new Set(selected.titles)].join(', ')}</span>
		</p>
		<button type="button" class="btn" onclick={() => (selected = undefined)}>Close</button>
	</div>
{/if}
