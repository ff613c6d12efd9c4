import { randomUUID } from 'node:crypto';
import { radioKeys } from '#core/budget/inventory';
import { ENDS, farEnd, type Axis, type End, type PerEnd } from '#core/ends';
import { nextStep } from '#core/guide/nextStep';
import { guidanceInputOf } from '#core/guide/aim';
import { noFindings } from '#core/record/findings';
import { guide } from '#core/guide/guidance';
import { weighedState } from '#core/guide/weigh';
import { wholeOperation } from '#core/record/radioStates';
import { approachTurns, sweepTurns } from '#core/simulate/drive';
import { adjusterTurns } from '#core/sweep/adjusterScale';
import type { SweepSample } from '#core/sweep/analyseSweep';
import type { Actor } from '../auth/actor';
import { appendRecords, readAllRecords, requireRevision, type NewRecord } from '../services/feed';
import { actOnSimulator } from '../services/simulation';

const MOST_STEPS = 60;
const PART = 40;

/** Plays a practice hop through the services as two crews would who follow the guidance. */
export async function playToLocked(hopId: string, crews: PerEnd<Actor>): Promise<void> {
	const revision = await requireRevision(hopId);
	const { input, plan } = revision;
	const findings = noFindings();
	const ids = (): { id: string; readingId: string } => ({
		id: randomUUID(),
		readingId: randomUUID()
	});
	const read = (end: End, purpose: 'watch' | 'final'): Promise<unknown> =>
		actOnSimulator(crews[end], hopId, { end, action: 'read', purpose, ...ids() });
	const append = (
		end: End,
		record: Omit<NewRecord, 'id' | 'end' | 'recordedAt'>
	): Promise<unknown> =>
		appendRecords(crews[end], hopId, [
			{ ...record, id: randomUUID(), end, recordedAt: new Date().toISOString() }
		]);
	const turn = (end: End, axis: Axis, turns: number[]): Promise<{ samples: SweepSample[] }> =>
		actOnSimulator(crews[end], hopId, {
			end,
			action: 'turn',
			axis,
			turns,
			purpose: 'watch',
			...ids()
		});

	for (const end of ENDS) await read(end, 'watch');
	for (let i = 0; i < MOST_STEPS; i++) {
		const records = await readAllRecords(hopId);
		const state = weighedState(input, plan, records, findings);
		const end = state.baton;
		const guidance = guide(guidanceInputOf(state, end));
		const step = nextStep(state, end, guidance);
		if (step.kind === 'read') await read(end, 'watch');
		else if (step.kind === 'ask-far') await read(farEnd(end), 'watch');
		else if (step.kind === 'sweep') {
			const turns = sweepTurns(input.ends[end].mount[step.axis], step);
			const samples: SweepSample[] = [];
			for (let at = 0; at < turns.length; at += PART) {
				samples.push(...(await turn(end, step.axis, turns.slice(at, at + PART))).samples);
			}
			const other: Axis = step.axis === 'azimuth' ? 'tilt' : 'azimuth';
			await append(end, {
				kind: 'sweep',
				payload: {
					axis: step.axis,
					otherAxisDeg: state.ends[end].angleDeg[other],
					source: 'simulated',
					samples: samples.map((sample, n) => ({ ...sample, elapsedS: n * 0.5 }))
				}
			});
		} else if (step.kind === 'move') {
			const to = adjusterTurns(input.ends[end].mount[step.axis], step.targetDeg);
			await turn(end, step.axis, approachTurns(to));
		} else if (step.kind === 'hand-over') {
			await append(end, { kind: 'baton', payload: { to: farEnd(end), how: 'handed' } });
		} else if (step.kind === 'lock') {
			await append(end, { kind: 'aimed', payload: {} });
			break;
		} else throw new Error(`the demo hop stops at: ${step.headline}`);
	}
	const last = weighedState(input, plan, await readAllRecords(hopId), findings).baton;
	for (const end of [last, farEnd(last)]) {
		if (end !== last) await append(last, { kind: 'baton', payload: { to: end, how: 'handed' } });
		for (const [fastenerIndex] of input.ends[end].mount.fasteners.entries()) {
			await actOnSimulator(crews[end], hopId, {
				end,
				action: 'tighten',
				fastenerIndex,
				purpose: 'watch',
				...ids()
			});
		}
	}
	for (const end of ENDS) await read(end, 'final');
	for (const end of ENDS) {
		await append(end, {
			kind: 'operating-state',
			payload: wholeOperation(radioKeys(input, end))
		});
	}
}
