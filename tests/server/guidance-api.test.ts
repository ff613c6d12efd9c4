import { beforeAll, describe, expect, it } from 'vitest';
import { relativeGainDb } from '#core/antenna/taperedAperture';
import type { Diagnosis } from '#core/diagnose/diagnosis';
import type { Guidance } from '#core/guide/guidance';
import { sumOfLevelsDb } from '#core/units/decibel';
import { call, closingDb, newCaller, newHop, record, type Caller } from './world';

closingDb();

let trainee: Caller;
beforeAll(async () => {
	trainee = await newCaller('trainee');
});

const BEAM = 0.92;
const request = {
	frequencyGhz: 38.2,
	dishDiameterM: 0.6,
	beamwidthDeg: BEAM,
	plannedLevelDbm: -40,
	floorDbm: -86,
	toleranceDb: 2,
	travel: { azimuthDeg: [-10, 10], tiltDeg: [-10, 10] },
	prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 0.5 },
	readings: [] as { azimuthDeg: number; tiltDeg: number; levelDbm: number; elapsedS?: number }[]
};
const next = (change: object): ReturnType<typeof call<Guidance>> =>
	call<Guidance>(trainee, 'POST', '/guidance/next', { ...request, ...change });

describe('POST /guidance/next', () => {
	it('driven by a script that knows nothing, it leads one end onto its main lobe', async () => {
		const boresight = { azimuthDeg: -2.7, tiltDeg: 0.45 };
		const read = (place: {
			azimuthDeg: number;
			tiltDeg: number;
		}): (typeof request.readings)[number] => {
			const off = Math.hypot(
				place.azimuthDeg - boresight.azimuthDeg,
				place.tiltDeg - boresight.tiltDeg
			);
			const level = request.plannedLevelDbm - 19 + relativeGainDb(off / BEAM);
			return { ...place, levelDbm: sumOfLevelsDb([level, request.floorDbm]) };
		};
		const readings: typeof request.readings = [];
		let here = { azimuthDeg: 0, tiltDeg: 0 };
		let answer: Guidance | undefined;
		for (let i = 0; i < 25; i++) {
			const response = await next({ readings });
			expect(response.status).toBe(200);
			answer = response.body;
			if (answer.advice === 'sweep') {
				const { axis, fromDeg, toDeg, stepDeg } = answer.sweep!;
				const count = Math.round((toDeg - fromDeg) / stepDeg);
				for (let k = 0; k <= count; k++) {
					const at = fromDeg + ((toDeg - fromDeg) * k) / count;
					here = axis === 'azimuth' ? { ...here, azimuthDeg: at } : { ...here, tiltDeg: at };
					readings.push(read(here));
				}
			} else if (answer.advice === 'move') {
				here = answer.target!;
				readings.push(read(here));
			} else break;
		}
		// The far end costs 19 dB: this end is done and the far end is to move.
		expect(answer!.advice).toBe('hand-over');
		expect(answer!.probabilityOnMainLobe).toBeGreaterThan(0.95);
		expect(Math.abs(here.azimuthDeg - boresight.azimuthDeg)).toBeLessThan(0.12 * BEAM);
		expect(Math.abs(here.tiltDeg - boresight.tiltDeg)).toBeLessThan(0.12 * BEAM);
		expect(readings.length).toBeLessThan(90);
	});

	it('is stateless: the same question has the same answer', async () => {
		const readings = [{ azimuthDeg: 0, tiltDeg: 0, levelDbm: -58 }];
		expect((await next({ readings })).body).toEqual((await next({ readings })).body);
	});

	it('works without a beamwidth, by the rule of thumb', async () => {
		const { beamwidthDeg: _omitted, ...rest } = request;
		expect(_omitted).toBe(BEAM);
		const answer = await call<Guidance>(trainee, 'POST', '/guidance/next', rest);
		expect(answer.body.advice).toBe('sweep');
	});

	it.each([
		['frequencyGhz', { frequencyGhz: 0 }],
		['frequencyGhz', { frequencyGhz: 'high' }],
		['dishDiameterM', { dishDiameterM: -0.6 }],
		['floorDbm', { floorDbm: -30 }],
		['toleranceDb', { toleranceDb: 0 }],
		['travel.azimuthDeg', { travel: { azimuthDeg: [4, -4], tiltDeg: [-1, 1] } }],
		['travel.tiltDeg', { travel: { azimuthDeg: [-4, 4] } }],
		['prior.tiltSigmaDeg', { prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 0 } }],
		['readings', { readings: 'none' }],
		['readings.0.levelDbm', { readings: [{ azimuthDeg: 0, tiltDeg: 0 }] }],
		['readings.0.azimuthDeg', { readings: [{ azimuthDeg: 999, tiltDeg: 0, levelDbm: -50 }] }],
		[
			'readings',
			{
				readings: Array.from({ length: 3001 }, () => ({ azimuthDeg: 0, tiltDeg: 0, levelDbm: -60 }))
			}
		]
	])('names %s when it is wrong', async (field, change) => {
		const answer = await next(change);
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map((f) => f.field)).toContain(field);
	});

	it('needs a session', async () => {
		expect((await call(undefined, 'POST', '/guidance/next', request)).status).toBe(401);
	});
});

describe('POST /diagnosis', () => {
	const ask = (change: object): ReturnType<typeof call<Diagnosis>> =>
		call<Diagnosis>(trainee, 'POST', '/diagnosis', {
			plannedDbm: { A: -40, B: -40.4 },
			measuredDbm: { A: -40.3, B: -40.8 },
			...change
		});

	it('ranks every cause, and needs no more than planned and measured', async () => {
		const answer = await ask({});
		expect(answer.status).toBe(200);
		expect(answer.body.causes[0]!.cause).toBe('none');
		expect(answer.body.causes.map((c) => c.probability)).toEqual(
			answer.body.causes.map((c) => c.probability).sort((p, q) => q - p)
		);
	});

	it('takes what people have seen into account', async () => {
		const short = { measuredDbm: { A: -52, B: -52.5 } };
		const dry = await ask({ ...short, observations: { raining: false } });
		const wet = await ask({ ...short, observations: { raining: true } });
		const rain = (answer: typeof dry): number =>
			answer.body.causes.find((c) => c.cause === 'rain')!.probability;
		expect(rain(wet)).toBeGreaterThan(10 * rain(dry));
	});

	it.each([
		['plannedDbm', { plannedDbm: undefined }],
		['plannedDbm.B', { plannedDbm: { A: -40 } }],
		['measuredDbm.A', { measuredDbm: { A: 'low', B: -40 } }],
		['observations.raining', { observations: { raining: 'hard' } }],
		['observations.luck', { observations: { luck: true } }],
		['firstSideLobeDb.A', { firstSideLobeDb: { A: -20, B: 20 } }]
	])('names %s when it is wrong', async (field, change) => {
		const answer = await ask(change);
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map((f) => f.field)).toContain(field);
	});
});

describe('results of tests in the record', () => {
	it('are kept as they are tapped, and only such as there are', async () => {
		const planner = await newCaller('planner');
		const hop = await newHop(planner);
		const post = (payload: object): ReturnType<typeof call> =>
			call(planner, 'POST', `/hops/${hop.id}/records`, {
				records: [record('A', 'test-result', payload)]
			});
		expect((await post({ test: 'rain', value: 'yes' })).status).toBe(200);
		expect((await post({ test: 'luck', value: 'yes' })).status).toBe(422);
		expect((await post({ test: 'rain', value: 'maybe' })).status).toBe(422);
		const kept = await call<{ records: { kind: string; id: string }[] }>(
			planner,
			'GET',
			`/hops/${hop.id}/records`
		);
		expect(kept.body.records.map((r) => r.kind)).toEqual(['test-result']);
	});
});
