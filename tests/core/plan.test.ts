import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { planHop } from '#core/budget/hopPlan';
import { feederLossDb } from '#core/feeder/loss';
import { makeSiteSheet } from '#core/sheet/siteSheet';
import { freeSpaceLossDb } from '#core/propagation/freeSpace';
import { gasAttenuation } from '#core/propagation/gas';
import { bandOfShortfall, shortfallBands } from '#core/diagnose/shortfallBands';
import { catalogue, hopInput, part, soundPlan } from './planFixture';

describe('link budget', () => {
	it('adds up by hand in both directions', () => {
		const input = hopInput({ additionalLossDb: 1.5 });
		const plan = soundPlan(input);
		for (const end of ['A', 'B'] as const) {
			const budget = plan.received[end];
			const sender = input.ends[end === 'A' ? 'B' : 'A'];
			const byHand =
				sender.alignmentPowerDbm -
				0.2 -
				0.2 +
				2 * (41.7 + 20 * Math.log10(sender.transmitFrequencyGhz / 25.5)) -
				freeSpaceLossDb(sender.transmitFrequencyGhz, plan.pathKm) -
				gasAttenuation(sender.transmitFrequencyGhz).totalDbKm * plan.pathKm -
				1.5;
			expect(budget.plannedLevelDbm).toBeCloseTo(byHand, 6);
			expect(budget.operatingLevelDbm - budget.plannedLevelDbm).toBeCloseTo(1, 9);
		}
	});

	it('of equal ends on equal frequencies is reciprocal', () => {
		fc.assert(
			fc.property(fc.double({ min: 0, max: 6, noNaN: true }), (loss) => {
				const plan = soundPlan(hopInput({ additionalLossDb: loss }));
				const shift = 20 * Math.log10(26.2 / 25.22);
				const gain = 2 * shift - shift;
				const gas =
					(gasAttenuation(26.2).totalDbKm - gasAttenuation(25.22).totalDbKm) * plan.pathKm;
				// B receives the higher frequency: more gain at both dishes, more space loss, other gases.
				expect(plan.received.B.plannedLevelDbm - plan.received.A.plannedLevelDbm).toBeCloseTo(
					gain - gas,
					6
				);
			})
		);
	});

	it('gives the level in volts of the receiving radio itself', () => {
		const plan = soundPlan(hopInput());
		const { plannedLevelDbm, plannedVolts, lowestAcceptedVolts, highestAcceptedVolts } =
			plan.received.A;
		// RU-26 falls from 1.85 V at −90 to 0.45 V at −20 dBm: 20 mV per dB.
		expect(plannedVolts).toBeCloseTo(0.45 + (-20 - plannedLevelDbm) * 0.02, 6);
		expect(highestAcceptedVolts - lowestAcceptedVolts).toBeCloseTo(4 * 0.02, 6);
		expect(plan.received.A.betterDirection).toBe('falling');
	});

	it('mirrored gives the mirrored plan', () => {
		const input = hopInput();
		const plan = soundPlan(input);
		const mirrored = soundPlan({ ...input, ends: { A: input.ends.B, B: input.ends.A } });
		expect(mirrored.pathKm).toBeCloseTo(plan.pathKm, 9);
		expect(mirrored.pointing.A.azimuthTrueDeg).toBeCloseTo(plan.pointing.B.azimuthTrueDeg, 9);
		expect(mirrored.received.B.plannedLevelDbm).toBeCloseTo(plan.received.A.plannedLevelDbm, 9);
	});

	it('counts a waveguide run by its length', () => {
		const guide = part(catalogue.feeders, 'WE-07');
		expect(feederLossDb(guide, 7.1, 40)).toBeCloseTo(0.4 * 4.8 + 0.3, 9);
		expect(feederLossDb(guide, 7.5, 0)).toBeCloseTo(0.3, 9);
		expect(feederLossDb(part(catalogue.feeders, 'FD-0'), 26, 99)).toBe(0.2);
	});
});

describe('what a plan says about itself', () => {
	const codes = (input: Parameters<typeof planHop>[0]): string[] => {
		const result = planHop(input);
		return (result.kind === 'plan' ? result.plan.findings : result.findings).map((f) => f.code);
	};

	it.each([
		['frequency-outside-radio', hopInput({}, { A: { transmitFrequencyGhz: 27.1 } })],
		['dish-band', hopInput({}, { B: { dish: part(catalogue.dishes, 'DP-060-38') } })],
		[
			'receive-frequency-outside-radio',
			hopInput(
				{},
				{
					B: { radio: part(catalogue.radios, 'RU-38'), transmitFrequencyGhz: 38.7 }
				}
			)
		],
		['feeder-band', hopInput({}, { A: { feeder: part(catalogue.feeders, 'WE-07') } })],
		['channel-width', hopInput({ channelWidthMhz: 250 })],
		['power-outside-radio', hopInput({}, { A: { alignmentPowerDbm: 40 } })],
		['modulation-unknown', hopInput({ operatingModulation: '9 QAM' })],
		['polarization-differs', hopInput({}, { B: { polarization: 'horizontal' } })],
		['duplex-overlap', hopInput({}, { B: { transmitFrequencyGhz: 26.19 } })],
		['duplex-spacing', hopInput({}, { B: { transmitFrequencyGhz: 25.3 } })],
		[
			'path-too-short',
			hopInput({}, { B: { position: { latitudeDeg: -46.20001, longitudeDeg: -118.4 } } })
		],
		[
			'path-too-long',
			hopInput({}, { B: { position: { latitudeDeg: -40, longitudeDeg: -118.4 } } })
		],
		['magnetic-model-outdated', hopInput({ workDate: new Date('2031-01-01T00:00:00Z') })]
	])('finds %s', (code, input) => {
		expect(codes(input)).toContain(code);
	});

	it('is silent about a sound plan', () => {
		expect(codes(hopInput())).toEqual([]);
	});

	it('finds the drowned receiver, names the power, and forbids pointing off', () => {
		const near = hopInput({}, { B: { position: { latitudeDeg: -46.2018, longitudeDeg: -118.4 } } });
		const result = planHop(near);
		expect(result.kind).toBe('plan');
		if (result.kind !== 'plan') return;
		const finding = result.plan.findings.find((f) => f.code.startsWith('receiver-'))!;
		expect(finding.severity).toBe('error');
		expect(finding.message).toContain('Do not point off');
		const { overload } = result.plan.received.A;
		expect(overload.kind).not.toBe('fine');
		if (overload.kind === 'fine' || overload.powerToSetDbm === null) return;
		const power = overload.powerToSetDbm;
		const mended = planHop({
			...near,
			ends: {
				A: { ...near.ends.A, alignmentPowerDbm: power },
				B: { ...near.ends.B, alignmentPowerDbm: power }
			}
		});
		expect(mended.kind === 'plan' && mended.plan.received.A.overload.kind).toBe('fine');
	});
});

describe('shortfall well', () => {
	const bands = shortfallBands({
		toleranceDb: 2,
		ownFirstSideLobeDb: 20,
		farFirstSideLobeDb: 20,
		crossPolarDiscriminationDb: 30,
		aboveFloorDb: 49
	});

	it('has bands from the plan to the floor without gaps', () => {
		expect(bands[0]).toMatchObject({ meaning: 'on-plan', fromDb: -2 });
		bands.slice(1).forEach((band, i) => expect(band.fromDb).toBe(bands[i]!.toDb));
		expect(bands.at(-1)!.meaning).toBe('below-floor');
	});

	it.each([
		[-3, 'above-plan'],
		[0, 'on-plan'],
		[6, 'shoulder'],
		[14, 'flank-or-lobe'],
		[20, 'side-lobe-one-end'],
		[25, 'further-lobe'],
		[32, 'both-ends-or-crossed'],
		[60, 'below-floor']
	])('%d dB below plan is %s', (shortfall, meaning) => {
		expect(bandOfShortfall(bands, shortfall)).toBe(meaning);
	});

	it('never promises a lobe below the floor', () => {
		const shallow = shortfallBands({
			toleranceDb: 2,
			ownFirstSideLobeDb: 20,
			farFirstSideLobeDb: 20,
			crossPolarDiscriminationDb: 30,
			aboveFloorDb: 14
		});
		expect(shallow.every((band) => band.meaning !== 'both-ends-or-crossed')).toBe(true);
		expect(bandOfShortfall(shallow, 16)).toBe('below-floor');
	});
});

it('a site sheet holds what the crew needs, from its own end', () => {
	const input = hopInput({}, { A: { landmark: 'The white gable' } });
	const sheet = makeSiteSheet(input, soundPlan(input), 'A', 3);
	const text = JSON.stringify(sheet);
	for (const needed of [
		'116.86°',
		'89.8°',
		'−0.34°',
		'The white gable',
		'FEWER volts',
		'24 N·m',
		'vertical',
		'26.200 / 25.220 GHz',
		'Plug the meter'
	]) {
		expect(text).toContain(needed);
	}
	expect(sheet.cautions.length).toBeGreaterThan(2);
	expect(sheet.portTable.map((row) => row.shortDb)).toEqual([0, 3, 10, 20, 30, 40]);
	// What crossed means is one figure on the whole sheet.
	const crossed = sheet.portTable.find((row) => row.meaning.startsWith('crossed'))!;
	expect(crossed.levelDbm).toBeCloseTo(soundPlan(input).received.A.crossedDbm, 9);
});
