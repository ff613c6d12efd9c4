import type { LiftSchool } from '../budget/configurationKinds';
import type { BuildStep } from './buildStep';

/** One fact about the order of the work, by the kinds of step it is about. */
export interface OrderFact {
	/** What holds, in words; a test asks for each by this name. */
	name: string;
	first: readonly string[];
	then: readonly string[];
	/** Why, as it is said to who waits. */
	reason: string;
	/** Holds only between steps of the same dish or the same radio. */
	within?: 'dish' | 'radio';
	/** Holds only where the pieces go up so. */
	lift?: LiftSchool;
}

const CABLE_TESTS = ['continuity', 'insulation', 'wire-map', 'cable-loss'] as const;

/** Every fact about the order of building an end of a hop: the only place where it is said. */
export const ORDER_FACTS: readonly OrderFact[] = [
	{
		name: 'a radio is set up and checked in the office before anything is lifted',
		first: ['configure'],
		then: ['before-lift'],
		reason: 'what is wrong in a radio costs a climb with a laptop'
	},
	{
		name: 'cold goods warm before they are opened',
		first: ['warm-up'],
		then: ['packing'],
		reason: 'cold metal in warm damp air sweats inside'
	},
	{
		name: 'the plane is set before everything is tight',
		first: ['chain', 'both-planes'],
		then: ['tight'],
		reason: 'what turns the plane no longer turns once it is tight'
	},
	{
		name: 'the dish is on its mount before everything is tight',
		first: ['dish-bolts'],
		then: ['tight'],
		reason: 'they carry the dish',
		within: 'dish'
	},
	{
		name: 'parts are mated with every film off',
		first: ['films'],
		then: ['mount-coupling', 'mount-radio', 'flanges'],
		reason: 'a film left in is a loss that nobody finds from below',
		within: 'dish'
	},
	{
		name: 'parts at the foot are mated with every film off',
		first: ['foot-films'],
		then: ['foot-coupling', 'foot-radio', 'foot-flanges'],
		reason: 'a film left in is a loss that nobody finds from below'
	},
	{
		name: 'parts are mated with their O-rings seated',
		first: ['o-rings'],
		then: ['mount-coupling', 'mount-radio', 'flanges'],
		reason: 'a ring cannot be seated in a closed joint',
		within: 'dish'
	},
	{
		name: 'the coupling sits before what is put to it',
		first: ['mount-coupling'],
		then: ['mount-radio'],
		reason: 'it is put to the coupling',
		within: 'dish'
	},
	{
		name: 'a coupling at the foot sits before its radios',
		first: ['foot-coupling'],
		then: ['foot-radio', 'foot-flanges'],
		reason: 'it is put to the coupling'
	},
	{
		name: 'a coupling at the dish sits before its runs',
		first: ['mount-coupling'],
		then: ['flanges'],
		reason: 'the runs end at its ports'
	},
	{
		name: 'what goes up in one piece is put together before it is tight',
		first: ['mount-coupling', 'mount-radio', 'chain-mounted'],
		then: ['tight'],
		reason: 'it goes up in one piece',
		lift: 'whole'
	},
	{
		name: 'nothing loose goes up',
		first: ['tight'],
		then: ['before-lift'],
		reason: 'what is loose on the ground falls from the mast'
	},
	{
		name: 'what is wrong is put right on the ground',
		first: ['before-lift', 'chain'],
		then: ['hoist'],
		reason: 'what is wrong is put right on the ground'
	},
	{
		name: 'the pipe is measured before it takes the clamps',
		first: ['pipe'],
		then: ['hoist'],
		reason: 'the pipe must take the clamps'
	},
	{
		name: 'a dish hangs before it is clamped and measured',
		first: ['hoist'],
		then: ['pipe-clamps', 'height', 'heading', 'tilt-preset'],
		reason: 'it must hang before it is measured'
	},
	{
		name: 'a dish is clamped before its tilt is set',
		first: ['pipe-clamps'],
		then: ['tilt-preset'],
		reason: 'the clamps still turn it',
		within: 'dish'
	},
	{
		name: 'a dish is fixed before anything is hung on it',
		first: ['pipe-clamps'],
		then: ['films', 'mount-coupling', 'mount-radio'],
		reason: 'the dish must be held before more hangs on it',
		within: 'dish',
		lift: 'separately'
	},
	{
		name: 'the plane is looked at once everything sits',
		first: ['mount-coupling', 'mount-radio'],
		then: ['chain-mounted'],
		reason: 'it shows only on what is mounted'
	},
	{
		name: 'the first hanger is marked before the run goes up',
		first: ['guide-mark'],
		then: ['guide-hoist'],
		reason: 'the mark is made on the ground'
	},
	{
		name: 'all hangers are up before the run',
		first: ['hangers-up'],
		then: ['guide-hoist'],
		reason: 'the run needs what will hold it'
	},
	{
		name: 'a dish hangs before a run is led to it',
		first: ['pipe-clamps'],
		then: ['guide-hoist'],
		reason: 'the run ends at the dish'
	},
	{
		name: 'the run hangs before it is bent, earthed and joined',
		first: ['guide-hoist'],
		then: ['bend-e', 'bend-h', 'guide-earth', 'guide-caps', 'flanges'],
		reason: 'the run must hang first'
	},
	{
		name: 'bag and caps come off the run last, at the joint',
		first: ['guide-caps'],
		then: ['flanges', 'foot-flanges'],
		reason: 'bag and caps come off the moment before mating, and are counted'
	},
	{
		name: 'what the run ends at is mounted before its foot is joined',
		first: ['foot-radio'],
		then: ['foot-flanges'],
		reason: 'the foot of the run ends at it'
	},
	{
		name: 'a run is joined at both ends before it is dried and closed',
		first: ['flanges', 'foot-flanges'],
		then: ['guide-dry', 'guide-weather'],
		reason: 'an open flange holds no pressure and no tape'
	},
	{
		name: 'a radio sits before it is earthed',
		first: ['mount-radio', 'foot-radio'],
		then: ['earth-leads'],
		reason: 'there is nothing to earth before'
	},
	{
		name: 'earth and surge protection before power',
		first: ['earth-leads', 'earth-screens', 'surge', 'indoor-earth'],
		then: ['indoor-power', 'voltage', 'boot'],
		reason: 'earth before power'
	},
	{
		name: 'a frame is earthed before a board is touched',
		first: ['indoor-earth'],
		then: ['boards'],
		reason: 'what charge there is goes to earth and not through a board'
	},
	{
		name: 'boards are home before anything is plugged into them',
		first: ['boards'],
		then: ['fillers', 'optics', 'management', 'indoor-ports'],
		reason: 'it is plugged into them'
	},
	{
		name: 'every slot is closed before the air must pass',
		first: ['boards', 'fillers'],
		then: ['indoor-power', 'boot'],
		reason: 'a board without air is hot within minutes'
	},
	{
		name: 'a coaxial cable is through its entry before its indoor plug is made and tested',
		first: ['entry'],
		then: ['continuity', 'insulation', 'cable-loss'],
		reason: 'no entry takes a plug that is made already'
	},
	{
		name: 'a coaxial cable is no short before a signal is put to it',
		first: ['continuity', 'insulation'],
		then: ['cable-loss'],
		reason: 'what is short or open needs no tester',
		within: 'radio'
	},
	{
		name: 'a cable is tested before its joints are closed',
		first: CABLE_TESTS,
		then: ['weatherproof'],
		reason: 'a joint is closed once it is tested'
	},
	{
		name: 'a cable is tested before it is fed',
		first: CABLE_TESTS,
		then: ['indoor-power', 'voltage', 'boot'],
		reason: 'a short is found with a meter, not with the supply'
	},
	{
		name: 'source and port are right before a unit is fed',
		first: ['gland'],
		then: ['voltage', 'boot'],
		reason: 'the wrong port or source can destroy the unit',
		within: 'radio'
	},
	{
		name: 'indoor before outdoor',
		first: ['indoor-power'],
		then: ['voltage', 'boot'],
		reason: 'indoor before outdoor'
	},
	{
		name: 'every radio is up before its port is looked for',
		first: ['boot'],
		then: ['port-check'],
		reason: 'a radio that is not up cannot go dark'
	},
	{
		name: 'a unit is measured before it is waited for',
		first: ['voltage'],
		then: ['boot'],
		reason: 'it needs power',
		within: 'radio'
	}
];

/** Whether a fact about steps of these two kinds says that one comes before the other. */
function orders(fact: OrderFact, first: BuildStep, then: BuildStep): boolean {
	if (!fact.within) return true;
	const [own, other] = [first[fact.within], then[fact.within]];
	return own === null || other === null || own === other;
}

/** The steps of an end, each with what must be done before it, for how its pieces go up. */
export const withOrder = (steps: readonly BuildStep[], lift: LiftSchool): BuildStep[] =>
	inOrderOf(
		ORDER_FACTS.filter((fact) => !fact.lift || fact.lift === lift),
		steps
	);

/** The steps, each with what must be done before it: the first reason where several facts say the same. */
export function inOrderOf(facts: readonly OrderFact[], steps: readonly BuildStep[]): BuildStep[] {
	const byBase = new Map<string, BuildStep[]>();
	for (const step of steps) byBase.set(step.base, [...(byBase.get(step.base) ?? []), step]);
	return steps.map((then) => {
		const after = new Map<string, string>();
		for (const fact of facts) {
			if (!fact.then.includes(then.base)) continue;
			for (const first of fact.first.flatMap((base) => byBase.get(base) ?? [])) {
				if (orders(fact, first, then) && !after.has(first.key)) after.set(first.key, fact.reason);
			}
		}
		return { ...then, after: [...after].map(([key, reason]) => ({ key, reason })) };
	});
}
