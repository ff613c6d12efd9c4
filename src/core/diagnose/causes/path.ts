import { type CauseRow, both } from './row';

/** What lies between the dishes. */
export const PATH = {
	obstruction: {
		name: 'something stands in the path',
		predicts: 'both directions short alike; the line of sight is not seen',
		prior: 0.05,
		losses: () => [both(13, 7)],
		marks: { 'line-of-sight': 0.06 }
	},
	rain: {
		name: 'it rains on the path',
		predicts: 'both directions short alike, more at high frequency, and gone with the rain',
		prior: 0.04,
		losses: () => [both(8, 5)],
		marks: { rain: 0.98, unsteady: 0.55 }
	}
} as const satisfies Record<string, CauseRow>;
