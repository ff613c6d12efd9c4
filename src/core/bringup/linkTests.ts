/** Something to look at where a terminal does not link, or links weakly. */
interface LinkTestRow {
	/** At the terminal, or at the unit that should serve it. */
	where: 'terminal' | 'unit';
	what: string;
	minutes: number;
	answers: readonly [yes: string, no: string];
	/** What a yes and a no say, in the words of a finding. */
	says: readonly [yes: string, no: string];
	/** Chance of a yes where no cause says otherwise, 0 to 1. */
	usual: number;
}

export const LINK_TEST_NAMES = [
	'raining',
	'hub-in-sight',
	'looks-at-hub',
	'unit-as-planned',
	'same-channel',
	'right-unit',
	'source-fits',
	'short-cable'
] as const;
export type LinkTest = (typeof LINK_TEST_NAMES)[number];

/** Every test, one row each. */
export const LINK_TESTS: Readonly<Record<LinkTest, LinkTestRow>> = {
	raining: {
		where: 'terminal',
		what: 'Does it rain hard between the two just now?',
		minutes: 0.5,
		answers: ['It rains hard', 'It does not'],
		says: ['It rains hard on the path', 'No hard rain on the path'],
		usual: 0.04
	},
	'hub-in-sight': {
		where: 'terminal',
		what: 'From the terminal’s own height: is the unit of the hub in clear sight, nothing in the line or close to it?',
		minutes: 2,
		answers: ['In clear sight', 'Something stands in it'],
		says: ['The hub is in clear sight', 'Something stands in the line'],
		usual: 0.96
	},
	'looks-at-hub': {
		where: 'terminal',
		what: 'Measure heading and tilt of the terminal again, away from steel: does it look at the hub within the room it has?',
		minutes: 3,
		answers: ['It does', 'It does not'],
		says: ['The terminal looks at the hub', 'The terminal looks past the hub'],
		usual: 0.96
	},
	'unit-as-planned': {
		where: 'unit',
		what: 'At the hub: does the unit still look where the plan says?',
		minutes: 4,
		answers: ['It does', 'It does not'],
		says: ['The unit looks as planned', 'The unit does not look as planned'],
		usual: 0.97
	},
	'same-channel': {
		where: 'terminal',
		what: 'On the pages of both: the same channel and the same width?',
		minutes: 4,
		answers: ['The same', 'They differ'],
		says: ['Channel and width agree', 'Channel or width differ'],
		usual: 0.97
	},
	'right-unit': {
		where: 'terminal',
		what: 'On the terminal’s page: does it look for the unit of the plan, with that unit’s key?',
		minutes: 3,
		answers: ['The unit of the plan', 'Another one'],
		says: ['It looks for the unit of the plan', 'It looks for another unit'],
		usual: 0.97
	},
	'source-fits': {
		where: 'terminal',
		what: 'Read the plate of the injector or adapter: kind and voltage as the terminal’s sheet asks, and in the right port?',
		minutes: 2,
		answers: ['As asked', 'Not as asked'],
		says: ['The source fits', 'The source does not fit'],
		usual: 0.97
	},
	'short-cable': {
		where: 'terminal',
		what: 'Unplug the long cable and feed it over a short one that is known to be good: is it still the same?',
		minutes: 8,
		answers: ['Still the same', 'It works'],
		says: ['A good short cable changes nothing', 'With a good short cable it works'],
		usual: 0.96
	}
};
