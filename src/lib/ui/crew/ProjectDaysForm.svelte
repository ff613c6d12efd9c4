<script lang="ts">
	import { TOOLS, toolName } from '#core/tower/tools';
	import type { FieldProblem } from '../api';
	import Notice from '../form/Notice.svelte';
	import { pickedFile } from '../form/pickedFile';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import Tick from '../form/Tick.svelte';
	import Workdays from '../timetable/Workdays.svelte';
	import {
		readSiteWeather,
		readWays,
		SITE_WEATHER_COLUMNS,
		WAY_COLUMNS,
		type ProjectDaysForm
	} from './projectForm';

	interface Props {
		form: ProjectDaysForm;
		problems: readonly FieldProblem[];
		crews: readonly { id: string; name: string; equipment: readonly string[] }[];
	}

	let { form = $bindable(), problems, crews }: Props = $props();
	const errorAt = (field: string): string | undefined =>
		problems.find((problem) => problem.field === `days.${field}`)?.message;
	const LIGHT = [
		{ value: 'civil', label: 'Light with civil twilight' },
		{ value: 'sun', label: 'Light from sunrise to sunset' }
	];
	const LIMITS = [
		['climbWindMs', 'Climbing: wind', 'm/s'],
		['climbGustMs', 'Climbing: gusts', 'm/s'],
		['liftWindMs', 'Lifting: wind', 'm/s'],
		['liftGustMs', 'Lifting: gusts', 'm/s'],
		['openRainMmH', 'Open joints: rain', 'mm/h']
	] as const;
	/** What crews of this project have and others may not. */
	const things = $derived([
		...new Set([
			...crews.filter(({ id }) => form.crewIds.includes(id)).flatMap((one) => one.equipment),
			...Object.keys(form.needs).filter((thing) => form.needs[thing])
		])
	]);
	const TOOL_OPTIONS = [
		{ value: '', label: 'Nothing in particular' },
		...TOOLS.map((tool) => ({ value: tool, label: toolName(tool) }))
	];
	const MOST_BYTES = 500_000;
	let problem: string | undefined = $state();
	let said: string | undefined = $state();

	function setCrew(id: string, on: boolean): void {
		form.crewIds = on
			? [...form.crewIds.filter((one) => one !== id), id]
			: form.crewIds.filter((one) => one !== id);
	}
	async function read(event: Event, what: 'ways' | 'weather'): Promise<void> {
		problem = said = undefined;
		const picked = pickedFile(event, MOST_BYTES);
		if (!picked) return;
		if ('problem' in picked) {
			problem = picked.problem;
			return;
		}
		const text = await picked.file.text();
		if (what === 'ways') {
			const found = readWays(text);
			if ('problem' in found) problem = found.problem;
			else {
				form.ways = text.trim();
				said = `${found.ways.length} ways taken from ${picked.file.name}.`;
			}
			return;
		}
		const found = readSiteWeather(text, picked.file.name);
		if ('problem' in found) problem = found.problem;
		else {
			form.weather = found.hours;
			said = `${found.hours.length} hours of weather taken from ${picked.file.name}.`;
		}
	}
</script>

<div class="flex flex-col gap-4">
	<div class="grid gap-4 sm:grid-cols-4">
		<TextField
			label="First day"
			name="days.firstDay"
			type="date"
			bind:value={form.firstDay}
			error={errorAt('firstDay')}
		/>
		<TextField
			label="Days"
			name="days.days"
			numeric
			bind:value={form.days}
			error={errorAt('days')}
		/>
		<TextField
			label="Time zone"
			name="days.zone"
			bind:value={form.zone}
			error={errorAt('zone')}
			hint="As the IANA names it"
		/>
		<TextField
			label="Away by"
			name="days.awayByMin"
			bind:value={form.awayBy}
			error={errorAt('awayByMin')}
			hint="The last boat, a gate; empty for none"
		/>
	</div>
	<Workdays bind:workdays={form.workdays} error={errorAt('workdays')} />
	<fieldset>
		<legend class="text-sm font-semibold">Crews</legend>
		<div class="flex flex-wrap gap-x-5">
			{#each crews as crew (crew.id)}
				<Tick bind:checked={() => form.crewIds.includes(crew.id), (on) => setCrew(crew.id, on)}
					>{crew.name}</Tick
				>
			{/each}
		</div>
		{#if errorAt('crewIds')}<p class="trouble text-sm">{errorAt('crewIds')}</p>{/if}
		{#if things.length}
			<div class="grid gap-3 py-2 sm:grid-cols-3">
				{#each things as thing, i (thing)}
					<SelectField
						label="{thing} is needed for"
						name="days.needs.{i}"
						options={TOOL_OPTIONS}
						bind:value={
							() => form.needs[thing] ?? '',
							(tool) => (form.needs = { ...form.needs, [thing]: tool })
						}
					/>
				{/each}
			</div>
		{/if}
		<p class="text-quiet text-sm">
			Hours, people and skills are those of the crew. An end that one crew is assigned to stays
			theirs.
		</p>
	</fieldset>
	<div class="flex flex-wrap items-center gap-x-6">
		<Tick bind:checked={form.acceptOnSite}>Somebody who signs comes to every hop</Tick>
		{#if form.pins.length}
			<span class="text-sm"
				>{form.pins.length}
				{form.pins.length === 1 ? 'block is pinned' : 'blocks are pinned'} on the wall.</span
			>
			<button type="button" class="btn" onclick={() => (form.pins = [])}>Let them all go</button>
		{/if}
	</div>
	<div class="grid gap-4 sm:grid-cols-3">
		<TextField
			label="Speed on the road"
			name="days.roadKmH"
			unit="km/h"
			numeric
			bind:value={form.roadKmH}
			error={errorAt('roadKmH')}
		/>
		<TextField
			label="Road against straight line"
			name="days.detour"
			unit="times"
			numeric
			bind:value={form.detour}
			error={errorAt('detour')}
		/>
		<SelectField label="Light" name="days.light" options={LIGHT} bind:value={form.light} />
	</div>
	<label class="flex flex-col gap-1">
		<span class="text-sm font-semibold">Ways that are otherwise, boats</span>
		<textarea
			class="input num min-h-24 text-sm"
			name="days.ways"
			placeholder="Saltbeck Quay,Tern Stack,35,08:00 16:00"
			bind:value={form.ways}
			aria-invalid={errorAt('ways') ? true : undefined}></textarea>
		<span class="text-quiet text-sm"
			>One a line: {WAY_COLUMNS.join(', ')}. Sites and crews by name, one direction a line; with
			departures it goes only then.</span
		>
		{#if errorAt('ways')}<span class="trouble text-sm" role="alert">{errorAt('ways')}</span>{/if}
	</label>
	<div class="grid gap-4 sm:grid-cols-5">
		{#each LIMITS as [key, label, unit] (key)}
			<TextField
				{label}
				{unit}
				name="days.limits.{key}"
				numeric
				bind:value={form[key]}
				error={errorAt(`limits.${key}`)}
			/>
		{/each}
	</div>
	<div class="flex flex-wrap items-center gap-4">
		<label class="btn cursor-pointer">
			Ways from a file
			<input
				class="sr-only"
				type="file"
				accept=".csv,text/csv"
				onchange={(event) => void read(event, 'ways')}
			/>
		</label>
		<label class="btn cursor-pointer">
			Weather from a file
			<input
				class="sr-only"
				type="file"
				accept=".csv,.json,text/csv,application/json"
				onchange={(event) => void read(event, 'weather')}
			/>
		</label>
		<span class="text-sm">
			{form.weather.length
				? `${form.weather.length} hours of weather are known.`
				: 'No weather is known.'}
		</span>
		{#if form.weather.length}
			<button type="button" class="btn" onclick={() => (form.weather = [])}>Forget it</button>
		{/if}
	</div>
	<p class="text-quiet text-sm">
		Columns of the weather: {SITE_WEATHER_COLUMNS.join(', ')}. Limits are proposals: the firm’s own
		and the rules of the place come before them.
	</p>
	{#if problem}<Notice kind="trouble">{problem}</Notice>{/if}
	{#if said}<p class="text-sm" role="status">{said}</p>{/if}
</div>
