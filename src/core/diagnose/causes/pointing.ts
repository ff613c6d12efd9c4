import { type CauseRow, both, type CrossPolarReading } from './row';

/** On a side lobe the polarizations differ less than on the main one, and by anything. */
const onSideLobe: CrossPolarReading = { decides: 1, expects: () => [10, 7] };

/** Dishes that do not look where they should. */
export const POINTING = {
	'side-lobe-a': {
		name: 'A stands on a side lobe',
		predicts:
			'both directions short alike, by about the first side lobe of A’s dish; a sweep at A finds humps evenly about a dip',
		prior: 0.13,
		family: 'side-lobe',
		losses: ({ firstSideLobeDb }) => [both(firstSideLobeDb.A, 3)],
		marks: { 'sweep-a': 0.04 },
		crossPolar: onSideLobe
	},
	'side-lobe-b': {
		name: 'B stands on a side lobe',
		predicts:
			'both directions short alike, by about the first side lobe of B’s dish; a sweep at B finds humps evenly about a dip',
		prior: 0.13,
		family: 'side-lobe',
		losses: ({ firstSideLobeDb }) => [both(firstSideLobeDb.B, 3)],
		marks: { 'sweep-b': 0.04 },
		crossPolar: onSideLobe
	},
	'side-lobe-both': {
		name: 'both ends are on side lobes',
		predicts:
			'both directions short alike, by about two side lobes; it looks like crossed polarization until an end is swept',
		prior: 0.06,
		family: 'side-lobe',
		alone: true,
		losses: ({ firstSideLobeDb }) => [both(firstSideLobeDb.A + firstSideLobeDb.B, 4.5)],
		marks: { 'sweep-a': 0.04, 'sweep-b': 0.04 },
		crossPolar: onSideLobe
	},
	'moved-while-locking': {
		name: 'a dish moved while it was tightened',
		predicts: 'both directions fell alike when a fastener was tightened',
		prior: 0.05,
		losses: () => [both(6, 5)],
		marks: { locking: 0.97, 'sweep-a': 0.85, 'sweep-b': 0.85 }
	}
} as const satisfies Record<string, CauseRow>;
