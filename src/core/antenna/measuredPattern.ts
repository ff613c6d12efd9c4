import { itemAt } from '../units/lists';

/** One cut of a measured pattern: relative gain in dB (0 at the peak of the co-polar cut) by angle. */
export interface PatternCut {
	plane: 'azimuth' | 'elevation';
	/** First letter: polarization of the antenna's port; second: of the source. HH and VV are co-polar. */
	polarization: 'HH' | 'HV' | 'VH' | 'VV';
	/** Degrees from the axis, −180 to 180, rising. */
	anglesDeg: readonly number[];
	relativeDb: readonly number[];
}

/** A measured antenna pattern as it came in. */
export interface MeasuredPattern {
	antennaModel: string;
	patternNumber: string;
	fromGhz: number;
	toGhz: number;
	/** Gain in the middle of the band, dBi. */
	gainDbi: number;
	cuts: readonly PatternCut[];
}

export type PatternResult =
	| { kind: 'pattern'; pattern: MeasuredPattern }
	| { kind: 'problem'; line: number; message: string };

/** Isotropic against half-wave dipole, dB: gains given in dBd. */
const DIPOLE_DBI = 2.15;
const MOST_POINTS = 20_000;

interface Reader {
	lines: readonly string[];
	at: number;
}

class PatternProblem extends Error {
	constructor(
		readonly line: number,
		message: string
	) {
		super(message);
	}
}

/**
 * Reads an antenna pattern in the open text exchange format WG16.99.050: lines `NAME:,value`, a
 * header, then for each cut its plane, polarization, number of points and the points as
 * `angle,magnitude,phase`.
 *
 * A file that does not hold together comes back as a problem with its line, counted from 1.
 *
 * @throws PatternProblem with the line that is wrong
 * Source: recommendation WG16.99.050 of the National Spectrum Managers Association.
 */
export function readMeasuredPattern(text: string): PatternResult {
	const reader: Reader = { lines: text.replace(/^\uFEFF/, '').split(/\r\n|\r|\n/), at: 0 };
	try {
		return { kind: 'pattern', pattern: readAll(reader) };
	} catch (error) {
		if (error instanceof PatternProblem)
			return { kind: 'problem', line: error.line, message: error.message };
		throw error;
	}
}

function readAll(reader: Reader): MeasuredPattern {
	const head = new Map<string, string>();
	const cuts: PatternCut[] = [];
	let plane: PatternCut['plane'] = 'azimuth';
	let polarization: PatternCut['polarization'] | undefined;
	for (; reader.at < reader.lines.length; reader.at++) {
		const line = itemAt(reader.lines, reader.at).trim();
		if (line === '') continue;
		const match = /^([A-Z0-9]{5,6}):,?(.*)$/i.exec(line);
		if (!match)
			throw problem(reader, `“${line.slice(0, 40)}” is neither a field nor a point of a cut.`);
		const name = itemAt(match, 1).toUpperCase();
		const value = itemAt(match, 2).trim();
		if (reader.at === 0 || (head.size === 0 && name === 'REVNUM')) {
			if (!/WG16\.99\.050/i.test(value))
				throw problem(reader, 'The file does not say REVNUM:,NSMA WG16.99.050.');
		}
		if (name === 'PATCUT') plane = /^E|VERT/i.test(value) ? 'elevation' : 'azimuth';
		else if (name === 'POLARI') polarization = polarizationOf(reader, value);
		else if (name === 'NUPOIN') {
			if (!polarization) throw problem(reader, 'A cut has no POLARI before its points.');
			cuts.push({ plane, polarization, ...readPoints(reader, value) });
			polarization = undefined;
		} else if (name === 'ENDFIL') break;
		else if (!head.has(name)) head.set(name, itemAt(value.split(','), 0).trim());
	}
	if (!head.has('REVNUM'))
		throw new PatternProblem(1, 'The file does not say REVNUM:,NSMA WG16.99.050.');
	if (cuts.length === 0) throw problem(reader, 'The file holds no cut.');
	const number = (name: string, otherwise?: number): number => {
		const parsed = Number(head.get(name));
		if (head.get(name) && Number.isFinite(parsed)) return parsed;
		if (otherwise !== undefined) return otherwise;
		throw new PatternProblem(1, `The field ${name} is missing or no number.`);
	};
	// `DBI/DBR`: the gain in dBi, the points relative to the peak.
	const dipole = /^DBD/i.test(head.get('GUNITS') ?? '') ? DIPOLE_DBI : 0;
	const fromMhz = number('LOWFRQ');
	const toMhz = number('HGHFRQ');
	if (!(fromMhz > 0 && toMhz >= fromMhz))
		throw new PatternProblem(1, 'LOWFRQ and HGHFRQ are no band.');
	return {
		antennaModel: head.get('MODNUM') ?? '',
		patternNumber: head.get('PATNUM') ?? '',
		fromGhz: fromMhz / 1000,
		toGhz: toMhz / 1000,
		gainDbi: number('MDGAIN') + dipole,
		cuts: onePeak(cuts)
	};
}

function problem(reader: Reader, message: string): PatternProblem {
	return new PatternProblem(Math.min(reader.at + 1, reader.lines.length), message);
}

function polarizationOf(reader: Reader, value: string): PatternCut['polarization'] {
	const code = /\b(HH|HV|VH|VV)\b/i.exec(value)?.[1]?.toUpperCase();
	if (!code)
		throw problem(reader, `The polarization “${value.slice(0, 20)}” is none of HH, HV, VH, VV.`);
	return code as PatternCut['polarization'];
}

function readPoints(reader: Reader, value: string): Pick<PatternCut, 'anglesDeg' | 'relativeDb'> {
	const count = Number(value.split(',')[0]);
	if (!Number.isInteger(count) || count < 3 || count > MOST_POINTS) {
		throw problem(reader, `The number of points must be 3 to ${MOST_POINTS}.`);
	}
	const points: [number, number][] = [];
	while (points.length < count) {
		reader.at += 1;
		const line = reader.lines[reader.at]?.trim();
		if (line === undefined)
			throw problem(reader, `The file ends after ${points.length} of ${count} points.`);
		if (line === '' || /^FSTLST:/i.test(line)) continue;
		const [angle, level] = line
			.split(',')
			.map((cell) => (cell.trim() === '' ? Number.NaN : Number(cell)));
		if (angle === undefined || level === undefined || !Number.isFinite(angle + level)) {
			throw problem(
				reader,
				`“${line.slice(0, 40)}” is no point; ${points.length} of ${count} were read.`
			);
		}
		points.push([angle > 180 ? angle - 360 : angle, level]);
	}
	points.sort((p, q) => p[0] - q[0]);
	return { anglesDeg: points.map(([a]) => a), relativeDb: points.map(([, l]) => l) };
}

/** Relative to the highest co-polar value of the file, which is the axis. */
function onePeak(cuts: readonly PatternCut[]): PatternCut[] {
	const co = cuts.filter((cut) => isCoPolar(cut));
	const peak = Math.max(...(co.length ? co : cuts).flatMap((cut) => [...cut.relativeDb]));
	return cuts.map((cut) => ({ ...cut, relativeDb: cut.relativeDb.map((db) => db - peak) }));
}

/** Whether a cut is of the polarization that was sent. */
export function isCoPolar(cut: Pick<PatternCut, 'polarization'>): boolean {
	return cut.polarization === 'HH' || cut.polarization === 'VV';
}

export interface PatternFigures {
	gainDbi: number;
	beamwidthDeg: number;
	/** Depth of the higher first side lobe, dB below the peak; null where none stands out. */
	firstSideLobeDb: number | null;
	/** Discrimination on the axis, dB; null without a cross-polar cut. */
	crossPolarDiscriminationDb: number | null;
}

/**
 * What a plan takes from a measured pattern: width between the 3 dB points and first side lobes of
 * its co-polar azimuth cut, and discrimination on the axis.
 *
 * @returns undefined when the file has no co-polar cut over its own main lobe
 */
export function patternFigures(
	pattern: MeasuredPattern,
	polarization: 'vertical' | 'horizontal'
): PatternFigures | undefined {
	const own = polarization === 'vertical' ? 'VV' : 'HH';
	const find = (codes: readonly string[]): PatternCut | undefined =>
		pattern.cuts.find((cut) => codes.includes(cut.polarization) && cut.plane === 'azimuth') ??
		pattern.cuts.find((cut) => codes.includes(cut.polarization));
	const co = find([own]) ?? find(['HH', 'VV']);
	if (!co) return undefined;
	const top = co.relativeDb.reduce(
		(best, db, i) => (db > itemAt(co.relativeDb, best) ? i : best),
		0
	);
	const left = crossing(co, top, -1);
	const right = crossing(co, top, 1);
	if (left === undefined || right === undefined) return undefined;
	const lobes = [sideLobe(co, top, -1), sideLobe(co, top, 1)].filter((db) => db !== undefined);
	const cross = find(own === 'VV' ? ['HV', 'VH'] : ['VH', 'HV']);
	return {
		gainDbi: pattern.gainDbi,
		beamwidthDeg: right - left,
		firstSideLobeDb: lobes.length ? itemAt(co.relativeDb, top) - Math.max(...lobes) : null,
		crossPolarDiscriminationDb: cross
			? itemAt(co.relativeDb, top) - levelAt(cross, itemAt(co.anglesDeg, top))
			: null
	};
}

function crossing(cut: PatternCut, top: number, step: 1 | -1): number | undefined {
	const level = itemAt(cut.relativeDb, top) - 3;
	for (let i = top; i + step >= 0 && i + step < cut.relativeDb.length; i += step) {
		const [here, next] = [itemAt(cut.relativeDb, i), itemAt(cut.relativeDb, i + step)];
		if (next <= level) {
			const share = (here - level) / (here - next);
			return (
				itemAt(cut.anglesDeg, i) +
				share * (itemAt(cut.anglesDeg, i + step) - itemAt(cut.anglesDeg, i))
			);
		}
	}
	return undefined;
}

/** Level of the first hump beyond the first dip, on one side. */
function sideLobe(cut: PatternCut, top: number, step: 1 | -1): number | undefined {
	let i = top;
	// Beyond the last point no comparison holds.
	const at = (k: number): number => cut.relativeDb[k] ?? Number.NaN;
	while (at(i + step) <= at(i)) i += step;
	while (at(i + step) >= at(i)) i += step;
	return Number.isNaN(at(i + step)) || i === top ? undefined : at(i);
}

/**
 * Relative gain at an angle, dB, linear between points.
 *
 * @param angleDeg −180 to 180
 */
export function levelAt(cut: PatternCut, angleDeg: number): number {
	const { anglesDeg, relativeDb } = cut;
	const upper = anglesDeg.findIndex((angle) => angle >= angleDeg);
	if (upper <= 0) return itemAt(relativeDb, upper === 0 ? 0 : relativeDb.length - 1);
	const [a0, a1] = [itemAt(anglesDeg, upper - 1), itemAt(anglesDeg, upper)];
	const share = a1 === a0 ? 0 : (angleDeg - a0) / (a1 - a0);
	return (
		itemAt(relativeDb, upper - 1) +
		share * (itemAt(relativeDb, upper) - itemAt(relativeDb, upper - 1))
	);
}

/** A pattern in the same text format. Reading it back gives the same pattern. */
export function writeMeasuredPattern(pattern: MeasuredPattern): string {
	const lines = [
		'REVNUM:,NSMA WG16.99.050',
		`MODNUM:,${pattern.antennaModel}`,
		`PATNUM:,${pattern.patternNumber}`,
		`LOWFRQ:,${pattern.fromGhz * 1000}`,
		`HGHFRQ:,${pattern.toGhz * 1000}`,
		'GUNITS:,DBI/DBR',
		`MDGAIN:,${pattern.gainDbi}`,
		`NUMCUT:,${pattern.cuts.length}`
	];
	for (const cut of pattern.cuts) {
		lines.push(
			`PATCUT:,${cut.plane === 'azimuth' ? 'AZ' : 'EL'}`,
			`POLARI:,${cut.polarization}`,
			`NUPOIN:,${cut.anglesDeg.length}`,
			`FSTLST:,${cut.anglesDeg[0]},${cut.anglesDeg[cut.anglesDeg.length - 1]}`,
			...cut.anglesDeg.map((angle, i) => `${angle},${cut.relativeDb[i]},`)
		);
	}
	return `${lines.join('\n')}\nENDFIL:,EOF\n`;
}
