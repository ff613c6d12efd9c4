<script lang="ts">
	import type { ProjectSchedule, Stint } from '#core/schedule/projectSchedule';
	import type { PerEnd } from '#core/ends';
	import { clockAt } from '../timetable/timetableWords';
	import Pin from '@lucide/svelte/icons/pin';
	import { dayWords } from './dayWords';
	import { columnsByCrew, columnsByHop, wallDays, within } from './wallColumns';

	interface Props {
		/** As it stands now: moved by what was recorded, where that is known. */
		schedule: Pick<ProjectSchedule, 'stints' | 'gates' | 'span'>;
		hops: readonly { id: string; name: string; sites: PerEnd<string> }[];
		crews: readonly { id: string; name: string }[];
		zone: string;
		by: 'hop' | 'crew';
		/** How far a minute is drawn, px. */
		pxPerMin: number;
		/** What is looked at, by its first task. */
		selected: string | undefined;
		/** Where somebody wants what, by its first task. */
		pins: ReadonlyMap<string, number>;
		/** Puts it somewhere; undefined where nobody may. */
		onpin: ((task: string, minute: number) => void) | undefined;
		/** Now, minutes since 1970; 0 where it is not known yet. */
		now: number;
	}

	let {
		schedule,
		hops,
		crews,
		zone,
		by,
		pxPerMin,
		selected = $bindable(),
		pins,
		onpin,
		now
	}: Props = $props();
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
		`${hopName(stint.hop)}, ${stint.end}: ${crewName(stint.crew)}, ${clockAt(stint.from, zone)} to ${clockAt(stint.to, zone)}${stint.done ? ', done' : stint.begun ? ', under way' : pins.has(stint.first) ? ', pinned' : ''}`;

	/** What is done or under way stands where it was. */
	const isOpen = ({ done, begun }: Stint): boolean => !done && !begun;
	/** Steps by which it is moved, minutes. */
	const STEP = 15;
	let dragged: { first: string; startY: number; scale: number; by: number } | undefined = $state();
	function down(event: PointerEvent, stint: Stint, scale: number): void {
		if (!onpin || !isOpen(stint) || event.button !== 0) return;
		(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
		dragged = { first: stint.first, startY: event.clientY, scale, by: 0 };
	}
	function move(event: PointerEvent): void {
		if (!dragged) return;
		const by = Math.round((event.clientY - dragged.startY) / dragged.scale / STEP) * STEP;
		dragged = { ...dragged, by };
	}
	/** A press that was no move chooses it. */
	let moved = false;
	function up({ first, from }: Stint): void {
		const by = dragged?.by ?? 0;
		dragged = undefined;
		moved = by !== 0;
		if (by !== 0) onpin?.(first, from + by);
	}
	function choose({ first }: Stint): void {
		if (!moved) selected = selected === first ? undefined : first;
		moved = false;
	}
	function keys(event: KeyboardEvent, stint: Stint): void {
		if (!event.altKey || !onpin || !isOpen(stint)) return;
		if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
		event.preventDefault();
		const { first, from } = stint;
		selected = first;
		onpin(first, (pins.get(first) ?? from) + (event.key === 'ArrowDown' ? STEP : -STEP));
	}
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
										{#each lane.stints as stint (stint.first)}
											{@const part = within(stint, day)}
											{#if part}
												{@const tall = (part.to - part.from) * scale}
												{@const shift = dragged?.first === stint.first ? dragged.by : 0}
												<button
													type="button"
													class="end-{stint.end} absolute inset-x-0.5 overflow-hidden rounded-sm border px-0.5 text-left leading-[15px] {stint.done
														? 'bg-fill text-on-fill border-transparent'
														: 'bg-paper'} {selected === stint.first
														? 'outline-ink outline-3'
														: ''} {shift ? 'z-10 opacity-80' : ''}"
													style:border-color={stint.done ? undefined : 'var(--end)'}
													style:border-left-width={stint.done ? undefined : '5px'}
													style:top="{(part.from + shift - day.from) * scale}px"
													style:height="{Math.max(7, tall - 1)}px"
													style:touch-action={onpin && selected === stint.first ? 'none' : 'pan-y'}
													data-first={stint.first}
													aria-label={words(stint)}
													aria-pressed={selected === stint.first}
													onpointerdown={(event) => down(event, stint, scale)}
													onpointermove={move}
													onpointerup={() => up(stint)}
													onpointercancel={() => (dragged = undefined)}
													onclick={() => choose(stint)}
													onkeydown={(event) => keys(event, stint)}
												>
													{#if tall >= ROW_PX}<span class="flex items-center gap-0.5 truncate"
															>{#if shift}<span class="num"
																	>{clockAt(stint.from + shift, zone)}</span
																>{:else if pins.has(stint.first)}<Pin
																	class="h-3 w-3 shrink-0"
																	aria-hidden="true"
																/>{/if}{by === 'hop'
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
