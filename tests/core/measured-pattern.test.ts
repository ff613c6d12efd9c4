import { describe, expect, it } from 'vitest';
import {
	patternFigures,
	readMeasuredPattern,
	writeMeasuredPattern,
	type MeasuredPattern
} from '#core/antenna/measuredPattern';
import { relativeGainDb } from '#core/antenna/taperedAperture';
import { withPattern } from '#core/catalogue/withPattern';
import { catalogue, hopInput, part, soundPlan } from './planFixture';

const angles = Array.from({ length: 401 }, (_, i) => Number((-10 + i * 0.05).toFixed(2)));

/** A dish of known beamwidth and lobes, made-up. */
function made(beamwidthDeg: number): MeasuredPattern {
	return {
		antennaModel: 'Test dish 600',
		patternNumber: 'P-7',
		fromGhz: 24.25,
		toGhz: 26.5,
		gainDbi: 41.2,
		cuts: [
			{
				plane: 'azimuth',
				polarization: 'VV',
				anglesDeg: angles,
				relativeDb: angles.map((a) => Number(relativeGainDb(a / beamwidthDeg).toFixed(3)))
			},
			{
				plane: 'azimuth',
				polarization: 'VH',
				anglesDeg: angles,
				relativeDb: angles.map((a) => (a === 0 ? -33 : -30))
			}
		]
	};
}

describe('a measured pattern', () => {
	it('comes back as it went out', () => {
		const pattern = made(1.3);
		const back = readMeasuredPattern(writeMeasuredPattern(pattern));
		expect(back).toEqual({ kind: 'pattern', pattern });
	});

	it('gives width, side lobe and discrimination as they were made', () => {
		const figures = patternFigures(made(1.3), 'vertical')!;
		expect(figures.beamwidthDeg).toBeCloseTo(1.3, 2);
		// Origin: the tapered aperture with pedestal 0.28 has its first side lobe 22.4 dB down.
		expect(figures.firstSideLobeDb).toBeCloseTo(
			-Math.max(
				...angles.filter((a) => a / 1.3 > 1.25 && a / 1.3 < 2.1).map((a) => relativeGainDb(a / 1.3))
			),
			1
		);
		expect(figures.crossPolarDiscriminationDb).toBeCloseTo(33, 6);
	});

	it('is read with angles to 360, comments, blank lines and gain over a dipole', () => {
		const text = [
			'REVNUM:,NSMA WG16.99.050',
			'REVDAT:,19990520',
			'COMNT1:,made up',
			'MODNUM:,X',
			'LOWFRQ:,24250',
			'HGHFRQ:,26500',
			'GUNITS:,DBD',
			'MDGAIN:,39',
			'NUMCUT:,1',
			'PATCUT:,AZ',
			'POLARI:,HH',
			'NUPOIN:,5',
			'FSTLST:,0,359',
			'0,-1,',
			'1,-5,',
			'',
			'2,-20,',
			'359,-5,',
			'358,-20,',
			'ENDFIL:,EOF'
		];
		const result = readMeasuredPattern(text.join('\r\n'));
		if (result.kind !== 'pattern') throw new Error(result.message);
		expect(result.pattern.gainDbi).toBeCloseTo(41.15, 6);
		expect(result.pattern.cuts[0]!.anglesDeg).toEqual([-2, -1, 0, 1, 2]);
		expect(result.pattern.cuts[0]!.relativeDb).toEqual([-19, -4, 0, -4, -19]);
	});

	const lines = writeMeasuredPattern(made(1)).split('\n');
	const change = (at: number, text: string): string =>
		lines.map((line, i) => (i === at ? text : line)).join('\n');
	it.each([
		['nothing', '', 1, 'WG16.99.050'],
		['another format', 'REVNUM:,SOMETHING 1\n', 1, 'WG16.99.050'],
		['no header', lines.slice(1).join('\n'), 1, 'WG16.99.050'],
		['letters for a level', change(14, '-9.9,abc,'), 15, 'is no point'],
		['an end too early', lines.slice(0, 40).join('\n'), 40, 'ends after'],
		['no polarization', change(9, 'POLARI:,QQ'), 10, 'none of'],
		['no gain', change(6, 'MDGAIN:,'), 1, 'MDGAIN'],
		['a band upside down', change(3, 'LOWFRQ:,99000'), 1, 'no band'],
		['a million points', change(10, 'NUPOIN:,1000000'), 11, 'number of points']
	])('with %s names the line', (_, text, line, message) => {
		const result = readMeasuredPattern(text);
		expect(result.kind).toBe('problem');
		if (result.kind === 'problem') {
			expect(result.line).toBe(line);
			expect(result.message).toContain(message);
		}
	});

	it('stands in the plan in place of the catalogue', () => {
		const dish = withPattern(part(catalogue.dishes, 'DP-060-26'), made(1.1), 'vertical');
		const plan = soundPlan(hopInput({}, { A: { dish } }));
		expect(plan.dish.A.beamwidthDeg).toBeCloseTo((1.1 * 25.375) / 25.22, 2);
		expect(plan.received.A.receiveGainDbi).toBeCloseTo(41.2 + 20 * Math.log10(25.22 / 25.375), 6);
		expect(plan.dish.B.beamwidthDeg).toBeGreaterThan(1.2);
	});
});
