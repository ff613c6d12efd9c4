import { readFileSync } from 'node:fs';
import type { Catalogue, DishPart, FeederPart, MountPart, RadioPart } from '$core/catalogue/parts';
import { planHop, type HopPlan } from '$core/budget/hopPlan';
import type { EndPlanInput, HopPlanInput } from '$core/budget/planInput';
import { REFERENCE_AIR } from '$core/propagation/gas';

const load = <T>(name: string): T =>
	JSON.parse(readFileSync(new URL(`../../catalog/${name}.json`, import.meta.url), 'utf8')) as T;

export const catalogue: Catalogue = {
	radios: load<RadioPart[]>('radios'),
	dishes: load<DishPart[]>('dishes'),
	mounts: load<MountPart[]>('mounts'),
	feeders: load<FeederPart[]>('feeders')
};

export function part<T extends { code: string }>(parts: readonly T[], code: string): T {
	const found = parts.find((p) => p.code === code);
	if (!found) throw new Error(`no part ${code}`);
	return found;
}

/** A 26 GHz hop of about 9.8 km between two made-up islands; every field may be replaced. */
export function hopInput(
	change: Partial<HopPlanInput> = {},
	ends: { A?: Partial<EndPlanInput>; B?: Partial<EndPlanInput> } = {}
): HopPlanInput {
	const end = (own: Partial<EndPlanInput>): EndPlanInput => ({
		siteName: 'Site',
		position: { latitudeDeg: -46.2, longitudeDeg: -118.4 },
		groundAmslM: 212,
		antennaHeightAglM: 24,
		radio: part(catalogue.radios, 'RU-26'),
		dish: part(catalogue.dishes, 'DP-060-26'),
		mount: part(catalogue.mounts, 'MB-S'),
		feeder: part(catalogue.feeders, 'FD-0'),
		feederLengthM: 0,
		polarization: 'vertical',
		transmitFrequencyGhz: 26.2,
		transmitPowerDbm: 16,
		alignmentPowerDbm: 15,
		mountSide: 'right',
		landmark: '',
		siteNotes: '',
		...own
	});
	return {
		hopName: 'Test hop',
		ends: {
			A: end({ siteName: 'West', ...ends.A }),
			B: end({
				siteName: 'East',
				position: { latitudeDeg: -46.24, longitudeDeg: -118.286 },
				groundAmslM: 160,
				transmitFrequencyGhz: 25.22,
				...ends.B
			})
		},
		channelWidthMhz: 28,
		operatingModulation: '256 QAM',
		kFactor: 4 / 3,
		air: REFERENCE_AIR,
		additionalLossDb: 0,
		toleranceDb: 2,
		firstToMove: 'A',
		workDate: new Date('2026-11-24T00:00:00Z'),
		...change
	};
}

/** Plans an input that is meant to be sound. */
export function soundPlan(input: HopPlanInput): HopPlan {
	const result = planHop(input);
	if (result.kind !== 'plan') throw new Error(JSON.stringify(result.findings));
	return result.plan;
}
