<script lang="ts">
	import { ENDS, type End } from '#core/ends';
	import type { DayWeather } from '#core/schedule/dayPlan';
	import { clockMoment, isZone } from '#core/schedule/hours';
	import { untrack } from 'svelte';
	import Notice from '../form/Notice.svelte';
	import { pickedFile } from '../form/pickedFile';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import Tick from '../form/Tick.svelte';
	import { clockMinute } from './dayForm';
	import { hoursBetween, readWeather, WEATHER_COLUMNS, withHours } from './weatherFile';

	interface Props {
		weather: DayWeather[];
		/** Day that typed hours begin on at first. */
		firstDay: string;
		zone: string;
	}

	let { weather = $bindable(), firstDay, zone }: Props = $props();
	const MOST_BYTES = 500_000;
	const WHERE = [
		{ value: 'both', label: 'Both ends' },
		{ value: 'A', label: 'End A' },
		{ value: 'B', label: 'End B' }
	];
	let day = $state(untrack(() => firstDay));
	let from = $state('12:00');
	let to = $state('18:00');
	let where = $state('both');
	let wind = $state('');
	let gust = $state('');
	let rain = $state('');
	let lightning = $state(false);
	let problem: string | undefined = $state();
	let said: string | undefined = $state();

	const count = (end: End): number => weather.filter((hour) => hour.end === end).length;
	const number = (text: string): number | null =>
		text.trim() === '' ? null : Number(text.replace(',', '.'));

	function add(): void {
		problem = said = undefined;
		const [begin, until] = [clockMinute(from), clockMinute(to)];
		const values = [number(wind), number(gust), number(rain)];
		if (begin === undefined || until === undefined || until <= begin) {
			problem = 'From and to are times of day, as 12:00 and 18:00.';
		} else if (values.some((value) => value !== null && !(value >= 0 && value <= 300))) {
			problem = 'Wind, gusts and rain are numbers from 0 on.';
		} else if (values.every((value) => value === null) && !lightning) {
			problem = 'Say wind, gusts, rain or lightning.';
		}
		if (problem || begin === undefined || until === undefined || !isZone(zone)) return;
		const [windMs = null, gustMs = null, rainMmH = null] = values;
		const ends = where === 'both' ? ENDS : [where as End];
		const minuteMs = 60_000;
		const more = hoursBetween(
			clockMoment(day, begin, zone) * minuteMs,
			clockMoment(day, until, zone) * minuteMs,
			ends,
			{ windMs, gustMs, rainMmH, lightning }
		);
		weather = withHours(weather, more);
		said = `${more.length} ${more.length === 1 ? 'hour' : 'hours'} taken.`;
	}

	async function read(event: Event): Promise<void> {
		const picked = pickedFile(event, MOST_BYTES);
		problem = said = undefined;
		if (!picked) return;
		if ('problem' in picked) {
			problem = picked.problem;
			return;
		}
		const found = readWeather(await picked.file.text(), picked.file.name);
		if ('problem' in found) problem = found.problem;
		else {
			weather = withHours(weather, found.hours);
			said = `${found.hours.length} hours taken from ${picked.file.name}.`;
		}
	}
</script>

<fieldset class="border-line flex flex-col gap-3 border-t pt-3" data-testid="weather-hours">
	<legend class="pr-2 font-bold">Weather that is expected</legend>
	<p class="text-quiet text-sm">
		{weather.length === 0
			? 'None yet: wind and rain hold nothing up.'
			: `${count('A')} hours at A, ${count('B')} at B.`}
		{#if weather.length}
			<button type="button" class="min-h-11 underline" onclick={() => (weather = [])}
				>Take it all away</button
			>
		{/if}
	</p>
	<div class="grid grid-cols-2 gap-4 sm:grid-cols-4">
		<TextField label="On" name="weather-day" type="date" bind:value={day} />
		<TextField label="From" name="weather-from" bind:value={from} />
		<TextField label="To" name="weather-to" bind:value={to} />
		<SelectField label="Where" name="weather-end" bind:value={where} options={WHERE} />
		<TextField label="Wind" name="weather-wind" quantity="m/s" bind:value={wind} />
		<TextField label="Gusts" name="weather-gust" quantity="m/s" bind:value={gust} />
		<TextField label="Rain" name="weather-rain" unit="mm/h" numeric bind:value={rain} />
		<Tick bind:checked={lightning}>Lightning</Tick>
	</div>
	{#if problem}<Notice kind="trouble">{problem}</Notice>{/if}
	{#if said}<p class="text-sm" role="status">{said}</p>{/if}
	<div class="flex flex-wrap gap-3">
		<button type="button" class="btn" onclick={add}>Take these hours</button>
		<label class="btn cursor-pointer">
			Take hours from a file
			<input
				type="file"
				class="sr-only"
				accept=".csv,.json"
				onchange={(event) => void read(event)}
			/>
		</label>
	</div>
	<p class="text-quiet text-sm">
		CSV or JSON with {WEATHER_COLUMNS.join(', ')}; times with their zone.
	</p>
</fieldset>
