<script lang="ts">
	import Pin from '@lucide/svelte/icons/pin';
	import { ENDS, type End } from '#core/ends';
	import type { DayPlan, Timetable } from '#core/schedule/dayPlan';
	import { inBoth, without, type Span } from '#core/schedule/spans';
	import type { HopTask } from '#core/schedule/tasks';
	import { neighbour, railDays, waitsOn, type Block, type RailDay } from './railBlocks';
	import { clockAt, dayAt, lengthWords } from './timetableWords';

	interface Props {
		timetable: Timetable;
		tasks: readonly HopTask[];
		plan: DayPlan;
		/** How far an hour is drawn. */
		pxPerMin: number;
		/** Id of the task that is looked at. */
		selected: string | undefined;
		now: number;
		/** The end that the reader stands at: its rail is the left one. */
		own: End;
		siteOf: Record<End, string>;
		crewOf: (id: string) => string;
		/** Puts a task somewhere; undefined where nobody may. */
		onpin: ((task: string, minute: number) => void) | undefined;
	}

	let {
		timetable,
		tasks,
		plan,
		pxPerMin,
		selected = $bindable(),
		now,
		own,
		siteOf,
		crewOf,
		onpin
	}: Props = $props();
	const { zone } = $derived(plan);
	const sides = $derived(own === 'A' ? ENDS : [...ENDS].reverse());
	const days = $derived(
		railDays(timetable, tasks, { zone, pins: plan.pins, crews: plan.crews.length })
	);
	/** Rows of text that a block of some height holds, px each. */
	const ROW = 17;
	/** Steps by which a task is moved, minutes. */
	const STEP = 5;
	const KEY_STEP = 15;

	/** Whole hours of a day; one so near its top that its figure would stand over the heading is left out. */
	const hoursOf = ({ from, to }: RailDay): number[] => {
		const first = Math.ceil(from / 60) * 60;
		const count = Math.max(0, Math.floor((to - first) / 60) + 1);
		return Array.from({ length: count }, (_, i) => first + 60 * i).filter(
			(hour) => (hour - from) * pxPerMin > ROW / 2
		);
	};
	/** When nobody climbs at an end: it is dark, or the weather forbids it. */
	function barred(day: RailDay, end: End): (Span & { look: string; title: string })[] {
		const storms = timetable.forbidden[end].find(({ limit }) => limit === 'climb')?.spans ?? [];
		return [
			...without([day], timetable.light[end]).map((span) => ({
				...{ ...span, look: 'bg-land', title: 'Dark' }
			})),
			...inBoth([day], storms).map((span) => ({
				...{ ...span, look: 'storm', title: 'No climbing by the weather' }
			}))
		];
	}

	function words({ task, from, to, state, pinned, crew }: Block): string {
		const how =
			state === 'done' ? 'done' : state === 'begun' ? 'under way' : pinned ? 'pinned' : 'expected';
		return `${task.end}: ${task.title}, ${clockAt(from, zone)} to ${clockAt(to, zone)}, ${how}, ${crewOf(crew)}`;
	}

	let dragged: { id: string; startY: number; by: number } | undefined = $state();
	function down(event: PointerEvent, { task, state }: Block): void {
		if (!onpin || state !== 'planned' || event.button !== 0) return;
		(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
		dragged = { id: task.id, startY: event.clientY, by: 0 };
	}
	function move(event: PointerEvent): void {
		if (!dragged) return;
		const by = Math.round((event.clientY - dragged.startY) / pxPerMin / STEP) * STEP;
		dragged = { ...dragged, by };
	}
	function up({ task, from }: Block): void {
		const by = dragged?.by ?? 0;
		dragged = undefined;
		if (by !== 0) onpin?.(task.id, from + by);
	}
	function keys(event: KeyboardEvent, { task, from, state }: Block): void {
		if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
		event.preventDefault();
		const step = event.key === 'ArrowDown' ? 1 : -1;
		if (event.altKey && onpin && state === 'planned') {
			onpin(task.id, from + step * KEY_STEP);
			return;
		}
		document.getElementById(`block-${neighbour(days, task.id, step)}`)?.focus();
	}
</script>

<div class="flex flex-col gap-5" data-testid="time-rails">
	{#each days as day (day.day)}
		{@const height = (day.to - day.from) * pxPerMin}
		<section aria-label={dayAt(day.from + 30, zone)}>
			<h2 class="border-ink mb-1 border-b pb-1 text-base">{dayAt(day.from + 30, zone)}</h2>
			<div
				class="grid grid-cols-[2.75rem_minmax(0,1fr)_1.5rem_minmax(0,1fr)] sm:grid-cols-[3.25rem_minmax(0,1fr)_9rem_minmax(0,1fr)]"
			>
				<div class="relative" style:height="{height}px" aria-hidden="true">
					{#each hoursOf(day) as hour (hour)}
						<span
							class="num text-quiet absolute right-1.5 -translate-y-1/2 text-xs"
							style:top="{(hour - day.from) * pxPerMin}px">{clockAt(hour, zone)}</span
						>
					{/each}
				</div>
				{#each sides as end, side (end)}
					<div
						class="end-{end} bg-card relative border-x-2"
						style:order={side === 0 ? 1 : 3}
						style:height="{height}px"
						style:border-color="var(--end-{end.toLowerCase()})"
					>
						{#each hoursOf(day) as hour (hour)}
							<span
								class="border-line absolute inset-x-0 border-t"
								style:top="{(hour - day.from) * pxPerMin}px"
								aria-hidden="true"
							></span>
						{/each}
						{#each barred(day, end) as { from, to, look, title } (look + from)}
							<span
								class="absolute inset-x-0 {look}"
								style:top="{(from - day.from) * pxPerMin}px"
								style:height="{(to - from) * pxPerMin}px"
								{title}
							></span>
						{/each}
						{#each day.standBy[end] as span (span.from)}
							<span
								class="border-quiet text-quiet absolute inset-x-1 overflow-hidden rounded border border-dashed px-1.5 text-xs leading-tight"
								style:top="{(span.from - day.from) * pxPerMin}px"
								style:height="{(span.to - span.from) * pxPerMin - 1}px"
								>{#if (span.to - span.from) * pxPerMin > ROW}stands by{/if}</span
							>
						{/each}
						{#each day.blocks[end] as block (block.task.id)}
							{@const moved = dragged?.id === block.task.id ? dragged.by : 0}
							{@const tall = (block.to - block.from) * pxPerMin}
							<button
								type="button"
								id="block-{block.task.id}"
								class="absolute inset-x-1 flex flex-col justify-start overflow-hidden rounded border text-left text-xs leading-tight
									{block.state === 'done' ? 'border-line bg-land' : 'border-ink bg-paper'}
									{selected === block.task.id ? 'outline-ink z-10 outline-3' : ''}
									{moved ? 'z-10 opacity-80' : ''}"
								style:top="{(block.from + moved - day.from) * pxPerMin}px"
								style:height="{Math.max(tall - 1, 5)}px"
								style:border-left-width={side === 0 ? '5px' : undefined}
								style:border-right-width={side === 1 ? '5px' : undefined}
								style:touch-action={onpin && selected === block.task.id ? 'none' : 'pan-y'}
								aria-label={words(block)}
								aria-pressed={selected === block.task.id}
								data-task={block.task.id}
								data-state={block.state}
								onpointerdown={(event) => down(event, block)}
								onpointermove={move}
								onpointerup={() => up(block)}
								onpointercancel={() => (dragged = undefined)}
								onclick={() => (selected = block.task.id)}
								onkeydown={(event) => keys(event, block)}
							>
								{#if tall >= ROW - 3}
									<span class="flex gap-1 truncate px-1.5 {tall < ROW ? 'leading-none' : 'pt-px'}">
										{#if block.state === 'done'}<span aria-hidden="true">✓</span>{/if}
										{#if block.state === 'begun'}<span aria-hidden="true">…</span>{/if}
										{#if block.pinned}<Pin class="h-3.5 w-3.5 shrink-0" aria-hidden="true" />{/if}
										<span class="truncate">{block.task.title}</span>
									</span>
								{/if}
								{#if tall >= 2 * ROW}
									<span class="num text-quiet block truncate px-1.5"
										>{clockAt(block.from + moved, zone)}–{clockAt(block.to + moved, zone)}</span
									>
								{/if}
							</button>
						{/each}
						{#if now > day.from && now < day.to}
							<span
								class="border-trouble pointer-events-none absolute -inset-x-1 z-20 border-t-2"
								style:top="{(now - day.from) * pxPerMin}px"
								aria-hidden="true"
							></span>
						{/if}
					</div>
				{/each}
				<div class="relative" style:order="2" style:height="{height}px">
					{#each waitsOn(day, timetable.waits, crewOf) as wait (wait.to)}
						<p
							class="border-quiet absolute inset-x-1 overflow-hidden border-l-4 border-dotted pl-1 text-xs leading-tight max-sm:w-0"
							style:top="{(wait.from - day.from) * pxPerMin}px"
							style:height="{(wait.to - wait.from) * pxPerMin}px"
						>
							<span class="max-sm:sr-only">{wait.who} {lengthWords(wait.to - wait.from)}</span>
						</p>
					{/each}
					{#each [...day.blocks.A, ...day.blocks.B].filter(({ task }) => task.attends && task.bench === 'sweep-coarse') as block (block.task.id)}
						<span
							class="border-ink absolute inset-x-0 border-t-2"
							style:top="{(block.from - day.from) * pxPerMin}px"
							aria-hidden="true"
						></span>
					{/each}
				</div>
			</div>
		</section>
	{/each}
	<p class="text-quiet text-sm">
		{siteOf[own]} stands left. Beams between the rails: both ends are needed. Shaded: too dark to climb;
		striped: no climbing by the weather. The line across both is now.
	</p>
</div>

<style>
	.storm {
		background: repeating-linear-gradient(-45deg, transparent 0 6px, var(--line) 6px 8px);
	}
</style>
