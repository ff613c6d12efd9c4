import {
	EXTRAPOLATED_TO_PERCENT,
	rainAttenuation,
	STATED_TO_PERCENT,
	type LinearPolarization
} from './rain';

/** Longest path the rain method is stated for, km. */
export const LONGEST_RAIN_PATH_KM = 60;
const MOST_PERCENT = 1;

export interface RainOutage {
	/** Share of an average year in which rain takes more than the margin, percent. */
	percent: number;
	/**
	 * Whether the method is stated there. `extrapolated`: rarer than that, by the method’s own law; `less`
	 * and `more`: beyond what the law says too, and `percent` is its last value.
	 */
	range: 'within' | 'extrapolated' | 'less' | 'more';
	a001Db: number;
}

/**
 * The share of time in which rain just uses up a fade margin: the inverse of the rain method.
 *
 * @param marginDb any finite; at or below 0 the link is out all the time
 * @param pathKm above 0; beyond 60 km the rain of 60 km is taken
 * Source: ITU-R P.530-18, §2.4.1, inverted by bisection (attenuation falls with the share of time).
 */
export function rainOutage(input: {
	frequencyGhz: number;
	pathKm: number;
	polarization: LinearPolarization;
	rainRate001MmH: number;
	marginDb: number;
}): RainOutage {
	const { marginDb, ...path } = input;
	const pathKm = Math.min(LONGEST_RAIN_PATH_KM, path.pathKm);
	const at = (percentOfTime: number): number =>
		rainAttenuation({ ...path, pathKm, percentOfTime }).attenuationDb;
	const { a001Db } = rainAttenuation({ ...path, pathKm, percentOfTime: 0.01 });
	if (marginDb <= 0) return { percent: 100, range: 'within', a001Db };
	if (a001Db === 0) return { percent: 0, range: 'within', a001Db };
	if (at(EXTRAPOLATED_TO_PERCENT) <= marginDb)
		return { percent: EXTRAPOLATED_TO_PERCENT, range: 'less', a001Db };
	if (at(MOST_PERCENT) >= marginDb) return { percent: MOST_PERCENT, range: 'more', a001Db };
	let low = Math.log10(EXTRAPOLATED_TO_PERCENT);
	let high = Math.log10(MOST_PERCENT);
	for (let i = 0; i < 60; i++) {
		const middle = (low + high) / 2;
		if (at(10 ** middle) > marginDb) low = middle;
		else high = middle;
	}
	const percent = 10 ** ((low + high) / 2);
	return { percent, range: percent < STATED_TO_PERCENT ? 'extrapolated' : 'within', a001Db };
}
