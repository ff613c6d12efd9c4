import type { Cause } from '../diagnose/causes/keys';
import { CAUSE_TABLE } from '../diagnose/causes/table';
import { findTest } from '../diagnose/sights';
import { farEnd, type Axis, type End } from '../ends';
import { STOP_CARD_WORDS, unsafeAnswers, type StopCard } from '../safety/stopCards';
import { levelText, numberText } from '../units/text';
import { WORK, type Change } from './changes';
import {
	allInAlignment,
	allInOperation,
	outOfAlignment,
	outOfOperation,
	radiosText
} from './radioStates';
import { messageWords } from './messages';
import type { RecordKind, RecordPayloads, VisitPurpose } from './records';
import { isOfSecond } from './secondDish';

/** What plan and parts call the things that records name by key. */
export interface RecordNames {
	/** Title of a step of the building, and the unit of its quantity where it has one. */
	step(end: End, key: string): { title: string; unit: string } | undefined;
	/** A joint of the polarization chain, or a part such as `radio-1`, in words. */
	part: (end: End, key: string) => string | undefined;
	/** Carrier by its number, from 1. */
	carrier(number: number): string | undefined;
	/** What a snag is about, by its id. */
	snag(snagId: string): string | undefined;
}

/** The three parts of the work that a record is read by. */
export const WORK_PARTS = ['building', 'alignment', 'closing'] as const;
export type WorkPart = (typeof WORK_PARTS)[number];

/** How the parts of the work are called where a record is read. */
export const WORK_PART_WORDS: Readonly<Record<WorkPart, string>> = {
	building: 'Building',
	alignment: 'Alignment',
	closing: 'Fixing, closing, visits'
};

/** What one kind of record means. */
export interface KindRow<K extends RecordKind> {
	/** What it changes at its end; a list, or worked out from the payload. */
	changes: readonly Change[] | ((payload: RecordPayloads[K]) => readonly Change[]);
	/** Only the end that holds the baton may make it, and only with both ends in the alignment state. */
	needsBaton: boolean;
	/** The card that stands before what it says. */
	card?: StopCard | ((payload: RecordPayloads[K]) => StopCard | undefined);
	/** The part of the work it belongs to; `any` for what is said at any time. */
	part: WorkPart | 'any' | ((payload: RecordPayloads[K]) => WorkPart);
	/** It says something of its end's building. */
	building?: true;
	/** The record in one line, for a timeline. */
	say(payload: RecordPayloads[K], names: RecordNames, end: End): string;
}

const NOTHING: readonly Change[] = [];
const MOVES: Record<Axis, readonly Change[]> = {
	azimuth: ['azimuth-moved'],
	tilt: ['tilt-moved']
};

/** Faults that bend the level against the pointing, rather than lowering it. */
const BENDS_LEVELS: ReadonlySet<Cause> = new Set([
	'power-control-on',
	'adaptive-modulation-on',
	'pick-up',
	'overload'
]);

/** The first dish and its mount carry the aim; every other part only the level. */
const CARRIES_THE_AIM = /^(dish|mount)$/;
/** The same of the second dish, whose hop is another one. */
const CARRIES_OTHER_AIM = /^second-(dish|mount)$/;

/** A step that the plan in force no longer has. */
const OTHER_STEP = 'A step of an earlier plan';

/** Every kind of field record, one row each. A kind without a row does not compile. */
export const KINDS: { readonly [K in RecordKind]: KindRow<K> } = {
	reading: {
		changes: NOTHING,
		needsBaton: false,
		part: ({ purpose }) => (purpose === 'final' ? 'closing' : 'alignment'),
		say: ({ levelDbm, volts, purpose }) =>
			`Reads ${levelDbm === null ? 'no level' : levelText(levelDbm)}${volts === null ? '' : ` (${numberText(volts, 3)} V)`}${purpose === 'final' ? ', final' : ''}`
	},
	move: {
		changes: ({ axis }) => MOVES[axis],
		needsBaton: true,
		part: 'alignment',
		card: 'climb',
		say: ({ axis, toTurns }) =>
			`${axis === 'azimuth' ? 'Azimuth' : 'Tilt'} to ${numberText(toTurns, 2, true)} turns`
	},
	sweep: {
		changes: ({ axis }) => MOVES[axis],
		needsBaton: true,
		part: 'alignment',
		card: 'climb',
		say: ({ axis, samples }) => `Sweep of ${axis}, ${samples.length} readings`
	},
	baton: {
		changes: NOTHING,
		needsBaton: false,
		part: 'alignment',
		say: ({ to, how }) => (how === 'taken' ? `${to} takes the baton over` : `Baton handed to ${to}`)
	},
	'baton-request': {
		changes: NOTHING,
		needsBaton: false,
		part: 'alignment',
		say: () => 'Asks for the baton'
	},
	'level-request': {
		changes: NOTHING,
		needsBaton: false,
		part: 'alignment',
		say: (_, __, end) => `Asks for a level at ${farEnd(end)}`
	},
	aimed: { changes: NOTHING, needsBaton: true, part: 'alignment', say: () => 'Alignment closed' },
	advice: {
		changes: NOTHING,
		needsBaton: false,
		part: 'alignment',
		say: ({ headline }) => `Advised: ${headline}`
	},
	'mount-turn': {
		changes: ['mount-turned'],
		needsBaton: true,
		part: 'alignment',
		card: 'climb',
		say: ({ byDeg }) => `Whole mount turned by ${numberText(byDeg, 1, true)}°`
	},
	calibration: {
		changes: ['scale-measured'],
		needsBaton: false,
		part: 'alignment',
		say: ({ axis, degPerTurn }) => `One turn of ${axis} measured as ${numberText(degPerTurn, 3)}°`
	},
	'crew-mode': {
		changes: NOTHING,
		needsBaton: false,
		part: 'any',
		say: ({ crews }) => (crews === 1 ? 'One crew for both ends' : 'A crew at each end')
	},
	remedy: {
		changes: ({ cause }) => [BENDS_LEVELS.has(cause) ? 'levels-mended' : 'fault-mended'],
		needsBaton: false,
		part: 'alignment',
		say: ({ cause }) => `Set right: ${CAUSE_TABLE[cause].name}`
	},
	'alignment-state': {
		changes: (payload) => (allInAlignment(payload) ? ['state-entered'] : NOTHING),
		needsBaton: false,
		part: 'alignment',
		// Leaving it turns nothing on.
		card: (payload) => (allInAlignment(payload) ? 'transmit' : undefined),
		say: (payload) =>
			allInAlignment(payload)
				? 'In the alignment state'
				: `Not in the alignment state${radiosText(outOfAlignment(payload))}`
	},
	'lock-step': {
		changes: ['tightened'],
		needsBaton: true,
		part: 'closing',
		card: 'climb',
		say: ({ fastener, torqueNm }) => `${fastener} to ${numberText(torqueNm, 0)} N·m`
	},
	'operating-state': {
		changes: (payload) => (allInOperation(payload) ? ['state-left'] : NOTHING),
		needsBaton: false,
		part: 'closing',
		say: (payload) =>
			allInOperation(payload)
				? 'Back in the operating state'
				: `Not in the operating state${radiosText(outOfOperation(payload))}`
	},
	loosen: {
		changes: ['loosened'],
		needsBaton: true,
		part: 'closing',
		card: 'climb',
		say: ({ reason }) => `Loosened: ${reason}`
	},
	'test-result': {
		changes: NOTHING,
		needsBaton: false,
		part: 'alignment',
		say: ({ test, value }) => {
			const known = findTest(test);
			const outcome = known?.outcomes.find((o) => o.value === value);
			return `Test: ${known?.what ?? 'another one'} ${outcome?.words ?? value}`;
		}
	},
	note: { changes: NOTHING, needsBaton: false, part: 'any', say: ({ text }) => text },
	message: {
		changes: NOTHING,
		needsBaton: false,
		part: 'any',
		say: (payload, _, end) => `To ${farEnd(end)}: ${messageWords(payload)}`
	},
	'stop-card': {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		say: ({ card, answers, override }) =>
			`${STOP_CARD_WORDS[card].title}: ${
				unsafeAnswers(card, answers).length === 0
					? 'all answered, go'
					: override
						? `goes on by the word of ${override.name}, ${override.why}`
						: 'stop'
			}`
	},
	'packing-list': {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		building: true,
		say: ({ lines }) => `Packing list of ${lines.length} lines loaded`
	},
	received: {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		building: true,
		say: ({ code, found, condition }) =>
			`Counted ${code}: ${found}${condition === 'good' ? '' : `, ${condition}`}`
	},
	'part-label': {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		building: true,
		say: ({ part, code, subBandUnit, serial }, names, end) =>
			`Label of ${names.part(end, part) ?? 'a part'}: ${[code, subBandUnit, serial].filter(Boolean).join(', ')}`
	},
	parties: {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		building: true,
		say: ({ present }) => `Present: ${present.map(({ name }) => name).join(', ')}`
	},
	'receipt-signature': {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		say: ({ name, party }) => `Receipt signed by ${name}, ${party}`
	},
	'polarization-set': {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		building: true,
		say: ({ joint, shows }, names, end) =>
			`${names.part(end, joint) ?? 'A joint'} seen set ${shows}`
	},
	'build-step': {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		building: true,
		say: ({ step, value }, names, end) => {
			const known = names.step(end, step);
			const measured =
				value === null
					? ''
					: `, ${numberText(value, Number.isInteger(value) ? 0 : 2)}${known?.unit ? ` ${known.unit}` : ''}`;
			return `${known?.title ?? OTHER_STEP}: done${measured}`;
		}
	},
	'step-skipped': {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		building: true,
		say: ({ step, cause, authorisedBy }, names, end) =>
			`${step === '*' ? 'All remaining steps' : (names.step(end, step)?.title ?? OTHER_STEP)}: left out, ${cause}${authorisedBy ? ` (on the word of ${authorisedBy})` : ''}`
	},
	'step-reopened': {
		changes: NOTHING,
		needsBaton: false,
		part: 'building',
		say: ({ step, reason }, names, end) =>
			`${names.step(end, step)?.title ?? OTHER_STEP}: to be done again, ${reason}`
	},
	photo: {
		changes: NOTHING,
		needsBaton: false,
		part: 'any',
		say: ({ about, caption }, names, end) => {
			const what = caption || names.step(end, about)?.title;
			return `Photo${what ? `: ${what}` : ''}`;
		}
	},
	'feed-turn': {
		changes: ['feed-turned'],
		needsBaton: true,
		part: 'alignment',
		card: 'climb',
		say: ({ toDeg }) => `Feed turned to ${numberText(toDeg, 1, true)}°`
	},
	discrimination: {
		changes: NOTHING,
		needsBaton: false,
		part: 'alignment',
		say: ({ sent, pair, coDbm, crossDbm }) =>
			`XPD, ${sent} sent${pair === 2 ? ', second frequency' : ''}: ${numberText(coDbm - crossDbm, 1)} dB`
	},
	'carrier-level': {
		changes: NOTHING,
		needsBaton: false,
		part: 'alignment',
		say: ({ carrier, levelDbm }, names) =>
			`${names.carrier(carrier) ?? `Carrier ${carrier}`} reads ${levelText(levelDbm)}`
	},
	'torque-tool': {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ serial, calibratedUntil }) =>
			`Torque tool ${serial}, calibrated until ${calibratedUntil}`
	},
	'error-test': {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ test, durationS, erroredSeconds }) =>
			`${ERROR_TEST_WORDS[test]}, ${numberText(durationS / 60, 0)} min: ${erroredSeconds} errored seconds`
	},
	'crew-signature': {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ name }) => `Signed for the crew: ${name}`
	},
	'closing-check': {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ answers }) => {
			const left = Object.values(answers).filter((answer) => answer === 'no').length;
			return `Final look: ${left === 0 ? 'nothing left open' : `${left} left open`}`;
		}
	},
	'service-check': {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ answers }) => {
			const all = Object.values(answers);
			return `Services proved: ${all.filter((answer) => answer === 'yes').length} of ${all.length}`;
		}
	},
	snag: {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ text, owner }) => `Snag: ${text} (${owner})`
	},
	'snag-closed': {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ snagId, note, closedBy }, names) => {
			const about = names.snag(snagId);
			return `Snag closed${about ? `, ${about}` : ''}: ${note}${closedBy ? ` (${closedBy})` : ''}`;
		}
	},
	'sent-back': {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ reason }) => `Sent back by the acceptor: ${reason}`
	},
	'visit-opened': {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ purpose, why }) => `Visit begun, ${VISIT_PURPOSE_WORDS[purpose].toLowerCase()}: ${why}`
	},
	'visit-closed': {
		changes: NOTHING,
		needsBaton: false,
		part: 'closing',
		say: ({ found, name }) => `Visit closed by ${name}: ${found}`
	},
	'part-replaced': {
		changes: ({ part }) => [
			CARRIES_THE_AIM.test(part)
				? 'dish-replaced'
				: CARRIES_OTHER_AIM.test(part)
					? 'other-dish-worked'
					: 'part-replaced'
		],
		needsBaton: false,
		part: 'closing',
		say: ({ part, code, serial, reason }, names, end) =>
			`${names.part(end, part) ?? 'A part'} changed for ${code}, serial ${serial}: ${reason}`
	}
};

export const ERROR_TEST_WORDS = {
	errors: 'Error test',
	traffic: 'Traffic test',
	soak: 'Soak'
} as const;

export const VISIT_PURPOSE_WORDS: Readonly<Record<VisitPurpose, string>> = {
	installation: 'Installation',
	'storm-check': 'Check after a storm',
	repair: 'Repair',
	change: 'Change of parts or plan',
	removal: 'Removal'
};

/** Every kind, in the order of the table. */
export const RECORD_KINDS = Object.keys(KINDS) as readonly RecordKind[];

/** Row of a kind that is only known at run time: its payload is what stands in the record. */
function rowOf(kind: RecordKind): KindRow<RecordKind> {
	return KINDS[kind] as unknown as KindRow<RecordKind>;
}

type Recorded = { kind: RecordKind; payload: RecordPayloads[RecordKind] };

const OTHER_DISH: readonly Change[] = ['other-dish-worked'];

/** What one record changes at its end, of its first dish. */
export function changesOf(record: Recorded): readonly Change[] {
	const changes = ownChanges(record);
	// A fault is set right for all dishes, at whichever bench it was found.
	if (!isOfSecond(record) || record.kind === 'remedy') return changes;
	// Measuring an adjuster touches no dish.
	return changes.some((change) => WORK.includes(change)) ? OTHER_DISH : NOTHING;
}

function ownChanges({ kind, payload }: Recorded): readonly Change[] {
	const { changes } = rowOf(kind);
	return typeof changes === 'function' ? changes(payload) : changes;
}

/** Whether only the end that holds the baton may make such a record. */
export function needsBaton(kind: RecordKind): boolean {
	return KINDS[kind].needsBaton;
}

/** The card that stands before what a record says; undefined where none does. */
export function cardBefore({ kind, payload }: Recorded): StopCard | undefined {
	const { card } = rowOf(kind);
	return typeof card === 'function' ? card(payload) : card;
}

/** Whether a record of this kind says that something of the building was done. */
export function isOfBuilding(kind: RecordKind): boolean {
	return rowOf(kind).building === true;
}

/** The part of the work that a record belongs to; `any` for what is said at any time. */
export function partOfWork({ kind, payload }: Recorded): WorkPart | 'any' {
	const { part } = rowOf(kind);
	return typeof part === 'function' ? part(payload) : part;
}

/** Whether a record is read with a part of the work: of its own part, or said at any time. */
export function isOfPart(record: Recorded, part: WorkPart): boolean {
	return [part, 'any'].includes(partOfWork(record));
}

/** One record in one line, for a timeline. */
export function sayRecord(record: Recorded & { end: End }, names: RecordNames): string {
	const said = rowOf(record.kind).say(record.payload, names, record.end);
	return isOfSecond(record) ? `Second dish: ${said}` : said;
}
