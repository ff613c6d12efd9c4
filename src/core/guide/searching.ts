import { itemAt } from '../units/lists';
import { numberText } from '../units/text';
import { planSearch, type SearchLine, type SearchPlan } from './searchPlan';
import { clamped, range, type Guidance, type Place, type Situation, type Step } from './situation';

/** Nothing heard yet: azimuth on one line of tilt after another, nearest the plan first. */
export function search(situation: Situation): Guidance {
	const none = { boresight: null, probabilityOnMainLobe: 0 };
	const plan = searchOf(situation);
	const line = nextLine(situation, plan);
	return line ? { ...none, ...line } : parkAndHandOver(situation, plan);
}

/** The search as it stands: an end that begins from a park has searched before. */
export function searchOf({ input, readings, beamwidthDeg }: Situation): SearchPlan {
	const question = { ...input, beamwidthDeg };
	const first = planSearch(question);
	return parkedAt(first, readings[0], beamwidthDeg) >= 0 ? planSearch(question, false) : first;
}

/** Which place of the search an end stood at when this turn began; −1 for none of them. */
function parkedAt({ parks }: SearchPlan, stood: Place | undefined, beamwidthDeg: number): number {
	if (!stood) return -1;
	return parks.findIndex(
		(park) =>
			Math.hypot(park.azimuthDeg - stood.azimuthDeg, park.tiltDeg - stood.tiltDeg) <
			0.2 * beamwidthDeg
	);
}

/** The next line of the search that has not been swept; undefined when all are. */
export function nextLine(
	{ input, readings, beamwidthDeg, here }: Situation,
	plan: SearchPlan
): Step | undefined {
	// Once the dish has been about, a line is swept over all that the search reaches.
	const fresh = range(readings.map((r) => r.azimuthDeg)) < beamwidthDeg;
	const spanOf = (line: SearchLine): readonly [number, number] =>
		fresh
			? [line.fromDeg, line.toDeg]
			: [clamped(input, 'azimuth', -plan.reachDeg), clamped(input, 'azimuth', plan.reachDeg)];
	const swept = (line: SearchLine): boolean => {
		const on = readings.filter((r) => Math.abs(r.tiltDeg - line.tiltDeg) < 0.4 * beamwidthDeg);
		const [from, to] = spanOf(line);
		return on.length >= 3 && range(on.map((r) => r.azimuthDeg)) > 0.65 * (to - from);
	};
	const next = plan.lines.find((line) => !swept(line));
	if (next === undefined) return undefined;
	const first = plan.first && fresh;
	const [fromDeg, toDeg] = spanOf(next);
	if (Math.abs(here.tiltDeg - next.tiltDeg) > 0.2 * beamwidthDeg) {
		return {
			advice: 'move',
			target: { azimuthDeg: here.azimuthDeg, tiltDeg: next.tiltDeg },
			reasons: [
				`Too little is heard so far: go to tilt ${numberText(next.tiltDeg, 2, true)}° for ${first ? 'the first line' : 'the next line'}.`
			]
		};
	}
	return {
		advice: 'sweep',
		sweep: { axis: 'azimuth', fromDeg, toDeg, stepDeg: plan.stepDeg },
		reasons: [
			first
				? 'Begin with azimuth over the window of the first heading, slowly; do not stop at the first good signal.'
				: 'Search: azimuth on the next line of tilt.',
			searchOdds(plan)
		]
	};
}

/** How long a search takes and what it promises. */
function searchOdds(plan: SearchPlan): string {
	const percent = (share: number): number => Math.min(99, Math.floor(100 * share));
	const minutes = (seconds: number): number => Math.max(1, Math.round(seconds / 60));
	const lines = plan.lines.length === 1 ? 'One line' : `All ${plan.lines.length} lines of tilt`;
	return `${lines}: ${plan.samples} readings, about ${minutes(plan.secondsByMeter)} min with a meter that reads by itself, ${minutes(plan.secondsByHand)} min typed; finds the far end ${percent(plan.probabilityOneEnd)} times in 100 if it looks this way, ${percent(plan.probabilityBothEnds)} times as it was first set. ${budgetWords(plan)}`;
}

/**
 * Nothing at all: the far end may look away. This end parks and the far end searches. The place is the
 * one after that where it stood through the far end's last search, which the first reading tells: so
 * two ends that miss each other try all pairs of places in turn.
 */
export function parkAndHandOver(
	{ input, readings, beamwidthDeg, here }: Situation,
	plan: SearchPlan
): Guidance {
	const none = { boresight: null, probabilityOnMainLobe: 0 };
	const searches = (input.memory?.searches ?? 0) + 1;
	if (searches >= plan.turns)
		return { advice: 'check', spent: true, ...none, reasons: spentReasons(plan) };
	const { parks } = plan;
	const park = itemAt(parks, (parkedAt(plan, readings[0], beamwidthDeg) + 1) % parks.length);
	const target = {
		azimuthDeg: clamped(input, 'azimuth', park.azimuthDeg),
		tiltDeg: clamped(input, 'tilt', park.tiltDeg)
	};
	if (
		Math.hypot(here.azimuthDeg - target.azimuthDeg, here.tiltDeg - target.tiltDeg) >
		0.2 * beamwidthDeg
	) {
		return {
			advice: 'move',
			target,
			...none,
			reasons: [
				'Nothing is heard on any line: stand at the next place of the search, then let the far end look.'
			]
		};
	}
	return {
		advice: 'hand-over',
		...none,
		reasons: [
			'Nothing is heard on any line near the plan: the far end may look away. Let it search while this end stands still.',
			'Check meanwhile that its transmitter is on, on its channel and power.'
		]
	};
}

/** So much of where the far end can look must have been met before silence speaks against anything else. */
const MOST_MET = 0.9;
const inHundred = (share: number): number => Math.min(99, Math.floor(100 * share));

/** How long the search may go on, and what it means when it does. */
function budgetWords({ turns, met }: SearchPlan): string {
	return met >= MOST_MET
		? `After ${turns} such turns of each end without a signal it is hardly the pointing.`
		: `${turns} such turns of each end meet only ${inHundred(met)} in 100 of the places where the far end can look: set both first headings as well as can be.`;
}

/** The search has had its turns: what is most probably wrong, and how to tell it cheapest. */
function spentReasons({ turns, met }: SearchPlan): string[] {
	const menus =
		'have each end read out of its own menu that it sends, its frequency and its power, and compare the sub-band on the label of the unit with the sheet';
	return met >= MOST_MET
		? [
				`${turns} turns of each end met at least ${inHundred(met)} in 100 of the places where the far end can look, without a signal. It is most probably no question of pointing: a transmitter that is off, or another channel or sub-band than planned.`,
				`Cheapest first: ${menus}. Then both first headings. Set right what is found and begin again.`
			]
		: [
				`${turns} turns of each end met only ${inHundred(met)} in 100 of the places where the far end can look: so narrow a beam is found by good first headings, not by searching on.`,
				`Cheapest first: ${menus}. Then set both first headings anew, by a landmark or the far mast itself, and begin again.`
			];
}

/**
 * Whether a guess lies where the first heading can hardly have left the far end.
 *
 * @param beamwidthDeg half-power beamwidth, degrees, above 0
 */
export function outsideSearch(
	{ lines, reachDeg }: SearchPlan,
	place: Place,
	beamwidthDeg: number
): boolean {
	return (
		Math.abs(place.azimuthDeg) > reachDeg + beamwidthDeg ||
		Math.abs(place.tiltDeg) > Math.max(...lines.map(({ tiltDeg }) => tiltDeg)) + 3 * beamwidthDeg
	);
}
