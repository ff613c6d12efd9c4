import type { End } from '$core/ends';
import type { PlanDraftValues, SiteValues } from '$lib/plan/resolve';

/** The end of a plan as typed: numbers stay text until they are sent. */
export interface EndForm {
	radioCode: string;
	dishCode: string;
	mountCode: string;
	feederCode: string;
	feederLengthM: string;
	antennaHeightAglM: string;
	transmitFrequencyGhz: string;
	transmitPowerDbm: string;
	alignmentPowerDbm: string;
	mountSide: string;
	landmark: string;
	siteNotes: string;
}

export interface HopForm {
	name: string;
	siteAId: string;
	siteBId: string;
	practice: boolean;
	polarization: string;
	channelWidthMhz: string;
	operatingModulation: string;
	kFactor: string;
	dryAirPressureHpa: string;
	temperatureC: string;
	waterVapourGM3: string;
	additionalLossDb: string;
	toleranceDb: string;
	firstToMove: string;
	workDate: string;
	ends: Record<End, EndForm>;
}

export interface PickedSite extends SiteValues {
	id: string;
}

export interface SavedHop {
	id: string;
	name: string;
	sites: Record<End, PickedSite>;
	plan: PlanDraftValues;
	practice: boolean;
	version: number;
}

const emptyEnd = (transmitFrequencyGhz: string): EndForm => ({
	radioCode: 'RU-26',
	dishCode: 'DP-060-26',
	mountCode: 'MB-S',
	feederCode: 'FD-0',
	feederLengthM: '0',
	antennaHeightAglM: '20',
	transmitFrequencyGhz,
	transmitPowerDbm: '15',
	alignmentPowerDbm: '15',
	mountSide: 'centred',
	landmark: '',
	siteNotes: ''
});

/** A new plan: nothing of the place, a sound middle for the rest. */
export function emptyHopForm(today: string): HopForm {
	return {
		name: '',
		siteAId: '',
		siteBId: '',
		practice: false,
		polarization: 'vertical',
		channelWidthMhz: '28',
		operatingModulation: '64 QAM',
		kFactor: '1.333',
		dryAirPressureHpa: '1013.25',
		temperatureC: '15',
		waterVapourGM3: '7.5',
		additionalLossDb: '0',
		toleranceDb: '2',
		firstToMove: 'A',
		workDate: today,
		ends: { A: emptyEnd('26.2'), B: emptyEnd('25.22') }
	};
}

const endForm = (end: PlanDraftValues['ends'][End]): EndForm => ({
	...end,
	feederLengthM: String(end.feederLengthM),
	antennaHeightAglM: String(end.antennaHeightAglM),
	transmitFrequencyGhz: String(end.transmitFrequencyGhz),
	transmitPowerDbm: String(end.transmitPowerDbm),
	alignmentPowerDbm: String(end.alignmentPowerDbm)
});

export function hopFormOf(hop: SavedHop): HopForm {
	const { plan } = hop;
	return {
		name: hop.name,
		siteAId: hop.sites.A.id,
		siteBId: hop.sites.B.id,
		practice: hop.practice,
		polarization: plan.polarization,
		channelWidthMhz: String(plan.channelWidthMhz),
		operatingModulation: plan.operatingModulation,
		kFactor: String(Number(plan.kFactor.toFixed(4))),
		dryAirPressureHpa: String(plan.dryAirPressureHpa),
		temperatureC: String(plan.temperatureC),
		waterVapourGM3: String(plan.waterVapourGM3),
		additionalLossDb: String(plan.additionalLossDb),
		toleranceDb: String(plan.toleranceDb),
		firstToMove: plan.firstToMove,
		workDate: plan.workDate.slice(0, 10),
		ends: { A: endForm(plan.ends.A), B: endForm(plan.ends.B) }
	};
}

/** The input of the API, text as typed: the server converts and names every field that is wrong. */
export function hopInputOf(form: HopForm, version?: number): object {
	const { name, siteAId, siteBId, practice, ...plan } = form;
	return { name, siteAId, siteBId, practice, plan, ...(version ? { version } : {}) };
}

/** The draft with numbers, or undefined while a number is missing or is none. */
export function draftValuesOf(form: HopForm): PlanDraftValues | undefined {
	let sound = true;
	const number = (text: string): number => {
		const value = text.trim() === '' ? Number.NaN : Number(text);
		if (!Number.isFinite(value)) sound = false;
		return value;
	};
	const end = (own: EndForm): PlanDraftValues['ends'][End] => ({
		...own,
		mountSide: own.mountSide as 'left' | 'right' | 'centred',
		feederLengthM: number(own.feederLengthM),
		antennaHeightAglM: number(own.antennaHeightAglM),
		transmitFrequencyGhz: number(own.transmitFrequencyGhz),
		transmitPowerDbm: number(own.transmitPowerDbm),
		alignmentPowerDbm: number(own.alignmentPowerDbm)
	});
	const values: PlanDraftValues = {
		polarization: form.polarization as 'vertical' | 'horizontal',
		channelWidthMhz: number(form.channelWidthMhz),
		operatingModulation: form.operatingModulation,
		kFactor: number(form.kFactor),
		dryAirPressureHpa: number(form.dryAirPressureHpa),
		temperatureC: number(form.temperatureC),
		waterVapourGM3: number(form.waterVapourGM3),
		additionalLossDb: number(form.additionalLossDb),
		toleranceDb: number(form.toleranceDb),
		firstToMove: form.firstToMove as End,
		workDate: form.workDate,
		ends: { A: end(form.ends.A), B: end(form.ends.B) }
	};
	if (Number.isNaN(Date.parse(form.workDate))) sound = false;
	return sound ? values : undefined;
}
