import { type CauseRow, both, onlyA, onlyB } from './row';

/** What stands between the radio and the air: polarization, branching, films, feeder, dish. */
export const WAVEGUIDE = {
	'crossed-polarization': {
		name: 'polarizations are crossed',
		predicts:
			'both directions short alike by the antennas’ XPD; the other polarization is the stronger one',
		prior: 0.1,
		losses: ({ crossPolarDiscriminationDb }) => [both(crossPolarDiscriminationDb, 4)],
		marks: { polarization: 0.03 },
		// Crossed, the other polarization is the stronger one.
		crossPolar: {
			decides: 2,
			expects: ({ crossPolarDiscriminationDb }) => [-crossPolarDiscriminationDb, 6]
		}
	},
	'wrong-arm': {
		name: 'the wrong branching arm is connected',
		predicts: 'short by the difference of the arms, in one or both directions',
		prior: 0.04,
		possible: ({ armDifferenceDb }) => armDifferenceDb > 0,
		// At one end both directions lose the difference, at both ends twice that.
		losses: ({ armDifferenceDb }) => {
			const difference = Math.max(1, armDifferenceDb);
			return [
				both(difference, 0.8),
				both(2 * difference, 1),
				onlyA(difference, 0.8),
				onlyB(difference, 0.8)
			];
		},
		marks: { arm: 0.03 }
	},
	'film-left-in': {
		name: 'a protective film or cap is left in the waveguide',
		predicts:
			'both directions short alike by a few to twenty dB, on the main lobe, whatever the weather',
		prior: 0.05,
		losses: () => [both(7, 4)],
		marks: { films: 0.06 }
	},
	'feeder-bad': {
		name: 'water or a bad joint in the feeder',
		predicts:
			'both directions short alike, by an amount that changes with movement and temperature',
		prior: 0.05,
		losses: () => [both(7, 5)],
		marks: { feeder: 0.05, unsteady: 0.6 }
	},
	'wrong-dish': {
		name: 'a dish of another size hangs at an end',
		predicts:
			'both directions short alike by the difference in gain; the beam is wider than planned',
		prior: 0.03,
		losses: ({ dishSizeStepDb }) => [both(dishSizeStepDb, 1.2), both(-dishSizeStepDb, 1.2)],
		marks: { dishes: 0.03 }
	}
} as const satisfies Record<string, CauseRow>;
