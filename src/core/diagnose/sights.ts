import type { End } from '../ends';
import type { DiagnosisInput, Observations } from './question';

/** Something that can be looked at: the answer is yes or no, and every cause makes one likelier. */
export interface Sight {
	/** Chance of a yes where no cause says otherwise, 0 to 1. */
	usual: number;
	/** What is known of it; undefined while nobody has looked. */
	seen: (observations: Observations) => boolean | undefined;
	/** What a yes and a no say, in the words of a finding. */
	says: readonly [yes: string, no: string];
	/** How it is looked at, where somebody can be asked to. */
	test?: SightTest;
}

interface SightTest {
	what: string;
	/** Effort, minutes on the mast or at a desk. */
	minutes: number;
	/** What can be tapped as the answer, and what it means. */
	answers: readonly [yes: string, no: string];
	tells: (yes: boolean) => Observations;
	/** Whether it is worth asking on this hop at all. */
	asked?: (hop: Pick<DiagnosisInput, 'armDifferenceDb' | 'crossedCablesLossDb'>) => boolean;
}

/** A test somebody can make, by the name it has in records. */
export type TestKey =
	| 'rain'
	| 'power-control'
	| 'adaptive-modulation'
	| 'power-a'
	| 'power-b'
	| 'meter-a'
	| 'meter-b'
	| 'units'
	| 'line-of-sight'
	| 'follows-pointing'
	| 'sweep-a'
	| 'sweep-b'
	| 'polarization'
	| 'arm'
	| 'cables'
	| 'dishes'
	| 'films'
	| 'feeder'
	| 'locking';

/** What is seen by the program itself, without being asked for. */
type OwnSight = 'impossible-volts-a' | 'impossible-volts-b' | 'unsteady';

export type SightKey = TestKey | OwnSight;

const power = (end: End): Sight => ({
	usual: 0.97,
	seen: ({ powerAsPlanned }) => powerAsPlanned?.[end],
	says: [`${end} sends as planned`, `${end} does not send as planned`],
	test: {
		what: `Read the transmit power on ${end}’s radio.`,
		minutes: 2,
		answers: ['As planned', 'Not as planned'],
		tells: (yes) => ({ powerAsPlanned: { [end]: yes } })
	}
});

const meter = (end: End): Sight => ({
	usual: 0.97,
	seen: ({ meterAgrees }) => meterAgrees?.[end],
	says: [`${end}’s meter agrees with its radio`, `${end}’s meter disagrees with its radio`],
	test: {
		what: `Compare the meter at ${end} with the level the radio itself shows.`,
		minutes: 3,
		answers: ['They agree', 'They disagree'],
		tells: (yes) => ({ meterAgrees: { [end]: yes } })
	}
});

const sweep = (end: End): Sight => ({
	usual: 0.97,
	seen: ({ sweep: swept }) => {
		const sight = swept?.[end];
		return sight === undefined || sight === 'not-swept' ? undefined : sight === 'main-lobe';
	},
	says: [
		`the sweep at ${end} ran over the main lobe`,
		`the sweep at ${end} ran beside the main lobe`
	],
	test: {
		what: `Sweep ${end} over both axes, each through its middle.`,
		minutes: 12,
		answers: ['Over the main lobe', 'Beside it'],
		tells: (yes) => ({ sweep: { [end]: yes ? 'main-lobe' : 'beside-main-lobe' } })
	}
});

/** Volts in the port's range are no news, so only a yes is ever seen. */
const impossibleVolts = (end: End): Sight => ({
	usual: 0.01,
	seen: ({ implausibleVoltage }) => (implausibleVoltage === end ? true : undefined),
	says: [`${end}’s meter shows volts that its port cannot give`, '']
});

/** Everything that can be seen, in the order in which equally good tests are asked. */
export const SIGHTS: Readonly<Record<SightKey, Sight>> = {
	rain: {
		usual: 0.06,
		seen: ({ raining }) => raining,
		says: ['it rains on the path', 'it does not rain'],
		test: {
			what: 'Ask both ends whether it rains on the path.',
			minutes: 1,
			answers: ['It rains', 'It is dry'],
			tells: (raining) => ({ raining })
		}
	},
	'power-control': {
		usual: 0.01,
		seen: ({ powerControlOn }) => powerControlOn,
		says: ['ATPC is on', 'ATPC is off'],
		test: {
			what: 'Look on both radios whether ATPC is on.',
			minutes: 2,
			answers: ['It is on', 'It is off'],
			tells: (powerControlOn) => ({ powerControlOn })
		}
	},
	'adaptive-modulation': {
		usual: 0.01,
		seen: ({ adaptiveModulationOn }) => adaptiveModulationOn,
		says: ['ACM is on', 'ACM is off'],
		test: {
			what: 'Look on both radios whether ACM is on.',
			minutes: 2,
			answers: ['It is on', 'It is off'],
			tells: (adaptiveModulationOn) => ({ adaptiveModulationOn })
		}
	},
	'power-a': power('A'),
	'power-b': power('B'),
	'meter-a': meter('A'),
	'meter-b': meter('B'),
	units: {
		usual: 0.99,
		seen: ({ unitsAsPlanned }) => unitsAsPlanned,
		says: ['the sub-band units are as planned', 'a sub-band unit is not as planned'],
		test: {
			what: 'Read the sub-band units from the labels of both radios.',
			minutes: 4,
			answers: ['As planned', 'Not as planned'],
			tells: (unitsAsPlanned) => ({ unitsAsPlanned })
		}
	},
	'line-of-sight': {
		usual: 0.96,
		seen: ({ lineOfSight }) => lineOfSight,
		says: ['the line of sight is seen', 'the line of sight is not seen'],
		test: {
			what: 'Look along the path with binoculars, or by a mirror from the far end.',
			minutes: 4,
			answers: ['It is seen', 'Something stands in it'],
			tells: (lineOfSight) => ({ lineOfSight })
		}
	},
	'follows-pointing': {
		usual: 0.97,
		seen: ({ followsPointing }) => followsPointing,
		says: ['the level follows the pointing', 'the level does not follow the pointing'],
		test: {
			what: 'Turn one dish by half a beam and back: does the level follow?',
			minutes: 5,
			answers: ['It follows', 'It does not'],
			tells: (followsPointing) => ({ followsPointing })
		}
	},
	arm: {
		usual: 0.99,
		seen: ({ armAsPlanned }) => armAsPlanned,
		says: ['the branching arms are as planned', 'a branching arm is not as planned'],
		test: {
			what: 'Read the labels of the branching arms at both ends.',
			minutes: 5,
			answers: ['As planned', 'Not as planned'],
			tells: (armAsPlanned) => ({ armAsPlanned }),
			asked: ({ armDifferenceDb }) => armDifferenceDb !== 0
		}
	},
	cables: {
		usual: 0.98,
		seen: ({ cablesAsPlanned }) => cablesAsPlanned,
		says: [
			'every indoor port leads to its own radio',
			'an indoor port leads to another radio than its own'
		],
		test: {
			what: 'At each end switch the first radio’s transmitter off from its indoor port: does the far level fall?',
			minutes: 3,
			answers: ['It falls, at both', 'It stays, or another falls'],
			tells: (cablesAsPlanned) => ({ cablesAsPlanned }),
			asked: ({ crossedCablesLossDb: { A, B } }) => A > 0 || B > 0
		}
	},
	dishes: {
		usual: 0.99,
		seen: ({ dishesAsPlanned }) => dishesAsPlanned,
		says: ['the dishes are as planned', 'a dish is not as planned'],
		test: {
			what: 'Read the type of the dish at both ends.',
			minutes: 5,
			answers: ['As planned', 'Not as planned'],
			tells: (dishesAsPlanned) => ({ dishesAsPlanned })
		}
	},
	films: {
		usual: 0.96,
		seen: ({ filmsCounted }) => filmsCounted,
		says: ['every film and cap is counted off', 'a film or cap is missing from the count'],
		test: {
			what: 'Count films and caps taken off against the parts, at both ends.',
			minutes: 6,
			answers: ['All are there', 'One is missing'],
			tells: (filmsCounted) => ({ filmsCounted })
		}
	},
	locking: {
		usual: 0.04,
		seen: ({ fellWhileLocking }) => fellWhileLocking,
		says: [
			'the level fell while tightening',
			'nothing was tightened, or the level held while it was'
		],
		test: {
			what: 'Look in the record whether the level fell while tightening.',
			minutes: 2,
			answers: ['It fell', 'It held'],
			tells: (fellWhileLocking) => ({ fellWhileLocking })
		}
	},
	polarization: {
		usual: 0.98,
		seen: ({ polarizationsAgree }) => polarizationsAgree,
		says: ['both feeds are set alike', 'the feeds are set crosswise'],
		test: {
			what: 'Compare the feeds of both ends: short wall of the waveguide upright is vertical.',
			minutes: 8,
			answers: ['Both alike', 'Crosswise'],
			tells: (polarizationsAgree) => ({ polarizationsAgree })
		}
	},
	'sweep-a': sweep('A'),
	'sweep-b': sweep('B'),
	feeder: {
		usual: 0.96,
		seen: ({ feederSound }) => feederSound,
		says: ['the feeders are sound', 'a feeder is not sound'],
		test: {
			what: 'Open or measure the feeders: dry, joints tight?',
			minutes: 25,
			answers: ['Sound', 'Not sound'],
			tells: (feederSound) => ({ feederSound })
		}
	},
	'impossible-volts-a': impossibleVolts('A'),
	'impossible-volts-b': impossibleVolts('B'),
	unsteady: {
		usual: 0.08,
		seen: ({ unsteady }) => unsteady,
		says: ['the level is unsteady', 'the level is steady']
	}
};

export const SIGHT_KEYS = Object.keys(SIGHTS) as readonly SightKey[];

/** A test somebody can make, and what it can come out as. */
export interface DiagnosisTest {
	key: TestKey;
	what: string;
	/** Effort, minutes on the mast or at a desk. */
	minutes: number;
	outcomes: readonly { value: 'yes' | 'no'; words: string; observation: Observations }[];
}

const TESTS: ReadonlyMap<string, DiagnosisTest> = new Map(
	SIGHT_KEYS.flatMap((key) => {
		const { test } = SIGHTS[key];
		if (!test) return [];
		const { what, minutes, answers, tells } = test;
		const outcomes = [
			{ value: 'yes' as const, words: answers[0], observation: tells(true) },
			{ value: 'no' as const, words: answers[1], observation: tells(false) }
		];
		return [[key, { key: key as TestKey, what, minutes, outcomes }]];
	})
);

/** Names of the tests, as they stand in the record. */
export const TEST_KEYS: readonly TestKey[] = [...TESTS.values()].map(({ key }) => key);

/** A test by its name, for showing what was asked; undefined when there is none of that name. */
export function findTest(key: string): DiagnosisTest | undefined {
	return TESTS.get(key);
}

/** What an answer to a test says; undefined when there is no such test or answer. */
export function observationOf(key: string, value: string): Observations | undefined {
	return findTest(key)?.outcomes.find((outcome) => outcome.value === value)?.observation;
}
