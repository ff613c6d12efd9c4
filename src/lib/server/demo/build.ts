import { randomUUID } from 'node:crypto';
import { CLOSING_QUESTIONS } from '#core/accept/closing';
import type { HopPlan } from '#core/budget/hopPlan';
import { supplyVoltageV, type HopPlanInput } from '#core/budget/planInput';
import { buildSteps } from '#core/tower/buildSteps';
import { partsToLabel } from '#core/tower/labels';
import { packingListOf } from '#core/tower/receiving';
import { STOP_CARD_WORDS, STOP_CARDS, type StopCard } from '#core/safety/stopCards';
import { ENDS, type End } from '#core/ends';
import { chainOf } from '#core/polarization/chain';
import { discriminationNeed } from '#core/polarization/discrimination';
import { emptyHopState } from '#core/record/hopState';
import type { RecordKind, RecordPayloads } from '#core/record/records';
import type { NewRecord } from '../services/feed';

const PEOPLE = { A: 'Bram Tolley', B: 'Suvi Ostler' } as const;

function maker(end: End): {
	records: NewRecord[];
	add: <K extends RecordKind>(kind: K, payload: RecordPayloads[K]) => void;
} {
	const records: NewRecord[] = [];
	return {
		records,
		add: (kind, payload) =>
			records.push({
				id: randomUUID(),
				end,
				kind,
				payload,
				recordedAt: new Date().toISOString()
			})
	};
}

/** One end built as planned: everything received, set, counted and measured, every card answered. */
export function builtRecords(input: HopPlanInput, plan: HopPlan, end: End): NewRecord[] {
	const { records, add } = maker(end);
	add('parties', {
		present: [
			{ name: PEOPLE[end], party: 'Crew' },
			{ name: 'Odo Fell', party: 'Carrier or supplier' }
		],
		absent: []
	});
	for (const { code, name, count } of packingListOf(emptyHopState(input, plan), end)) {
		add('received', { code, name, found: count, condition: 'good', note: '', photoIds: [] });
	}
	partsToLabel(input, end).forEach(({ part, code, frequenciesGhz, subBandUnit, flange }, i) => {
		add('part-label', {
			part,
			code,
			bandFromGhz: Math.floor(Math.min(...frequenciesGhz)),
			bandToGhz: Math.ceil(Math.max(...frequenciesGhz)),
			subBandUnit: part.startsWith('radio') ? (subBandUnit ?? '') : '',
			flange: flange ?? '',
			serial: `${code}-${String(1040 + 20 * ENDS.indexOf(end) + i)}`
		});
	});
	for (const { key, expected } of chainOf(input, end)) {
		add('polarization-set', { joint: key, shows: expected });
	}
	for (const card of STOP_CARDS) add('stop-card', answeredCard(card));
	for (const { key, work, quantity, gate } of buildSteps(input, plan, end)) {
		if (work !== 'confirm') continue;
		const value = quantity
			? (quantity.expected ??
				(Number.isFinite(quantity.high) ? (quantity.low + quantity.high) / 2 : quantity.low))
			: null;
		add('build-step', {
			step: key,
			value: value === null ? null : Number(value.toFixed(quantity!.digits)),
			note: '',
			photoIds: [],
			...(gate?.kind === 'lift' ? { gear: STRONG_GEAR } : {}),
			...(gate?.kind === 'source'
				? {
						source: {
							kind: gate.unit.power.kind,
							voltageV: supplyVoltageV(input.ends[end]) ?? gate.unit.power.maxV - 4,
							powerW: Math.ceil(2 * gate.unit.consumptionW)
						}
					}
				: {})
		});
	}
	return records;
}

/** Rope, pulley and sling that hold everything of the demo. */
const STRONG_GEAR = {
	ropeBreakingKg: 3200,
	ropeFactor: 10,
	pulleyRatedKg: 650,
	slingRatedKg: 1000
};

function answeredCard(card: StopCard): RecordPayloads['stop-card'] {
	return {
		card,
		answers: Object.fromEntries(
			STOP_CARD_WORDS[card].questions.map(({ key }) => [key, 'yes' as const])
		),
		note: ''
	};
}

/** One end closed: looked over, tested, with nothing left. */
export function closedRecords(end: End, input: HopPlanInput, plan: HopPlan): NewRecord[] {
	const { records, add } = maker(end);
	const need = discriminationNeed(input, plan.dish);
	if (need.dual) {
		const coDbm = Number((plan.received[end].plannedLevelDbm - 0.3).toFixed(1));
		for (const sent of ['vertical', 'horizontal'] as const) {
			const crossDbm = Number((coDbm - need.neededDb - 3.4).toFixed(1));
			add('discrimination', { sent, turned: end, feedDeg: 0, coDbm, crossDbm, source: 'hand' });
		}
	}
	for (const { number, received } of plan.carriers.slice(1)) {
		const levelDbm = Number((received[end].plannedLevelDbm - 0.4).toFixed(1));
		add('carrier-level', { carrier: number, levelDbm, source: 'hand' });
	}
	add('torque-tool', { serial: `TW-${end === 'A' ? 318 : 322}`, calibratedUntil: '2027-08-31' });
	add('closing-check', {
		answers: Object.fromEntries(CLOSING_QUESTIONS.map(({ key }) => [key, 'yes' as const])),
		note: ''
	});
	add('crew-signature', { name: PEOPLE[end], method: 'typed' });
	if (end === 'A') {
		add('error-test', {
			test: 'errors',
			durationS: 1800,
			erroredSeconds: 0,
			bitErrorRatio: 0,
			note: ''
		});
	}
	return records;
}
