import type { HopPlanInput } from '$core/budget/planInput';
import type { Catalogue } from '$core/catalogue/parts';
import { ENDS, type End } from '$core/ends';

/** The draft of one end as typed: part codes instead of parts. */
export interface EndDraftValues {
	radioCode: string;
	dishCode: string;
	mountCode: string;
	feederCode: string;
	feederLengthM: number;
	antennaHeightAglM: number;
	transmitFrequencyGhz: number;
	transmitPowerDbm: number;
	alignmentPowerDbm: number;
	mountSide: 'left' | 'right' | 'centred';
	landmark: string;
	siteNotes: string;
}

export interface PlanDraftValues {
	polarization: 'vertical' | 'horizontal';
	channelWidthMhz: number;
	operatingModulation: string;
	kFactor: number;
	dryAirPressureHpa: number;
	temperatureC: number;
	waterVapourGM3: number;
	additionalLossDb: number;
	toleranceDb: number;
	firstToMove: End;
	workDate: string;
	ends: Record<End, EndDraftValues>;
}

export interface SiteValues {
	name: string;
	latitudeDeg: number;
	longitudeDeg: number;
	groundAmslM: number;
}

export type ResolvedPlan =
	{ kind: 'input'; input: HopPlanInput } | { kind: 'unknown-parts'; fields: string[] };

/** Puts the parts of the catalogue in place of their codes. Used alike by page and server. */
export function resolvePlanInput(
	hopName: string,
	draft: PlanDraftValues,
	sites: Record<End, SiteValues>,
	parts: Catalogue
): ResolvedPlan {
	const fields: string[] = [];
	const pick = <T extends { code: string }>(list: readonly T[], code: string, field: string): T => {
		const found = list.find((part) => part.code === code);
		if (!found) fields.push(field);
		return found ?? list[0]!;
	};
	const end = (name: End): HopPlanInput['ends'][End] => {
		const own = draft.ends[name];
		const site = sites[name];
		const at = (field: string): string => `ends.${name}.${field}`;
		return {
			siteName: site.name,
			position: { latitudeDeg: site.latitudeDeg, longitudeDeg: site.longitudeDeg },
			groundAmslM: site.groundAmslM,
			antennaHeightAglM: own.antennaHeightAglM,
			radio: pick(parts.radios, own.radioCode, at('radioCode')),
			dish: pick(parts.dishes, own.dishCode, at('dishCode')),
			mount: pick(parts.mounts, own.mountCode, at('mountCode')),
			feeder: pick(parts.feeders, own.feederCode, at('feederCode')),
			feederLengthM: own.feederLengthM,
			polarization: draft.polarization,
			transmitFrequencyGhz: own.transmitFrequencyGhz,
			transmitPowerDbm: own.transmitPowerDbm,
			alignmentPowerDbm: own.alignmentPowerDbm,
			mountSide: own.mountSide,
			landmark: own.landmark,
			siteNotes: own.siteNotes
		};
	};
	const [A, B] = ENDS.map(end) as [HopPlanInput['ends'][End], HopPlanInput['ends'][End]];
	if (fields.length) return { kind: 'unknown-parts', fields };
	return {
		kind: 'input',
		input: {
			hopName,
			ends: { A, B },
			channelWidthMhz: draft.channelWidthMhz,
			operatingModulation: draft.operatingModulation,
			kFactor: draft.kFactor,
			air: {
				dryAirPressureHpa: draft.dryAirPressureHpa,
				temperatureK: draft.temperatureC + 273.15,
				waterVapourGM3: draft.waterVapourGM3
			},
			additionalLossDb: draft.additionalLossDb,
			toleranceDb: draft.toleranceDb,
			firstToMove: draft.firstToMove,
			workDate: new Date(draft.workDate)
		}
	};
}
