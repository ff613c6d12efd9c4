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
	}
}
