import { STOP_CARD_WORDS, unsafeAnswers } from '../tower/stopCards';
import { CAUSE_WORDS } from '../diagnose/causes';
import { findTest } from '../diagnose/diagnosis';
import { levelText, numberText } from '../units/text';
import type { FieldRecord } from './records';

/** One record in one line, for a timeline. */
export function recordInWords(record: FieldRecord): string {
	switch (record.kind) {
		case 'reading': {
			const { levelDbm, volts, purpose } = record.payload;
			const level = levelDbm === null ? 'no level' : levelText(levelDbm);
			return `Reads ${level}${volts === null ? '' : ` (${numberText(volts, 3)} V)`}${purpose === 'final' ? ', final' : ''}`;
		}
		case 'move':
			return `${record.payload.axis === 'azimuth' ? 'Azimuth' : 'Tilt'} to ${numberText(record.payload.toTurns, 2, true)} turns`;
		case 'sweep':
			return `Sweep of ${record.payload.axis}, ${record.payload.samples.length} readings`;
		case 'baton':
			return record.payload.how === 'taken'
				? `${record.payload.to} takes the baton over`
				: `Baton handed to ${record.payload.to}`;
		case 'baton-request':
			return 'Asks for the baton';
		case 'aimed':
			return 'Alignment closed';
		case 'advice':
			return `Advised: ${record.payload.headline}`;
		case 'mount-turn':
			return `Whole mount turned by ${numberText(record.payload.byDeg, 1, true)}°`;
		case 'calibration':
			return `One turn of ${record.payload.axis} measured as ${numberText(record.payload.degPerTurn, 3)}°`;
		case 'crew-mode':
			return record.payload.crews === 1 ? 'One crew for both ends' : 'A crew at each end';
		case 'remedy':
			return `Set right: ${CAUSE_WORDS[record.payload.cause].name}`;
		case 'alignment-state':
			return Object.values(record.payload).every(Boolean)
				? 'In the alignment state'
				: 'Not in the alignment state';
		case 'lock-step':
			return `${record.payload.fastener} to ${numberText(record.payload.torqueNm, 0)} N·m`;
		case 'operating-state':
			return Object.values(record.payload).every(Boolean)
				? 'Back in the operating state'
				: 'Not in the operating state';
		case 'loosen':
			return `Loosened: ${record.payload.reason}`;
		case 'test-result': {
			const test = findTest(record.payload.test);
			const outcome = test?.outcomes.find((o) => o.value === record.payload.value);
			return `Test: ${test?.what ?? record.payload.test} ${outcome?.words ?? record.payload.value}`;
		}
		case 'note':
			return record.payload.text;
		default:
			return buildRecordInWords(record);
	}
}

type AlignmentKind =
	| 'reading'
	| 'move'
	| 'sweep'
	| 'baton'
	| 'baton-request'
	| 'aimed'
	| 'advice'
	| 'mount-turn'
	| 'calibration'
	| 'crew-mode'
	| 'remedy'
	| 'alignment-state'
	| 'lock-step'
	| 'operating-state'
	| 'loosen'
	| 'test-result'
	| 'note';

/** Records of building, closing and what comes with them. */
function buildRecordInWords(record: Exclude<FieldRecord, { kind: AlignmentKind }>): string {
	switch (record.kind) {
		case 'stop-card': {
			const { card, answers } = record.payload;
			const { title } = STOP_CARD_WORDS[card];
			return `${title}: ${unsafeAnswers(card, answers).length ? 'stop' : 'all answered, go'}`;
		}
		case 'packing-list':
			return `Packing list of ${record.payload.lines.length} lines taken in`;
		case 'received': {
			const { code, found, condition } = record.payload;
			return `Counted ${code}: ${found}${condition === 'good' ? '' : `, ${condition}`}`;
		}
		case 'part-label':
			return `Label of ${record.payload.part}: ${[record.payload.code, record.payload.subBandUnit, record.payload.serial].filter(Boolean).join(', ')}`;
		case 'parties':
			return `Present: ${record.payload.present.map(({ name }) => name).join(', ')}`;
		case 'receipt-signature':
			return `Receipt signed by ${record.payload.name}, ${record.payload.party}`;
		case 'polarization-set':
			return `Joint ${record.payload.joint} shows ${record.payload.shows}`;
		case 'build-step':
			return `Step ${record.payload.step} done${record.payload.value === null ? '' : `: ${record.payload.value}`}`;
		case 'step-skipped':
			return `${record.payload.step === '*' ? 'All remaining steps' : `Step ${record.payload.step}`} left out: ${record.payload.cause}`;
		case 'step-reopened':
			return `Step ${record.payload.step} to be done again: ${record.payload.reason}`;
		case 'photo':
			return `Photo${record.payload.caption ? `: ${record.payload.caption}` : ''}`;
		case 'feed-turn':
			return `Feed turned to ${numberText(record.payload.toDeg, 1, true)}°`;
		case 'discrimination': {
			const { sent, coDbm, crossDbm } = record.payload;
			return `Discrimination, ${sent} sent: ${numberText(coDbm - crossDbm, 1)} dB`;
		}
		case 'carrier-level':
			return `Carrier ${record.payload.carrier} reads ${levelText(record.payload.levelDbm)}`;
		case 'torque-tool':
			return `Torque tool ${record.payload.serial}, calibrated until ${record.payload.calibratedUntil}`;
		case 'error-test':
			return `${TEST_WORDS[record.payload.test]}, ${numberText(record.payload.durationS / 60, 0)} min: ${record.payload.erroredSeconds} errored seconds`;
		case 'crew-signature':
			return `Signed for the crew: ${record.payload.name}`;
		case 'closing-check':
			return 'Final look';
		case 'snag':
			return `Snag: ${record.payload.text} (${record.payload.owner})`;
		case 'snag-closed':
			return `Snag closed: ${record.payload.note}`;
	}
}

const TEST_WORDS = { errors: 'Error test', traffic: 'Traffic test', soak: 'Soak' } as const;
