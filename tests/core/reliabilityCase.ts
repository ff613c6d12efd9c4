import type { LocatorInput, LocatorReading } from '#core/locate/locator';
import { between, makeRandomStream, normalDeviate } from '#core/simulate/random';
import { makeSimulatedDish } from '#core/simulate/simulatedDish';
import { sumOfLevelsDb } from '#core/units/decibel';

/** What may be otherwise than the plan has it. */
export const SITUATIONS = [
	'as it comes',
	'on plan',
	'far end off',
	'crossed',
	'prior doubled',
	'strong sway'
] as const;
export type Situation = (typeof SITUATIONS)[number];

/** What was read before the map is asked. */
export const READ = ['1 reading', '3 readings', '8 readings', 'one sweep', 'two sweeps'] as const;
export type Read = (typeof READ)[number];

export interface BandOfDish {
	diameterM: number;
	atGhz: number;
	beamwidthDeg: number;
}

const PRIOR = { azimuth: 3, tilt: 0.5 };
/** Loss of a crossed far end, dB. */
const CROSSED_DB = 30;

/** How often the far end stands how, in the course of a job: on its beam, on a lobe or between, or crossed. */
function drawn(share: number): Situation {
	if (share < 0.5) return 'on plan';
	return share < 0.9 ? 'far end off' : 'crossed';
}

/** One hop of a situation, read so far, with where its far end truly is. */
export function reliabilityCase(
	seed: number,
	{ diameterM, atGhz, beamwidthDeg }: BandOfDish,
	situation: Situation,
	read: Read
): { input: LocatorInput; truth: { azimuthDeg: number; tiltDeg: number } } {
	const random = makeRandomStream(
		seed * 6007 + 101 * SITUATIONS.indexOf(situation) + READ.indexOf(read)
	);
	const plannedLevelDbm = between(random, -46, -32);
	const floorDbm = between(random, -92, -84);
	const width = beamwidthDeg * between(random, 0.95, 1.05);
	const own = makeSimulatedDish(seed * 2 + 1, width);
	const far = makeSimulatedDish(seed * 2 + 2, width);
	const state = situation === 'as it comes' ? drawn(random()) : situation;
	const spread = situation === 'prior doubled' ? 2 : 1;
	const truth = {
		azimuthDeg: spread * PRIOR.azimuth * normalDeviate(random),
		tiltDeg: spread * PRIOR.tilt * normalDeviate(random)
	};
	const offDeg =
		state === 'far end off'
			? [between(random, 0.8, 3) * beamwidthDeg, between(random, 0, 1) * beamwidthDeg]
			: [0.1 * beamwidthDeg * normalDeviate(random), 0.1 * beamwidthDeg * normalDeviate(random)];
	const common =
		far(offDeg[0]!, offDeg[1]!) -
		(state === 'crossed' ? CROSSED_DB : 0) +
		0.8 * normalDeviate(random);
	const sway = (situation === 'strong sway' ? 0.08 : 0.012) * beamwidthDeg;
	const readings: LocatorReading[] = [];
	const at = (azimuthDeg: number, tiltDeg: number): void => {
		const level =
			plannedLevelDbm +
			common +
			own(
				azimuthDeg - truth.azimuthDeg + sway * normalDeviate(random),
				tiltDeg - truth.tiltDeg + sway * normalDeviate(random)
			) +
			0.2 * normalDeviate(random);
		const levelDbm = sumOfLevelsDb([level, floorDbm + 0.3 * normalDeviate(random)]);
		readings.push({ azimuthDeg, tiltDeg, levelDbm });
	};
	const cut = (axis: 'azimuth' | 'tilt', middle: { azimuthDeg: number; tiltDeg: number }): void => {
		for (let i = -10; i <= 10; i++) {
			const step = (i / 4) * beamwidthDeg;
			if (axis === 'azimuth') at(middle.azimuthDeg + step, middle.tiltDeg);
			else at(middle.azimuthDeg, middle.tiltDeg + step);
		}
	};
	const best = (): LocatorReading => readings.reduce((p, q) => (q.levelDbm > p.levelDbm ? q : p));
	const loose = { '1 reading': 1, '3 readings': 3, '8 readings': 8 } as const;
	if (read in loose) {
		for (let i = 0; i < loose[read as keyof typeof loose]; i++) {
			if (i === 0) at(0, 0);
			else at(PRIOR.azimuth * normalDeviate(random), PRIOR.tilt * normalDeviate(random));
		}
	} else {
		// A sweep begins where something is heard, as a technician would.
		at(0, 0);
		for (let i = 0; i < 5; i++) at(truth.azimuthDeg * between(random, 0, 1.2), 0);
		cut('azimuth', best());
		if (read === 'two sweeps') cut('tilt', best());
	}
	return {
		input: {
			...{ frequencyGhz: atGhz, dishDiameterM: diameterM, beamwidthDeg, beamwidthKnown: true },
			...{ plannedLevelDbm, floorDbm, priorSigmaDeg: PRIOR, readings }
		},
		truth
	};
}
