/** What a field record can move or change in the world, at the end that made it. */
export const CHANGES = [
	'azimuth-moved',
	'tilt-moved',
	/** The whole mount turned on its pipe: a new frame for the azimuth adjuster. */
	'mount-turned',
	/** A fastener went to torque: it can pull the dish aside. */
	'tightened',
	'loosened',
	'feed-turned',
	/** Something was set right that lay in the way of the level. */
	'fault-mended',
	/** Something was set right that made the level lie about the pointing. */
	'levels-mended',
	/** What one turn of a nut does was measured: places said in turns mean other angles. */
	'scale-measured',
	/** Dish or mount were changed for others. */
	'dish-replaced',
	/** A radio, coupling, feeder or cable was changed for another. */
	'part-replaced',
	/** The radio went into the alignment state, or back into operation. */
	'state-entered',
	'state-left',
	/** The other dish of the end was moved or fixed: nothing of this one, but somebody worked beside it. */
	'other-dish-worked'
] as const;
export type Change = (typeof CHANGES)[number];

/** What has been found out about an end, and can be made void by a change. */
export const EVIDENCE = [
	/** The latest level read is that of the present pointing. */
	'fresh-level',
	/** This end was shown to stand on its main lobe. */
	'aim',
	/** Where that lobe was found, by the adjusters. */
	'found-place',
	/** Readings of this end that compare with each other. */
	'comparison',
	/** The final level, and those of the other carriers. */
	'final-level',
	'carrier-level',
	/** Both polarizations read at this end. */
	'discrimination',
	/** What tells of this end's own feed, read at its several turns. */
	'feed-reading',
	/** Fasteners of an axis at torque. */
	'azimuth-lock',
	'tilt-lock',
	/** Answers to the tests of the diagnosis. */
	'test-result',
	/** Error, traffic or soak test of the hop. */
	'error-test',
	'operating-state',
	'alignment-state',
	/** The last look at the end, and the crew's word for it. */
	'closing-check',
	/** Each service on its way. */
	'service-check',
	'crew-signature'
] as const;
export type Evidence = (typeof EVIDENCE)[number];

const MOVED: readonly Change[] = ['azimuth-moved', 'tilt-moved', 'mount-turned', 'dish-replaced'];
const SETTLED: readonly Change[] = ['tightened', 'loosened'];
const MENDED: readonly Change[] = ['fault-mended', 'levels-mended'];
const REPLACED: readonly Change[] = ['part-replaced'];
/** After these a level between the two ends is another one. */
const LEVEL: readonly Change[] = [...MOVED, ...SETTLED, 'feed-turned', ...MENDED, ...REPLACED];
/** Work at an end itself, after which it is looked at and signed for again. */
export const WORK: readonly Change[] = [
	...MOVED,
	...SETTLED,
	'feed-turned',
	...REPLACED,
	'other-dish-worked'
];
const NONE: readonly Change[] = [];

/**
 * What makes each kind of evidence about an end void: changes at that end itself, and changes at the
 * far end. The one place that says so; every reader of the record asks it.
 */
export const VOIDED_BY: Readonly<
	Record<Evidence, { own: readonly Change[]; far: readonly Change[] }>
> = {
	'fresh-level': { own: LEVEL, far: LEVEL },
	// Where a dish points does not depend on what the far end does, only how well it was known.
	aim: { own: [...MOVED, 'levels-mended'], far: ['levels-mended'] },
	'found-place': {
		own: ['mount-turned', 'dish-replaced', 'scale-measured', ...SETTLED, 'levels-mended'],
		far: ['levels-mended']
	},
	// An end's own tightening is followed by its own readings; its own moves are places among them.
	comparison: {
		own: ['mount-turned', 'dish-replaced', 'scale-measured', 'feed-turned', ...MENDED, ...REPLACED],
		far: LEVEL
	},
	// Read last, it proves that nobody pushed this dish while working at the other.
	'final-level': { own: [...LEVEL, 'other-dish-worked'], far: LEVEL },
	'carrier-level': { own: LEVEL, far: LEVEL },
	discrimination: { own: LEVEL, far: LEVEL },
	'feed-reading': { own: LEVEL.filter((change) => change !== 'feed-turned'), far: LEVEL },
	'azimuth-lock': {
		own: ['azimuth-moved', 'mount-turned', 'dish-replaced', 'loosened'],
		far: NONE
	},
	'tilt-lock': { own: ['tilt-moved', 'mount-turned', 'dish-replaced', 'loosened'], far: NONE },
	'test-result': { own: MENDED, far: MENDED },
	'error-test': {
		own: [...LEVEL, 'other-dish-worked'],
		far: [...LEVEL, 'other-dish-worked']
	},
	'operating-state': { own: ['state-entered', ...REPLACED], far: NONE },
	'alignment-state': { own: ['state-left', ...REPLACED], far: NONE },
	'closing-check': { own: WORK, far: NONE },
	'service-check': { own: REPLACED, far: NONE },
	'crew-signature': { own: WORK, far: NONE }
};

/** Whether a change makes evidence void, of the end where it happened or of the far one. */
export function voids(change: Change, evidence: Evidence, where: 'own' | 'far'): boolean {
	return VOIDED_BY[evidence][where].includes(change);
}

/** What was changed, for saying why something must be read again. */
export const CHANGE_WORDS: Readonly<Record<Change, string>> = {
	'azimuth-moved': 'the azimuth was moved',
	'tilt-moved': 'the tilt was moved',
	'mount-turned': 'the mount was turned',
	tightened: 'a fastener was tightened',
	loosened: 'a fastener was loosened',
	'feed-turned': 'the feed was turned',
	'fault-mended': 'something was set right',
	'levels-mended': 'something that bent the level was set right',
	'scale-measured': 'the adjuster was measured',
	'dish-replaced': 'the dish or its mount was changed',
	'part-replaced': 'a part was changed',
	'state-entered': 'the radio went into the alignment state',
	'state-left': 'the radio left the alignment state',
	'other-dish-worked': 'the other dish was moved or fixed'
};
