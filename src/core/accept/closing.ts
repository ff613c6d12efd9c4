import type { End } from '../ends';
import { recordsOf, type FieldRecord, type FieldRecordOf } from '../record/records';
import { numberText } from '../units/text';

export interface ClosingQuestion {
	key: string;
	ask: string;
	optional: boolean;
}

/** The last look at one end before it is left. */
export const CLOSING_QUESTIONS: readonly ClosingQuestion[] = [
	{ key: 'meter-off', ask: 'Meter off, cap back on the level port', optional: false },
	{ key: 'lamps', ask: 'Lamps as the unit’s sheet has them in operation', optional: false },
	{ key: 'drains', ask: 'Drain plugs as the dish’s sheet says', optional: false },
	{ key: 'tools', ask: 'Tools counted: as many down as went up', optional: false },
	{ key: 'labels', ask: 'Cables and units labelled', optional: false },
	{ key: 'seals', ask: 'Joints sealed, cables clamped, nothing loose', optional: false },
	{ key: 'photos', ask: 'Photos of the finished end taken', optional: false },
	{ key: 'site', ask: 'Site clean, gates and cabinets locked', optional: true }
];

/** Questions of the final look that are not answered, or answered with no. */
export function openClosingQuestions(records: readonly FieldRecord[], end: End): string[] | null {
	const latest = recordsOf(records, 'closing-check', end).at(-1);
	if (!latest) return null;
	return CLOSING_QUESTIONS.filter(({ key, optional }) => {
		const answer = latest.payload.answers[key];
		return answer !== 'yes' && !(optional && answer === 'not-here');
	}).map(({ ask }) => ask);
}

export interface Snag {
	snagId: string;
	end: End;
	text: string;
	owner: string;
	/** Day it is due, ISO 8601. */
	due: string;
	photoIds: readonly string[];
	recordedAt: string;
	recordedBy: string;
	closed: { note: string; at: string; by: string } | null;
}

/** Every snag of a hop, the open ones first, then by the day they are due. */
export function snagsOf(records: readonly FieldRecord[]): Snag[] {
	const closings = new Map(
		recordsOf(records, 'snag-closed').map((record) => [record.payload.snagId, record])
	);
	const latest = new Map(
		recordsOf(records, 'snag').map((record) => [record.payload.snagId, record])
	);
	return [...latest.values()]
		.map((record): Snag => {
			const closing = closings.get(record.payload.snagId);
			return {
				...record.payload,
				end: record.end,
				recordedAt: record.recordedAt,
				recordedBy: record.recordedBy,
				closed: closing
					? {
							note: closing.payload.note,
							at: closing.recordedAt,
							by: closing.recordedBy
						}
					: null
			};
		})
		.sort(
			(p, q) => Number(p.closed !== null) - Number(q.closed !== null) || p.due.localeCompare(q.due)
		);
}

/** A soak that is shorter says nothing, s. */
const SHORTEST_TEST_S = 60;

export interface ErrorTestVerdict {
	verdict: 'pass' | 'deviation' | 'missing';
	measured: string;
	reason: string;
}

/** The latest error, traffic or soak test that either end recorded. */
export function judgeErrorTest(records: readonly FieldRecord[]): ErrorTestVerdict {
	const latest: FieldRecordOf<'error-test'> | undefined = recordsOf(records, 'error-test').at(-1);
	if (!latest) {
		return {
			verdict: 'missing',
			measured: '',
			reason: 'No error, traffic or soak test was recorded.'
		};
	}
	const { durationS, erroredSeconds, bitErrorRatio } = latest.payload;
	const measured = `${numberText(durationS / 60, 0)} min, ${erroredSeconds} errored seconds${bitErrorRatio === null ? '' : bitErrorRatio === 0 ? ', no bit wrong' : `, ratio ${bitErrorRatio.toExponential(1)}`}`;
	if (durationS < SHORTEST_TEST_S) {
		return { verdict: 'deviation', measured, reason: 'Too short to say anything.' };
	}
	// None while the link stands and the air is clear.
	return erroredSeconds === 0
		? { verdict: 'pass', measured, reason: 'Free of errors.' }
		: {
				verdict: 'deviation',
				measured,
				reason: `${erroredSeconds} errored seconds in clear air: look at level, discrimination and interference.`
			};
}
