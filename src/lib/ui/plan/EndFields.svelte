<script lang="ts">
	import { findDishAt } from '#core/catalogue/dishAt';
	import { CONFIGURATION_RULES } from '#core/budget/configuration';
	import type { ConfigurationKind } from '#core/budget/configurationKinds';
	import type { PartIdentity } from '#core/catalogue/partIdentity';
	import type { Catalogue } from '#core/catalogue/parts';
	import type { End } from '#core/ends';
	import { usableBandGhz } from '#core/feeder/waveguide';
	import { fixed } from '../format';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import { measure } from '../units.svelte';
	import type { EndForm, PickedSite } from './planForm';
	import PatternBox from './PatternBox.svelte';
	import SitePicker from './SitePicker.svelte';

	interface Props {
		end: End;
		values: EndForm;
		parts: Catalogue;
		configuration: ConfigurationKind;
		site: PickedSite | undefined;
		polarization: 'vertical' | 'horizontal';
		errorAt: (field: string) => string | undefined;
		onpick: (site: PickedSite) => void;
	}

	let {
		end,
		values = $bindable(),
		parts,
		configuration,
		site,
		polarization,
		errorAt,
		onpick
	}: Props = $props();
	const dishAt = $derived.by(() => {
		const dish = parts.dishes.find((part) => part.code === values.dishCode);
		return dish && findDishAt(dish, Number(values.transmitFrequencyGhz));
	});
	const at = (field: string): string => `plan.ends.${end}.${field}`;
	/** What can be chosen: parts in use, and the one that is chosen though it is retired. */
	const options = (list: readonly PartIdentity[], chosen: string) =>
		list
			.filter((part) => !part.retired || part.code === chosen)
			.map((part) => ({
				value: part.code,
				label: `${part.code} · ${part.name}${part.retired ? ' (retired)' : ''}`
			}));
	const none = (label: string) => [{ value: '', label }];
	const rule = $derived(CONFIGURATION_RULES[configuration]);
	const radio = $derived(parts.radios.find((part) => part.code === values.radioCode));
	const feeder = $derived(parts.feeders.find((part) => part.code === values.feederCode));
	const indoorUnit = $derived(
		parts.indoorUnits.find((part) => part.code === values.indoorUnitCode)
	);
	const mount = $derived(parts.mounts.find((part) => part.code === values.mountCode));
	const couplings = $derived(parts.couplings.filter((part) => rule.couplings.includes(part.kind)));
</script>

<fieldset class="end-{end} border-t-4 pt-3" style:border-color="var(--end)">
	<legend class="text-end-own float-left mb-3 text-2xl leading-none font-bold">{end}</legend>
	<div class="clear-both flex flex-col gap-4">
		<SitePicker
			label="Site {end}"
			name={end === 'A' ? 'siteAId' : 'siteBId'}
			{site}
			error={errorAt(end === 'A' ? 'siteAId' : 'siteBId') ?? errorAt(at('siteId'))}
			{onpick}
		/>
		<SelectField
			label="Radio at {end}"
			name={at('radioCode')}
			bind:value={values.radioCode}
			options={options(parts.radios, values.radioCode)}
			error={errorAt(at('radioCode'))}
			hint={radio
				? `${radio.rangeGhz[0]} to ${radio.rangeGhz[1]} GHz, aligns in ${radio.alignmentState.modulation}`
				: undefined}
		/>
		{#if rule.couplings.length}
			<SelectField
				label="Coupling at {end}"
				name={at('couplingCode')}
				bind:value={values.couplingCode}
				options={[...none('Choose a coupling'), ...options(couplings, values.couplingCode)]}
				error={errorAt(at('couplingCode'))}
			/>
		{/if}
		<SelectField
			label="Dish at {end}"
			name={at('dishCode')}
			bind:value={values.dishCode}
			options={options(parts.dishes, values.dishCode)}
			error={errorAt(at('dishCode'))}
		/>
		<PatternBox
			{end}
			bind:patternJson={values.patternJson}
			{polarization}
			modelBeamwidthDeg={dishAt?.beamwidthDeg}
		/>
		{#if rule.dishes === 2}
			<div class="grid gap-4 sm:grid-cols-[1fr_9rem]">
				<SelectField
					label="Second dish at {end}"
					name={at('secondDishCode')}
					bind:value={values.secondDishCode}
					options={[...none('Choose a dish'), ...options(parts.dishes, values.secondDishCode)]}
					error={errorAt(at('secondDishCode'))}
				/>
				<TextField
					label="Above the first"
					quantity="m"
					name={at('secondDishOffsetM')}
					bind:value={values.secondDishOffsetM}
					error={errorAt(at('secondDishOffsetM'))}
				/>
			</div>
		{/if}
		{#if configuration === 'two-bands'}
			<SelectField
				label="Second radio at {end}"
				name={at('secondRadioCode')}
				bind:value={values.secondRadioCode}
				options={[...none('Choose a radio'), ...options(parts.radios, values.secondRadioCode)]}
				error={errorAt(at('secondRadioCode'))}
			/>
		{/if}
		<SelectField
			label="Mount at {end}"
			name={at('mountCode')}
			bind:value={values.mountCode}
			options={options(parts.mounts, values.mountCode)}
			error={errorAt(at('mountCode'))}
			hint={mount
				? `pipe ${measure(mount.pipeDiameterMm[0], 'mm', 0)} to ${measure(mount.pipeDiameterMm[1], 'mm', 0)}${site?.conditions.pipeDiameterMm ? `; here ${measure(site.conditions.pipeDiameterMm, 'mm', 0)}` : ''}`
				: undefined}
		/>
		<SelectField
			label="Feeder at {end}"
			name={at('feederCode')}
			bind:value={values.feederCode}
			options={options(parts.feeders, values.feederCode)}
			error={errorAt(at('feederCode'))}
		/>
		{#if feeder && feeder.kind !== 'direct'}
			<div class="grid grid-cols-3 gap-3">
				<TextField
					label="Length"
					quantity="m"
					name={at('feederLengthM')}
					bind:value={values.feederLengthM}
					error={errorAt(at('feederLengthM'))}
				/>
				<TextField
					label="Tightest E bend"
					quantity="mm"
					name={at('bendEPlaneMm')}
					bind:value={values.bendEPlaneMm}
					error={errorAt(at('bendEPlaneMm'))}
				/>
				<TextField
					label="Tightest H bend"
					quantity="mm"
					name={at('bendHPlaneMm')}
					bind:value={values.bendHPlaneMm}
					error={errorAt(at('bendHPlaneMm'))}
				/>
			</div>
			{#if feeder.waveguide}
				{@const [low, high] = usableBandGhz(feeder.waveguide.broadWallMm)}
				<p class="text-quiet -mt-2 text-sm">
					{feeder.waveguide.shape} guide, one mode from {fixed(low, 1)} to {fixed(high, 1)} GHz; bends
					no tighter than {measure(feeder.waveguide.minBendEPlaneMm, 'mm', 0)} (E) and {measure(
						feeder.waveguide.minBendHPlaneMm,
						'mm',
						0
					)} (H). Short wall upright means vertical.
				</p>
			{/if}
		{/if}
		<div class="grid gap-4 sm:grid-cols-[1fr_8rem]">
			<SelectField
				label="Supply cable at {end}"
				name={at('cableCode')}
				bind:value={values.cableCode}
				options={[...none('Not planned'), ...options(parts.cables, values.cableCode)]}
				error={errorAt(at('cableCode'))}
			/>
			<TextField
				label="Length"
				quantity="m"
				name={at('cableLengthM')}
				bind:value={values.cableLengthM}
				error={errorAt(at('cableLengthM'))}
			/>
		</div>
		<div class="grid gap-4 sm:grid-cols-2">
			<SelectField
				label="IDU at {end}"
				name={at('indoorUnitCode')}
				bind:value={values.indoorUnitCode}
				options={[...none('None'), ...options(parts.indoorUnits, values.indoorUnitCode)]}
				error={errorAt(at('indoorUnitCode'))}
			/>
			<SelectField
				label="Power source at {end}"
				name={at('powerSourceCode')}
				bind:value={values.powerSourceCode}
				options={[
					...none('As the site has it'),
					...options(parts.powerSources, values.powerSourceCode)
				]}
				error={errorAt(at('powerSourceCode'))}
			/>
		</div>
		{#if indoorUnit?.place === 'rack'}
			<TextField
				label="Free height units in the rack at {end}"
				unit="U"
				name={at('rackFreeUnits')}
				bind:value={values.rackFreeUnits}
				hint="As the survey found it; {indoorUnit.code} takes {indoorUnit.heightUnits} U. Empty while nobody has looked."
				error={errorAt(at('rackFreeUnits'))}
			/>
		{/if}
		<SelectField
			label="Dish stands on the"
			name={at('mountSide')}
			bind:value={values.mountSide}
			options={[
				{ value: 'left', label: 'left of the mast, seen from behind the dish' },
				{ value: 'right', label: 'right of the mast, seen from behind the dish' },
				{ value: 'centred', label: 'middle of the mast' }
			]}
			error={errorAt(at('mountSide'))}
		/>
		<TextField
			label="Notes for the crew at {end}"
			name={at('siteNotes')}
			bind:value={values.siteNotes}
			error={errorAt(at('siteNotes'))}
		/>
		<TextField
			label="Crew at {end} and how to reach it"
			name={at('crewContact')}
			bind:value={values.crewContact}
			error={errorAt(at('crewContact'))}
		/>
	</div>
</fieldset>
