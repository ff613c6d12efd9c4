import type { LinkAnswer, LinkDoubt } from '#core/smalllink/possibleLink';
import { fixed } from '../format';
import { measure } from '../units.svelte';

export const VERDICT_WORDS: Readonly<Record<LinkAnswer['verdict'], string>> = {
	yes: 'Yes',
	perhaps: 'Perhaps',
	no: 'No, not like this'
};

/** A doubt as it is told. */
export function doubtText(doubt: LinkDoubt): string {
	switch (doubt.code) {
		case 'no-ground':
			return 'The ground between is not known here: go and look whether you see the other place.';
		case 'no-limit':
			return 'Nobody has said what may be radiated there: full power is taken. Look it up before anything is switched on.';
		case 'in-the-line':
			return `${standing(doubt.what)} ${measure(doubt.distanceM, 'm', 0)} from A stands ${measure(doubt.intoM, 'm', 1)} into the line of sight.`;
		case 'in-the-zone':
			return `${standing(doubt.what)} ${measure(doubt.distanceM, 'm', 0)} from A leaves the line free and reaches into the room about it: ${fixed(doubt.ratio, 1)} of the first Fresnel zone is free, 0.6 is wanted.`;
		case 'trees':
			return 'Trees grow, and in leaf they take more than bare ones: what just passes in winter is gone in summer.';
		case 'too-weak':
			return `Too weak: ${fixed(doubt.missingDb, 1)} dB are missing for the slowest modulation with its reserve.`;
		case 'rain':
			return `Rain takes the link away for ${fixed(doubt.percent, doubt.percent < 0.1 ? 3 : 2)} % of the year, more than is wanted.`;
	}
}

function standing(what: string | null): string {
	if (what === null) return 'The ground';
	return what === 'trees' ? 'A tree' : what;
}
