import { senderOf } from '../budget/standby';
import { buildStateOf, type BuildStepState } from '../tower/buildState';
import { ENDS, farEnd, type End } from '../ends';
import { discriminationOf } from '../guide/polarizationBench';
import { pairWords } from '../polarization/discrimination';
import { inCalibration } from '../lock/calibration';
import { judgeDrift, TOTAL_DRIFT_LIMIT_DB } from '../lock/drift';
import { makeLevelCurve } from '../radio/levelCurve';
import { CHANGE_WORDS, type Evidence } from '../record/changes';
import {
	currentLockSteps,
	hopsAt,
	latestVoiding,
	settledDiscriminations,
	stillHolds,
	type HopState
} from '../record/hopState';
import { allInOperation, outOfOperation, radiosText } from '../record/radioStates';
import { serviceKey } from '../budget/services';
import { dishSuffix, dishWords, type DishNumber } from '../record/secondDish';
import { levelOfReading } from '../record/levelOfReading';
import { levelChangeText, levelText, numberText } from '../units/text';
import { carrierStates } from './carriers';
import { overridesOf } from './overrides';
import { judgeErrorTest, latestErrorTest, openClosingQuestions, snagsOf } from './closing';

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
export function judgeAcceptance(state: HopState): AcceptanceJudgement {
	const lines = [
		...ENDS.flatMap((end) => [
			buildLine(state, end),
			...overrideLines(state, end),
			...hopsAt(state, end).flatMap(({ dish, hop }) => [
				levelLine(hop, end, dish),
				...carrierLines(hop, end),
				lobeLine(hop, end, dish),
				driftLine(hop, end, dish),
				...torqueLines(hop, end, dish)
			]),
			...toolLines(state, end),
			...besideLines(state, end),
			operatingLine(state, end),
			...serviceLines(state, end),
			closingLine(state, end)
		]),
		...discriminationLines(state),
		testLine(state),
		crewLine(state),
		...snagLines(state)
	];
	return {
		lines,
		complete: lines.every((line) => line.verdict !== 'missing'),
		deviations: lines.filter((line) => line.verdict === 'deviation').length
	};
}

function buildLine(hop: HopState, end: End): AcceptanceLine {
	const state = buildStateOf(hop, end);
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
		? { ...base, verdict: 'deviation', reason: leftOut(state.steps), ...given(causes) }
		: { ...base, verdict: 'pass', reason: 'Every step done, every quantity as expected.' };
}

/** What was left out, step by step, under each cause. */
function leftOut(steps: readonly BuildStepState[]): string {
	const byCause = new Map<string, string[]>();
	for (const { state, reason, step } of steps) {
		if (state === 'skipped') byCause.set(reason, [...(byCause.get(reason) ?? []), step.title]);
	}
	return `Left out: ${[...byCause].map(([cause, titles]) => `${cause} (${titles.join('; ')})`).join('. ')}.`;
}

/** Asked for only where there is something: what could hurt or destroy, and who took it on. */
function overrideLines(state: HopState, end: End): AcceptanceLine[] {
	const overrides = overridesOf(state, end);
	if (overrides.length === 0) return [];
	const said = overrides.map(({ what, name, why }) => `${what}: ${name}, ${why}`);
	return [
		{
			code: `overrides-${end}`,
			end,
			label: `Gone over by somebody’s word at ${end}`,
			planned: 'none',
			measured: String(overrides.length),
			verdict: 'deviation',
			reason: said.join('; '),
			givenCause: overrides.map(({ name, why }) => `${name}: ${why}`).join('; ')
		}
	];
}

function given(causes: readonly string[]): { givenCause?: string } {
	return causes.length ? { givenCause: causes.join('; ') } : {};
}

function closingLine(state: HopState, end: End): AcceptanceLine {
	const open = openClosingQuestions(state, end);
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
function discriminationLines(state: HopState): AcceptanceLine[] {
	const { need, directions } = discriminationOf(state);
	if (!need.dual && settledDiscriminations(state).length === 0) return [];
	return directions
		.filter(({ verdict }) => need.dual || verdict !== 'missing')
		.map(({ end, sent, pair, discriminationDb, verdict, reason }) => ({
			code: `discrimination-${end}-${sent}${pair === 2 ? '-second' : ''}`,
			end,
			label: `XPD at ${end}, ${sent} sent${pairWords(pair)}`,
			planned: `at least ${numberText(need.neededDb, 1)} dB`,
			measured: discriminationDb === null ? '' : `${numberText(discriminationDb, 1)} dB`,
			verdict: verdict === 'reached' ? 'pass' : verdict === 'short' ? 'deviation' : 'missing',
			reason: verdict === 'missing' ? again(state, 'discrimination', end, reason) : reason
		}));
}

/** Services that a crew has proved, or not, at an end; nothing where the plan names none. */
function serviceLines(state: HopState, end: End): AcceptanceLine[] {
	const { services } = state.input;
	if (services.length === 0) return [];
	const latest = state.ends[end].serviceCheck;
	const base = {
		code: `services-${end}`,
		end,
		label: `Services on their ports at ${end}`,
		planned: `${services.length} on their way`
	};
	if (!latest) {
		return [{ ...base, measured: '', verdict: 'missing', reason: 'Nobody has proved them yet.' }];
	}
	if (!stillHolds(state, 'service-check', end, latest)) {
		return [
			{
				...base,
				measured: '',
				verdict: 'missing',
				reason: again(state, 'service-check', end, 'Prove them again.')
			}
		];
	}
	const answered = (what: 'yes' | 'no' | undefined): string[] =>
		services.flatMap((one) => (latest.answers[serviceKey(end, one)] === what ? one.name : []));
	const proved = answered('yes').length;
	const [wrong, open] = [answered('no'), answered(undefined)];
	const measured = `${proved} of ${services.length}`;
	if (wrong.length > 0) {
		const reason = `Not the way of the plan: ${wrong.join(', ')}. Follow the cable from port to port.`;
		return [{ ...base, measured, verdict: 'deviation', reason }];
	}
	return open.length > 0
		? [{ ...base, measured, verdict: 'missing', reason: `Not proved: ${open.join(', ')}.` }]
		: [{ ...base, measured, verdict: 'pass', reason: 'Each goes the way of the plan.' }];
}

function testLine(state: HopState): AcceptanceLine {
	const { verdict, measured, reason } = judgeErrorTest(state);
	return {
		code: 'error-test',
		end: latestErrorTest(state)?.end ?? 'A',
		label: 'Error, traffic or soak test of the hop',
		planned: 'free of errors',
		measured,
		// A link without traffic yet is accepted with a cause, not held up.
		verdict: verdict === 'missing' ? 'deviation' : verdict,
		reason
	};
}

function crewLine(state: HopState): AcceptanceLine {
	const all = ENDS.flatMap((end) => state.ends[end].crewSignature ?? []);
	const signed = all.filter((one) => stillHolds(state, 'crew-signature', one.end, one));
	const base = {
		code: 'crew-signature',
		end: signed.at(-1)?.end ?? ('A' as const),
		label: 'Signed for the crew',
		planned: 'one signature or more'
	};
	return signed.length
		? {
				...base,
				measured: [...new Set(signed.map(({ name }) => name))].join(', '),
				verdict: 'pass',
				reason: 'The crew stands for this record.'
			}
		: {
				...base,
				measured: '',
				verdict: 'missing',
				reason: all[0]
					? again(state, 'crew-signature', all[0].end, 'The crew signs again what it stands for.')
					: 'The crew has not signed its record yet.'
			};
}

function snagLines(state: HopState): AcceptanceLine[] {
	return ENDS.flatMap((end): AcceptanceLine[] => {
		const snags = snagsOf(state).filter((snag) => snag.end === end);
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

function levelLine(state: HopState, end: End, dish: DishNumber): AcceptanceLine {
	const budget = state.plan.received[end];
	const base = {
		code: `level-${end}${dishSuffix(dish)}`,
		end,
		label: `Level received at ${end} from ${farEnd(end)}${dishWords(dish)}`,
		planned: `${levelText(budget.plannedLevelDbm)} ± ${budget.toleranceDb.toFixed(1)} dB`
	};
	const final = state.ends[end].finalReading;
	if (!final) {
		return {
			...base,
			measured: '',
			verdict: 'missing',
			reason: `No final reading ${dish === 1 ? 'at' : 'of the second dish at'} this end yet.`
		};
	}
	const { levelPort } = state.input.ends[end].radio;
	const read = levelOfReading(final, makeLevelCurve(levelPort.curve), levelPort.resolutionV);
	const measured = final.levelDbm === null ? '' : levelText(final.levelDbm);
	if (read.kind !== 'level') {
		return {
			...base,
			measured,
			verdict: 'missing',
			reason:
				read.kind === 'contradiction' && read.curveDbm !== null
					? `${numberText(final.volts ?? 0, 3)} V is ${levelText(read.curveDbm)} by this port's curve, not ${measured}: read the final level again.`
					: 'This port cannot give the voltage that was read: read the final level again.'
		};
	}
	const level = read.levelDbm;
	if (!stillHolds(state, 'final-level', end, final)) {
		return {
			...base,
			measured,
			verdict: 'missing',
			reason: again(state, 'final-level', end, 'Read the final level again.')
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
function carrierLines(state: HopState, end: End): AcceptanceLine[] {
	return carrierStates(state, end).map(({ carrier, levelDbm, shortDb, verdict }) => {
		const budget = carrier.received[end];
		const sender = senderOf(state.plan, carrier, end);
		return {
			code: `carrier-${end}-${String.fromCharCode(96 + carrier.number)}`,
			end,
			label: `${carrier.name} at ${end}`,
			planned: `${levelText(budget.plannedLevelDbm)} ± ${budget.toleranceDb.toFixed(1)} dB${sender ? `, the far ${sender} unit sending` : ''}`,
			measured: levelDbm === null ? '' : levelText(levelDbm),
			verdict: verdict === 'on-plan' ? 'pass' : 'deviation',
			reason:
				shortDb === null
					? state.ends[end].carrierLevels[carrier.number]
						? again(state, 'carrier-level', end, 'Read it again.')
						: 'Its level was not read.'
					: `${Math.abs(shortDb).toFixed(1)} dB ${shortDb > 0 ? 'below' : 'above'} the plan, ${verdict === 'on-plan' ? 'inside' : 'outside'} the window.`
		};
	});
}

function lobeLine({ ends }: HopState, end: End, dish: DishNumber): AcceptanceLine {
	const { aim, roundsDone } = ends[end];
	const base = {
		code: `main-lobe-${end}${dishSuffix(dish)}`,
		end,
		label: `Main lobe at ${end}, both axes${dishWords(dish)}`,
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

function driftLine(state: HopState, end: End, dish: DishNumber): AcceptanceLine {
	const steps = currentLockSteps(state, end);
	const verdict = judgeDrift(steps, end);
	const base = {
		code: `lock-${end}${dishSuffix(dish)}`,
		end,
		label: `Aim held while fixing ${end}${dishWords(dish)}`,
		planned: 'level after equals level before',
		measured: verdict.kind === 'nothing-yet' ? '' : levelChangeText(verdict.totalDb)
	};
	if (verdict.kind === 'nothing-yet') {
		return {
			...base,
			verdict: 'missing',
			reason: `No fastener of ${dish === 1 ? 'this end' : 'the second dish'} has been recorded.`
		};
	}
	const { fasteners } = state.input.ends[end].mount;
	if (steps.length < fasteners.length) {
		const loose = fasteners.filter((_, i) => steps.every((step) => step.fastenerIndex !== i));
		return {
			...base,
			verdict: 'missing',
			reason: `Not at torque, or moved since: ${loose.map(({ name }) => name.toLowerCase()).join(', ')}.`
		};
	}
	return {
		...base,
		verdict: verdict.kind === 'held' ? 'pass' : 'deviation',
		reason: verdict.advice
	};
}

/** A wrench is within this share of what it is set to. */
const TORQUE_SHARE = 0.05;

/** Said only where a fastener was not given what its sheet asks for. */
function torqueLines(state: HopState, end: End, dish: DishNumber): AcceptanceLine[] {
	const { fasteners } = state.input.ends[end].mount;
	const off = currentLockSteps(state, end).flatMap(({ fastenerIndex, fastener, torqueNm }) => {
		const asked = fasteners[fastenerIndex]?.torqueNm;
		return asked !== undefined && Math.abs(torqueNm - asked) > TORQUE_SHARE * asked
			? [`${fastener}: ${numberText(torqueNm, 1)} N·m instead of ${numberText(asked, 1)} N·m`]
			: [];
	});
	if (off.length === 0) return [];
	return [
		{
			code: `torque-${end}${dishSuffix(dish)}`,
			end,
			label: `Torque of the fasteners at ${end}${dishWords(dish)}`,
			planned: 'as the sheet of the mount asks',
			measured: `${off.length} off`,
			verdict: 'deviation',
			reason: `${off.join('; ')}.`
		}
	];
}

/** Said only where fasteners were tightened by hand and the wrench was not recorded or no longer in calibration. */
function toolLines(state: HopState, end: End): AcceptanceLine[] {
	const tool = state.ends[end].torqueTool;
	const byHand = hopsAt(state, end)
		.flatMap(({ hop }) => currentLockSteps(hop, end))
		.filter(({ source }) => source !== 'simulated');
	const latest = byHand
		.map(({ at }) => at)
		.sort()
		.at(-1);
	if (latest === undefined || (tool && inCalibration(tool.calibratedUntil, latest))) return [];
	return [
		{
			code: `torque-tool-${end}`,
			end,
			label: `Torque tool at ${end}`,
			planned: 'recorded, in calibration',
			measured: tool ? `${tool.serial}, calibrated until ${tool.calibratedUntil}` : 'not recorded',
			verdict: 'deviation',
			reason: tool
				? `Used on ${latest.slice(0, 10)}: what it was set to is not proven.`
				: 'Which wrench gave the torques, and until when it is calibrated, is not known.'
		}
	];
}

/**
 * Where somebody worked at the second dish after the first was fixed: the first one's final level, read
 * after that, must be what it was when its last fastener went to torque.
 */
function besideLines(state: HopState, end: End): AcceptanceLine[] {
	const { changedAt, finalReading } = state.ends[end];
	const fixedAt = currentLockSteps(state, end).reduce<LockedAt | null>(
		(last, step) => (last && last.seq > step.seq ? last : step),
		null
	);
	const workedAt = changedAt['other-dish-worked'];
	if (!fixedAt || workedAt < fixedAt.seq) return [];
	const base = {
		code: `beside-${end}`,
		end,
		label: `First dish of ${end} stood still beside the second`,
		planned: levelText(fixedAt.afterDbm)
	};
	const then = finalReading?.levelDbm ?? null;
	if (then === null || !stillHolds(state, 'final-level', end, finalReading)) {
		return [
			{
				...base,
				measured: '',
				verdict: 'missing',
				reason: 'Read its final level again, after the work at the second dish.'
			}
		];
	}
	const changeDb = then - fixedAt.afterDbm;
	const held = Math.abs(changeDb) <= TOTAL_DRIFT_LIMIT_DB;
	return [
		{
			...base,
			measured: levelText(then),
			verdict: held ? 'pass' : 'deviation',
			reason: held
				? 'Its level is what it was when it was fixed.'
				: `Its level changed by ${numberText(changeDb, 1, true)} dB since it was fixed: somebody may have pushed it.`
		}
	];
}

type LockedAt = ReturnType<typeof currentLockSteps>[number];

function operatingLine(state: HopState, end: End): AcceptanceLine {
	const latest = state.ends[end].operatingState;
	const base = {
		code: `operating-${end}`,
		end,
		label: `Operating state restored at ${end}`,
		planned: 'ATPC, ACM and power as planned'
	};
	if (!latest) {
		return { ...base, measured: '', verdict: 'missing', reason: 'Nobody has confirmed it yet.' };
	}
	if (!stillHolds(state, 'operating-state', end, latest)) {
		return {
			...base,
			measured: '',
			verdict: 'missing',
			reason: again(state, 'operating-state', end, 'Bring it back and confirm it again.')
		};
	}
	const restored = allInOperation(latest);
	return {
		...base,
		measured: restored ? 'confirmed' : 'not as planned',
		verdict: restored ? 'pass' : 'deviation',
		reason: restored
			? 'Confirmed by the crew.'
			: `Left in the alignment state or not as planned${radiosText(outOfOperation(latest))}: the classic forgotten step.`
	};
}

/** Why something that was there no longer counts, and what to do; only the latter if it never was. */
function again(state: HopState, evidence: Evidence, end: End, what: string): string {
	const since = latestVoiding(state, evidence, end);
	if (!since) return what;
	const change = CHANGE_WORDS[since.change];
	return `${change.charAt(0).toUpperCase()}${change.slice(1)} at ${since.end} since. ${what}`;
}
