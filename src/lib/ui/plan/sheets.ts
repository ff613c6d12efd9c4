/** The sheets of the plan editor, in the order of the work. */
export const SHEETS = [
	{ id: 'ends', label: 'Sites and parts' },
	{ id: 'channel', label: 'Channel' },
	{ id: 'path', label: 'Path' },
	{ id: 'levels', label: 'Levels' },
	{ id: 'pointing', label: 'Pointing' },
	{ id: 'availability', label: 'Availability' },
	{ id: 'looks', label: 'First looks' },
	{ id: 'parts', label: 'Parts list' },
	{ id: 'review', label: 'Review' }
] as const;
export type SheetId = (typeof SHEETS)[number]['id'];

const BY_FIELD: readonly [RegExp, SheetId][] = [
	[
		/^ends\.[AB]\.(transmitFrequencyGhz|subBandUnit|transmitPowerDbm|alignmentPowerDbm|interferenceDbm|second(TransmitFrequencyGhz|PowerDbm|InterferenceDbm))$/,
		'channel'
	],
	[
		/^(polarization|channelWidthMhz|operatingModulation|toleranceDb|configuration|eirpLimitDbm|firstToMove)/,
		'channel'
	],
	[/^ends\.[AB]\.antennaHeightAglM$/, 'path'],
	[/^(ends\.|services)/, 'ends'],
	[/^(path|kFactor)/, 'path'],
	[/^(workDate|search|landmarks)/, 'pointing'],
	[
		/^(requiredAvailabilityPercent|multipathMethod|directionRule|powerControlDb|dryAir|temperature|waterVapour|additionalLoss)/,
		'availability'
	],
	[/^(wind|publicExposure|workerExposure)/, 'looks'],
	[/^building/, 'parts']
];

/** The sheet on which a field of a plan is mended, or undefined where it is not on any. */
export function sheetOf(field: string): SheetId | undefined {
	return BY_FIELD.find(([pattern]) => pattern.test(field))?.[1];
}
