import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { buildStateOf } from '../tower/buildState';
import { ENDS, farEnd, type End } from '../ends';
import type { Situation } from '../guide/situation';
import { judgeDrift } from '../lock/drift';
import { levelText, numberText } from '../units/text';
import {
	discriminationNeed,
	settledReadings,
	judgeDirections
} from '../polarization/discrimination';
import { recordsOf, type FieldRecord } from '../record/records';
import { carrierStates, lastOfKinds } from './carriers';
import { judgeErrorTest, openClosingQuestions, snagsOf } from './closing';

export interface AcceptanceLine {
	/** Stable name of the line; a deviation's cause is kept under it. */
	code: string;
	end: End;
	label: string;
	planned: string;
	measured: string;
	verdict: 'pass' | 'deviation' | 'missing';
	reason: string;
	/** A cause that the crew has already written, offered to who signs. */
	givenCause?: string;
}

export interface AcceptanceJudgement {
	lines: AcceptanceLine[];
	/** Nothing missing: it may be signed once every deviation has a written cause. */
	complete: boolean;
	deviations: number;
}

/** Judges planned against measured in both directions. A pure function of plan and records. */
export function judgeAcceptance(
	input: HopPlanInput,
	plan: HopPlan,
	situation: Situation,
	records: readonly FieldRecord[]
): AcceptanceJudgement {
	const lines = [
		...ENDS.flatMap((end) => [
			buildLine(input, plan, records, end),
			levelLine(plan, records, end),
			...carrierLines(plan, records, end),
			lobeLine(situation, end),
			driftLine(records, end),
			operatingLine(records, end),
			closingLine(records, end)
		]),
		...discriminationLines(input, plan, records),
		testLine(records),
		crewLine(records),
		...snagLines(records)
	];
	return {
		lines,
		complete: lines.every((line) => line.verdict !== 'missing'),
		deviations: lines.filter((line) => line.verdict === 'deviation').length
	};
}

function buildLine(
	input: HopPlanInput,
	plan: HopPlan,
	records: readonly FieldRecord[],
	end: End
): AcceptanceLine {
	const state = buildStateOf(input, plan, records, end);
	const all = state.steps.length;
	const causes = [
		...new Set(state.steps.filter((s) => s.state === 'skipped').map((s) => s.reason))
	];
	const base = {
		code: `build-${end}`,
		end,
		label: `Building at ${end}`,
		planned: `${all} steps`,
		measured: `${state.done} done${state.skipped ? `, ${state.skipped} left out` : ''}`
	};
	const trouble = state.steps.filter((s) => s.state === 'trouble');
	if (trouble.length) {
		return {
			...base,
			verdict: 'deviation',
			reason: trouble.map((s) => s.reason).join(' '),
			...given(trouble.map((s) => s.note).filter((note) => note !== ''))
		};
	}
	if (!state.complete) {
		return {
			...base,
			verdict: 'deviation',
			reason: `${all - state.done - state.skipped} steps of the building are not in this record.`
		};
	}
	return state.skipped
		? { ...base, verdict: 'deviation', reason: `Left out: ${causes.join('; ')}.`, ...given(causes) }
		: { ...base, verdict: 'pass', reason: 'Every step done, every quantity as expected.' };
}

function given(causes: readonly string[]): { givenCause?: string } {
	return causes.length ? { givenCause: causes.join('; ') } : {};
}

function closingLine(records: readonly FieldRecord[], end: End): AcceptanceLine {
	const open = openClosingQuestions(records, end);
	const base = {
		code: `closing-${end}`,
		end,
		label: `Final look at ${end}`,
		planned: 'nothing left open'
	};
	if (open === null) {
		return {
			...base,
			measured: '',
			verdict: 'missing',
			reason: `The final look at ${end} is missing.`
		};
	}
	return open.length
		? { ...base, measured: `${open.length} open`, verdict: 'deviation', reason: open.join('; ') }
		: { ...base, measured: 'done', verdict: 'pass', reason: 'Nothing left open.' };
}

/** Asked where both polarizations carry traffic; shown where somebody measured it anyway. */
function discriminationLines(
	input: HopPlanInput,
	plan: HopPlan,
	records: readonly FieldRecord[]
): AcceptanceLine[] {
	const need = discriminationNeed(input, plan.dish);
	const readings = settledReadings(records);
	if (!need.dual && readings.length === 0) return [];
	return judgeDirections(need, readings, input.ends.A.polarization)
		.filter(({ verdict }) => need.dual || verdict !== 'missing')
		.map(({ end, sent, discriminationDb, verdict, reason }) => ({
			code: `discrimination-${end}-${sent}`,
			end,
			label: `Discrimination at ${end}, ${sent} sent`,
			planned: `at least ${numberText(need.neededDb, 1)} dB`,
			measured: discriminationDb === null ? '' : `${numberText(discriminationDb, 1)} dB`,
			verdict: verdict === 'reached' ? 'pass' : verdict === 'short' ? 'deviation' : 'missing',
			reason
		}));
}

function testLine(records: readonly FieldRecord[]): AcceptanceLine {
	const { verdict, measured, reason } = judgeErrorTest(records);
	return {
		code: 'error-test',
		end: recordsOf(records, 'error-test').at(-1)?.end ?? 'A',
		label: 'Error, traffic or soak test of the hop',
		planned: 'free of errors',
		measured,
		// A link without traffic yet is accepted with a cause, not held up.
		verdict: verdict === 'missing' ? 'deviation' : verdict,
		reason
	};
}

function crewLine(records: readonly FieldRecord[]): AcceptanceLine {
	const signed = recordsOf(records, 'crew-signature');
	const base = {
		code: 'crew-signature',
		end: signed.at(-1)?.end ?? ('A' as const),
		label: 'Signed for the crew',
		planned: 'one signature or more'
	};
	return signed.length
		? {
				...base,
				measured: [...new Set(signed.map(({ payload }) => payload.name))].join(', '),
				verdict: 'pass',
				reason: 'The crew stands for this record.'
			}
		: {
				...base,
				measured: '',
				verdict: 'missing',
				reason: 'The crew has not signed its record yet.'
			};
}

function snagLines(records: readonly FieldRecord[]): AcceptanceLine[] {
	return ENDS.flatMap((end): AcceptanceLine[] => {
		const snags = snagsOf(records).filter((snag) => snag.end === end);
		if (snags.length === 0) return [];
		const open = snags.filter((snag) => snag.closed === null);
		return [
			{
				code: `snags-${end}`,
				end,
				label: `Snags at ${end}`,
				planned: 'none open',
				measured: `${open.length} open of ${snags.length}`,
				verdict: open.length ? 'deviation' : 'pass',
				reason: open.length
					? open.map(({ text, owner, due }) => `${text} (${owner}, by ${due})`).join('; ')
					: 'All closed.',
				...given(open.map(({ text, owner, due }) => `${text}: ${owner}, by ${due}`))
			}
		];
	});
}

function levelLine(plan: HopPlan, records: readonly FieldRecord[], end: End): AcceptanceLine {
	const budget = plan.received[end];
	const base = {
		code: `level-${end}`,
		end,
		label: `Level received at ${end} from ${farEnd(end)}`,
		planned: `${levelText(budget.plannedLevelDbm)} ± ${budget.toleranceDb.toFixed(1)} dB`
	};
	const disturbedAt = lastOfKinds(records, ['move', 'mount-turn', 'lock-step', 'loosen']);
	const final = recordsOf(records, 'reading', end)
		.filter((r) => r.payload.purpose === 'final' && r.payload.levelDbm !== null)
		.at(-1);
	if (!final) {
		return {
			...base,
			measured: '',
			verdict: 'missing',
			reason: 'No final reading at this end yet.'
		};
	}
	const level = final.payload.levelDbm!;
	const measured = levelText(level);
	if (final.seq < disturbedAt) {
		return {
			...base,
			measured,
			verdict: 'missing',
			reason: 'A dish was moved or tightened after this reading: read the final level again.'
		};
	}
	const difference = level - budget.plannedLevelDbm;
	const words = `${Math.abs(difference).toFixed(1)} dB ${difference < 0 ? 'below' : 'above'} the plan`;
	if (Math.abs(difference) <= budget.toleranceDb) {
		return { ...base, measured, verdict: 'pass', reason: `${words}, inside the window.` };
	}
	return {
		...base,
		measured,
		verdict: 'deviation',
		reason: `${words}, outside the window${difference > 0 ? ': too high is as suspect as too low' : ''}.`
	};
}

/** Standby units, diversity dishes and second bands: each read by itself against its own plan. */
function carrierLines(plan: HopPlan, records: readonly FieldRecord[], end: End): AcceptanceLine[] {
	return carrierStates(plan, records, end).map(({ carrier, levelDbm, shortDb, verdict }) => {
		const budget = carrier.received[end];
		return {
			code: `carrier-${end}-${String.fromCharCode(96 + carrier.number)}`,
			end,
			label: `${carrier.name} at ${end}`,
			planned: `${levelText(budget.plannedLevelDbm)} ± ${budget.toleranceDb.toFixed(1)} dB`,
			measured: levelDbm === null ? '' : levelText(levelDbm),
			verdict: verdict === 'on-plan' ? 'pass' : 'deviation',
			reason:
				shortDb === null
					? 'Its level was not read.'
					: `${Math.abs(shortDb).toFixed(1)} dB ${shortDb > 0 ? 'below' : 'above'} the plan, ${verdict === 'on-plan' ? 'inside' : 'outside'} the window.`
		};
	});
}

function lobeLine(situation: Situation, end: End): AcceptanceLine {
	const { aim, roundsDone } = situation.ends[end];
	const base = {
		code: `main-lobe-${end}`,
		end,
		label: `Main lobe at ${end}, both axes`,
		planned: 'at least 95 % sure',
		measured: aim
			? `${Math.min(99, Math.floor(100 * aim.probability))} % sure, to ${(aim.sigmaBeamwidths ?? 0).toFixed(2)} beam`
			: 'not shown'
	};
	if (aim) {
		return {
			...base,
			verdict: 'pass',
			reason: `The readings of ${roundsDone === 1 ? 'one round' : `${roundsDone} rounds`} place the dish in the middle of its main lobe on both axes.`
		};
	}
	return {
		...base,
		verdict: 'deviation',
		reason:
			'The readings do not show this dish in the middle of its main lobe on both axes, or it moved since: a side lobe is not excluded.'
	};
}

function driftLine(records: readonly FieldRecord[], end: End): AcceptanceLine {
	const steps = currentLockSteps(records, end);
	const verdict = judgeDrift(steps, end);
	const base = {
		code: `lock-${end}`,
		end,
		label: `Aim held while fixing ${end}`,
		planned: 'level after equals level before',
		measured:
			verdict.kind === 'nothing-yet' ? '' : `${numberText(verdict.totalDb, 1, true)} dB change`
	};
	if (verdict.kind === 'nothing-yet') {
		return { ...base, verdict: 'missing', reason: 'No fastener of this end has been recorded.' };
	}
	return {
		...base,
		verdict: verdict.kind === 'held' ? 'pass' : 'deviation',
		reason: verdict.advice
	};
}

function operatingLine(records: readonly FieldRecord[], end: End): AcceptanceLine {
	const latest = recordsOf(records, 'operating-state', end).at(-1);
	const base = {
		code: `operating-${end}`,
		end,
		label: `Operating state restored at ${end}`,
		planned: 'power control, adaptive modulation and power as planned'
	};
	if (!latest) {
		return { ...base, measured: '', verdict: 'missing', reason: 'Nobody has confirmed it yet.' };
	}
	const restored = Object.values(latest.payload).every((confirmed) => confirmed);
	return {
		...base,
		measured: restored ? 'confirmed' : 'not as planned',
		verdict: restored ? 'pass' : 'deviation',
		reason: restored
			? 'Confirmed by the crew.'
			: 'Left in the alignment state or not as planned: the classic forgotten step.'
	};
}

/** The lock steps that count: those after the last loosening, one per fastener, the latest. */
export function currentLockSteps(
	records: readonly FieldRecord[],
	end: End
): {
	fastenerIndex: number;
	fastener: string;
	locks: 'azimuth' | 'tilt';
	torqueNm: number;
	beforeDbm: number;
	afterDbm: number;
}[] {
	const loosenedAt = recordsOf(records, 'loosen', end).at(-1)?.seq ?? 0;
	const byFastener = new Map(
		recordsOf(records, 'lock-step', end)
			.filter((record) => record.seq > loosenedAt)
			.map((record) => [record.payload.fastenerIndex, record.payload])
	);
	return [...byFastener.values()];
}
