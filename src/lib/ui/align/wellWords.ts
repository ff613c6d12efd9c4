import type { BandMeaning } from '#core/diagnose/shortfallBands';

export const BAND_WORDS: Record<BandMeaning, string> = {
	'above-plan': 'above plan',
	'on-plan': 'on plan',
	shoulder: 'on the shoulder',
	'flank-or-lobe': 'flank or lobe',
	'further-lobe': 'further lobe',
	'side-lobe-one-end': 'one side lobe',
	'both-ends-or-crossed': 'two, or crossed',
	'near-floor': 'hardly heard',
	'below-floor': 'receiver floor'
};

export const BAND_MEANS: Record<BandMeaning, string> = {
	'above-plan': 'Too high is as suspect as too low: check power, channel and level curve.',
	'on-plan': 'Inside the tolerance of the plan.',
	shoulder: 'On the slope of the main lobe: a finer sweep finds the top.',
	'flank-or-lobe':
		'Low on the flank of the main lobe, or on the first side lobe of a small or blocked dish (12 to 16 dB down): sweep, its width tells.',
	'further-lobe': 'A further side lobe, or between two: width and symmetry of a sweep decide.',
	'side-lobe-one-end': 'About a first side lobe short: one end may stand on its side lobe.',
	'both-ends-or-crossed': 'Both ends on side lobes, or the polarization crossed.',
	'near-floor': 'Hardly above the receiver floor: a far-out lobe, or a wrong channel.',
	'below-floor': 'Nothing heard: this is the receiver itself.'
};

/** Fill of each band: earth tones that deepen with the shortfall. */
export const BAND_FILL: Record<BandMeaning, string> = {
	'above-plan': 'var(--paper)',
	'on-plan': 'var(--fill)',
	shoulder: 'var(--well-3)',
	'flank-or-lobe': 'var(--well-2)',
	'further-lobe': 'var(--well-2)',
	'side-lobe-one-end': 'var(--well-4)',
	'both-ends-or-crossed': 'var(--well-5)',
	'near-floor': 'var(--well-2)',
	'below-floor': 'var(--well-1)'
};
