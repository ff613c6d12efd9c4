<script lang="ts">
	import { untrack } from 'svelte';
	import {
		BROAD_CLIMATES,
		CLIMATE_DEFAULTS,
		UNSAID_CLIMATE,
		type BroadClimate
	} from '#core/budget/climate';
	import { UNKNOWN_CONDITIONS } from '#core/budget/planDefaults';
	import type { SiteValues } from '$lib/plan/resolve';
	import { typedGridPlace } from '#core/geodesy/gridPlace';
	import { typedCoordinate, type CoordinateKind } from '#core/geodesy/typedCoordinate';
	import { callApi } from '../api';
	import { fixed } from '../format';
	import { Draft } from './draft.svelte';
	import KeptTyping from './KeptTyping.svelte';
	import { Saving } from './saving.svelte';
	import SavingTrouble from './SavingTrouble.svelte';
	import SelectField from './SelectField.svelte';
	import TextField from './TextField.svelte';

	interface SavedSite extends SiteValues {
		id: string;
		notes: string;
		version: number;
	}

	interface Props {
		site?: SavedSite;
		/** Where a new site is to stand, picked on the map. */
		place?: { latitudeDeg: string; longitudeDeg: string } | undefined;
		onsaved: () => void;
	}

	let { site, place, onsaved }: Props = $props();
	const start = untrack(() => site);
	const picked = untrack(() => place);
	const asText = (value: string | number | null): string => (value === null ? '' : String(value));
	const typed = <T extends object>(values: T): Record<keyof T, string> =>
		Object.fromEntries(
			Object.entries(values).map(([key, value]) => [key, asText(value as string | number | null)])
		) as Record<keyof T, string>;
	const draft = new Draft(
		`site-${start ? start.id : picked ? `new-${picked.latitudeDeg}-${picked.longitudeDeg}` : 'new'}`,
		{
			name: start?.name ?? '',
			latitudeDeg: start ? String(start.latitudeDeg) : (picked?.latitudeDeg ?? ''),
			longitudeDeg: start ? String(start.longitudeDeg) : (picked?.longitudeDeg ?? ''),
			groundAmslM: start ? String(start.groundAmslM) : '',
			notes: start?.notes ?? '',
			climate: typed(start?.climate ?? UNSAID_CLIMATE),
			conditions: typed(start?.conditions ?? UNKNOWN_CONDITIONS)
		}
	);
	const defaults = $derived(CLIMATE_DEFAULTS[draft.values.climate.broad as BroadClimate]);
	/** An empty number is nothing said, not zero. */
	const unsaid = (
		values: Record<string, string>,
		...texts: string[]
	): Record<string, string | null> =>
		Object.fromEntries(
			Object.entries(values).map(([key, value]) => [
				key,
				value.trim() === '' && !texts.includes(key) ? null : value
			])
		);
	/** Typed in another way than decimal degrees, it is said how it is read. */
	function readAs(text: string, kind: CoordinateKind): string {
		const deg = typedCoordinate(text, kind);
		return deg === undefined || /^-?\d*(?:\.\d*)?$/.test(text.trim())
			? kind === 'latitude'
				? 'Decimal, or degrees, minutes and seconds, or UTM: 20G 350000 4880000'
				: 'Decimal, or degrees, minutes and seconds'
			: `read as ${fixed(deg, 6)}°`;
	}
	/** A place on the grid is typed whole, in the field of the latitude. */
	const onGrid = $derived(typedGridPlace(draft.values.latitudeDeg));
	const saving = new Saving();

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const { climate, conditions, ...place } = $state.snapshot(draft.values);
		const body = {
			...place,
			// What cannot be read as a place goes as it is typed: the server says at its field what is wrong.
			latitudeDeg:
				onGrid?.latitudeDeg ?? typedCoordinate(place.latitudeDeg, 'latitude') ?? place.latitudeDeg,
			longitudeDeg:
				onGrid?.longitudeDeg ??
				typedCoordinate(place.longitudeDeg, 'longitude') ??
				place.longitudeDeg,
			groundAmslM: place.groundAmslM.trim() === '' ? null : place.groundAmslM,
			climate: unsaid(climate, 'source'),
			conditions: unsaid(conditions, 'earthPoint', 'indoorPlace', 'access', 'hazards'),
			...(site ? { version: site.version } : {})
		};
		const saved = await saving.run(async () => {
			await (site ? callApi('PUT', `/sites/${site.id}`, body) : callApi('POST', '/sites', body));
		});
		if (!saved) return;
		draft.clear();
		onsaved();
	}
</script>

<form class="flex max-w-2xl flex-col gap-5" onsubmit={save} novalidate {@attach saving.form}>
	<SavingTrouble {saving} />
	<KeptTyping {draft} always />
	<TextField
		label="Name"
		name="name"
		bind:value={draft.values.name}
		error={saving.errorAt('name')}
	/>
	<div class="grid gap-5 sm:grid-cols-3">
		<TextField
			label="Latitude"
			unit="° north positive"
			name="latitudeDeg"
			hint={onGrid
				? `read as ${fixed(onGrid.latitudeDeg, 6)}° and ${fixed(onGrid.longitudeDeg, 6)}°`
				: readAs(draft.values.latitudeDeg, 'latitude')}
			bind:value={draft.values.latitudeDeg}
			error={saving.errorAt('latitudeDeg')}
		/>
		<TextField
			label="Longitude"
			unit="° east positive"
			name="longitudeDeg"
			hint={onGrid
				? 'From the place on the grid beside it'
				: readAs(draft.values.longitudeDeg, 'longitude')}
			bind:value={draft.values.longitudeDeg}
			error={saving.errorAt('longitudeDeg')}
		/>
		<TextField
			label="Ground height"
			quantity="m"
			unit="a.m.s.l."
			hint="Left empty, it is taken from the terrain"
			name="groundAmslM"
			bind:value={draft.values.groundAmslM}
			error={saving.errorAt('groundAmslM')}
		/>
	</div>
	<TextField
		label="Notes"
		name="notes"
		hint="Access, hazards, where the mast stands: printed on the site sheet."
		bind:value={draft.values.notes}
		error={saving.errorAt('notes')}
	/>
	<fieldset class="border-line border-t pt-4">
		<legend class="float-left mb-3 font-bold">Mount, earth and supply</legend>
		<div class="clear-both grid items-end gap-5 sm:grid-cols-4">
			<TextField
				label="Pipe diameter"
				quantity="mm"
				name="conditions.pipeDiameterMm"
				bind:value={draft.values.conditions.pipeDiameterMm}
				error={saving.errorAt('conditions.pipeDiameterMm')}
			/>
			<TextField
				label="Top of the mast"
				quantity="m"
				unit="above ground"
				name="conditions.mastHeightM"
				bind:value={draft.values.conditions.mastHeightM}
				error={saving.errorAt('conditions.mastHeightM')}
			/>
			<TextField
				label="Lean of the pipe"
				unit="° off plumb"
				numeric
				name="conditions.pipeLeanDeg"
				bind:value={draft.values.conditions.pipeLeanDeg}
				error={saving.errorAt('conditions.pipeLeanDeg')}
			/>
			<TextField
				label="Supply"
				unit="V DC"
				numeric
				name="conditions.supplyV"
				bind:value={draft.values.conditions.supplyV}
				error={saving.errorAt('conditions.supplyV')}
			/>
			{#each [['earthPoint', 'Earth point'], ['indoorPlace', 'Indoor place'], ['access', 'Access'], ['hazards', 'Hazards']] as const as [key, label] (key)}
				<div class="sm:col-span-4">
					<TextField
						{label}
						name="conditions.{key}"
						bind:value={draft.values.conditions[key]}
						error={saving.errorAt(`conditions.${key}`)}
					/>
				</div>
			{/each}
			<TextField
				label="Grid's central meridian"
				unit="°, if drawings use one"
				numeric
				name="conditions.gridCentralMeridianDeg"
				bind:value={draft.values.conditions.gridCentralMeridianDeg}
				error={saving.errorAt('conditions.gridCentralMeridianDeg')}
			/>
		</div>
	</fieldset>
	<fieldset class="border-line border-t pt-4">
		<legend class="float-left mb-3 font-bold">Climate</legend>
		<div class="clear-both grid gap-5 sm:grid-cols-4">
			<SelectField
				label="Broad climate"
				name="climate.broad"
				bind:value={draft.values.climate.broad}
				options={BROAD_CLIMATES.map((value) => ({ value, label: CLIMATE_DEFAULTS[value].words }))}
			/>
			<TextField
				label="Rain rate"
				unit="mm/h, 0.01 %"
				numeric
				name="climate.rainRate001MmH"
				hint="empty: {defaults.rainRate001MmH}, default"
				bind:value={draft.values.climate.rainRate001MmH}
				error={saving.errorAt('climate.rainRate001MmH')}
			/>
			<TextField
				label="dN1"
				unit="N/km"
				numeric
				name="climate.gradientDn1"
				hint="empty: {defaults.gradientDn1}, default"
				bind:value={draft.values.climate.gradientDn1}
				error={saving.errorAt('climate.gradientDn1')}
			/>
			<TextField
				label="Low k"
				unit="99.9 %"
				numeric
				name="climate.lowK"
				hint="empty: {defaults.lowK}, default"
				bind:value={draft.values.climate.lowK}
				error={saving.errorAt('climate.lowK')}
			/>
			<div class="sm:col-span-4">
				<TextField
					label="Source of typed values"
					name="climate.source"
					bind:value={draft.values.climate.source}
					error={saving.errorAt('climate.source')}
				/>
			</div>
		</div>
	</fieldset>
	<div>
		<button class="btn btn-main" disabled={saving.busy}
			>{saving.busy ? 'Saving …' : 'Save the site'}</button
		>
	</div>
</form>
