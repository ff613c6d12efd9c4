<script lang="ts">
	import { usualCrew } from '#core/schedule/dayPlan';
	import type { FieldProblem } from '../api';
	import Fold from '../form/Fold.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import Tick from '../form/Tick.svelte';
	import Workdays from './Workdays.svelte';
	import { dayFormOf, type DayForm } from './dayForm';
	import { usualDayPlan } from '#core/schedule/dayPlan';
	import WeatherHours from './WeatherHours.svelte';

	interface Props {
		form: DayForm;
		/** What is wrong with it, at its fields. */
		problems: readonly FieldProblem[];
	}

	let { form = $bindable(), problems }: Props = $props();
	const errorAt = (field: string): string | undefined =>
		problems.find((problem) => problem.field === `plan.${field}`)?.message;
	const LIGHT = [
		{ value: 'civil', label: 'Light with civil twilight' },
		{ value: 'sun', label: 'Light from sunrise to sunset' }
	];
	const PEOPLE = [
		['people', 'People'],
		['climbers', 'Of them climbers'],
		['riggers', 'Of them riggers']
	] as const;
	const WINDS = [
		['climbWindMs', 'Climbing: wind'],
		['climbGustMs', 'Climbing: gusts'],
		['liftWindMs', 'Lifting: wind'],
		['liftGustMs', 'Lifting: gusts']
	] as const;
	const two = $derived(form.crews.length === 2);
	/** What the second crew was, should it come back. */
	let second: DayForm['crews'][number] | undefined = $state.raw();

	function setTwo(wanted: boolean): void {
		if (wanted === two) return;
		if (wanted) {
			const usual = dayFormOf({
				...usualDayPlan('2000-01-01', 'Etc/UTC'),
				crews: [usualCrew('Crew B')]
			});
			form.crews.push(second ?? usual.crews[0]!);
		} else {
			second = $state.snapshot(form.crews[1]);
			form.crews.splice(1);
		}
	}
</script>

<div class="flex flex-col gap-4">
	<div class="grid gap-4 sm:grid-cols-3">
		<TextField
			label="First day"
			name="plan.firstDay"
			type="date"
			bind:value={form.firstDay}
			error={errorAt('firstDay')}
		/>
		<TextField
			label="Days"
			name="plan.days"
			numeric
			bind:value={form.days}
			error={errorAt('days')}
		/>
		<TextField
			label="Time zone"
			name="plan.zone"
			bind:value={form.zone}
			error={errorAt('zone')}
			hint="As the IANA names it"
		/>
	</div>
	<Workdays bind:workdays={form.workdays} error={errorAt('workdays')} />
	<Tick bind:checked={() => two, setTwo}>Two crews, one at each end</Tick>
	{#each form.crews as crew, i (i)}
		<fieldset class="border-line flex flex-col gap-3 border-t pt-3">
			<legend class="pr-2 font-bold">{two ? `At ${i === 0 ? 'A' : 'B'}` : 'The crew'}</legend>
			<div class="grid gap-4 sm:grid-cols-4">
				<TextField
					label="Name"
					name="plan.crews.{i}.name"
					bind:value={crew.name}
					error={errorAt(`crews.${i}.name`)}
				/>
				{#each PEOPLE as [key, label] (key)}
					<TextField
						{label}
						name="plan.crews.{i}.{key}"
						numeric
						bind:value={crew[key]}
						error={errorAt(`crews.${i}.${key}`)}
					/>
				{/each}
				<TextField
					label="Begins"
					name="plan.crews.{i}.fromMin"
					bind:value={crew.from}
					error={errorAt(`crews.${i}.fromMin`)}
				/>
				<TextField
					label="Ends"
					name="plan.crews.{i}.toMin"
					bind:value={crew.to}
					error={errorAt(`crews.${i}.toMin`)}
				/>
				{#if !two || i === 0}
					<TextField
						label="Way to A"
						name="plan.crews.{i}.wayMin.A"
						unit="min"
						numeric
						bind:value={crew.wayA}
						error={errorAt(`crews.${i}.wayMin.A`)}
					/>
				{/if}
				{#if !two || i === 1}
					<TextField
						label="Way to B"
						name="plan.crews.{i}.wayMin.B"
						unit="min"
						numeric
						bind:value={crew.wayB}
						error={errorAt(`crews.${i}.wayMin.B`)}
					/>
				{/if}
			</div>
		</fieldset>
	{/each}
	<div class="grid gap-4 sm:grid-cols-3">
		{#if !two}
			<TextField
				label="Between the ends"
				name="plan.betweenMin"
				unit="min"
				numeric
				bind:value={form.between}
				error={errorAt('betweenMin')}
			/>
		{/if}
		<TextField
			label="Away by, every day"
			name="plan.awayByMin"
			bind:value={form.awayBy}
			error={errorAt('awayByMin')}
			hint="Empty where nothing asks for it"
		/>
		<TextField
			label="Why"
			name="plan.awayBy"
			bind:value={form.awayWhy}
			hint="Last boat, gate, road"
		/>
		<SelectField label="Climbing" name="plan.light" bind:value={form.light} options={LIGHT} />
	</div>
	<Fold title="Limits of wind and rain, and the weather">
		<div class="flex flex-col gap-4 pt-2">
			<p class="text-quiet max-w-prose text-sm">
				By your own rules and the papers of the gear; who is there decides. Lightning stops both
				climbing and lifting.
			</p>
			<div class="grid gap-4 sm:grid-cols-5">
				{#each WINDS as [key, label] (key)}
					<TextField
						{label}
						name="plan.limits.{key}"
						quantity="m/s"
						bind:value={form.limits[key]}
						error={errorAt(`limits.${key}`)}
					/>
				{/each}
				<TextField
					label="Open joints: rain"
					name="plan.limits.openRainMmH"
					unit="mm/h"
					numeric
					bind:value={form.limits.openRainMmH}
					error={errorAt('limits.openRainMmH')}
				/>
			</div>
			<WeatherHours bind:weather={form.weather} firstDay={form.firstDay} zone={form.zone} />
		</div>
	</Fold>
</div>
