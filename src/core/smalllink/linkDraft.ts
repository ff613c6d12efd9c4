import type { SteeredMounting } from '../catalogue/parts';
import type { HubDraft } from '../hub/hubDraft';
import type { Mounted } from '../hub/hubInput';
import { thinnedProfile } from '../path/samplePath';
import { itemAt } from '../units/lists';
import { standingTrees, type LinkAnswer, type LinkQuestion } from './possibleLink';

/** What is said of a link beyond the question whether it is possible. */
export interface LinkWords {
	names: { A: string; B: string };
	/** Promised towards B, and from it, Mbit/s. */
	downMbitS: number;
	upMbitS: number;
}

/** Points of ground that a plan keeps of the way to a terminal. */
const MOST_POINTS = 400;

/**
 * A link that was found possible as a plan that can be issued and worked by: one unit at A that serves the one
 * terminal at B, with the ground, trees and obstacles between.
 *
 * @param answer to the same question
 */
export function linkDraft(question: LinkQuestion, answer: LinkAnswer, words: LinkWords): HubDraft {
	const { places, part, frequencyGhz, profile } = question;
	const { channelWidthMhz, eirpLimitDbm, polarization, rainRateMmH, targetPercent, reserveDb } =
		question;
	const atA = mountedFor(part.mountings, answer.tiltDeg.A, answer.bearingDeg.A);
	const atB = mountedFor(part.mountings, answer.tiltDeg.B, answer.bearingDeg.B);
	return {
		...{ channelWidthMhz, eirpLimitDbm, polarization, rainRateMmH, targetPercent, reserveDb },
		limitSource: '',
		units: [
			{
				...{ id: 'a', name: words.names.A, partCode: part.code, ...atA.mounted },
				...{ heightAglM: places.A.heightAglM, frequencyGhz, tiltDeg: atA.tiltDeg },
				headingDeg: tenth(answer.bearingDeg.A)
			}
		],
		terminals: [
			{
				...{ id: 'b', name: words.names.B, partCode: part.code, ...atB.mounted },
				latitudeDeg: places.B.latitudeDeg,
				longitudeDeg: places.B.longitudeDeg,
				groundAmslM: places.B.groundAmslM,
				heightAglM: places.B.heightAglM,
				unitId: '',
				...{ downMbitS: words.downMbitS, upMbitS: words.upMbitS },
				obstacles: [...question.obstacles, ...standingTrees(question, answer)],
				profile: profile && thinnedProfile(profile, MOST_POINTS)
			}
		]
	};
}

const tenth = (deg: number): number => Math.round(deg * 10) / 10;

/** The first mounting that tilts as far as is wanted, one that pans before a wall; its tilt as near as it goes. */
function mountedFor(
	mountings: readonly SteeredMounting[],
	tiltDeg: number,
	bearingDeg: number
): { mounted: Mounted; tiltDeg: number } {
	const reaches = ({ lowestTiltDeg, highestTiltDeg }: SteeredMounting): boolean =>
		lowestTiltDeg <= tiltDeg && tiltDeg <= highestTiltDeg;
	const order = [...mountings].sort(
		(p, q) =>
			Number(p.how === 'wall') - Number(q.how === 'wall') || Number(reaches(q)) - Number(reaches(p))
	);
	const { how, lowestTiltDeg, highestTiltDeg } = itemAt(order, 0);
	return {
		mounted: { how, wallBearingDeg: how === 'wall' ? tenth(bearingDeg) : null, poleMm: null },
		tiltDeg: tenth(Math.min(highestTiltDeg, Math.max(lowestTiltDeg, tiltDeg)))
	};
}
