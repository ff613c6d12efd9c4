import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';
import type { LocatorReading } from '../locate/locator';
import { makeLevelCurve } from '../radio/levelCurve';
import type { FieldRecord, RecordKind } from '../record/records';
import { adjusterAngleDeg } from '../sweep/adjusterScale';

/** What one end has read since the far end last moved, and where its dish stands now. */
export interface EndReadings {
	readings: LocatorReading[];
	azimuthDeg: number;
	tiltDeg: number;
}

/** Records of the far end, or of what lies between, after which earlier levels compare no longer. */
const ENDS_COMPARISON: ReadonlySet<RecordKind> = new Set([
	'move',
	'sweep',
	'mount-turn',
	'lock-step'
]);

/**
 * The readings of an end that still say something about its own boresight: those since the far end
 * last moved, from sweeps and single readings alike, each at the place where the dish then stood. A
 * turn of the whole mount or a new scale of an adjuster begins a new frame, and a remedied fault or a
 * movement nobody recorded (`sinceSeq`) a new level.
 */
export function endReadings(
	input: HopPlanInput,
	records: readonly FieldRecord[],
	end: End,
	sinceSeq = 0
): EndReadings {
	const { mount, radio } = input.ends[end];
	const curve = makeLevelCurve(radio.levelPort.curve);
	let readings: LocatorReading[] = [];
	const place = { azimuthDeg: 0, tiltDeg: 0 };
	for (const record of records) {
		if (record.seq === sinceSeq || record.kind === 'remedy') readings = [];
		if (record.end !== end) {
			if (ENDS_COMPARISON.has(record.kind)) readings = [];
			continue;
		}
		if (record.kind === 'mount-turn') {
			place.azimuthDeg = 0;
			readings = [];
		} else if (record.kind === 'calibration') readings = [];
		if (record.kind === 'move') {
			const { axis, toTurns } = record.payload;
			place[axis === 'azimuth' ? 'azimuthDeg' : 'tiltDeg'] = adjusterAngleDeg(mount[axis], toTurns);
		} else if (record.kind === 'sweep') {
			const { axis, otherAxisDeg, samples } = record.payload;
			for (const { positionDeg, levelV } of samples) {
				const read = curve.read(levelV);
				if (read.kind === 'implausible') continue;
				readings.push(
					axis === 'azimuth'
						? { azimuthDeg: positionDeg, tiltDeg: otherAxisDeg, levelDbm: read.levelDbm }
						: { azimuthDeg: otherAxisDeg, tiltDeg: positionDeg, levelDbm: read.levelDbm }
				);
			}
		} else if (record.kind === 'reading') {
			const { levelDbm, purpose } = record.payload;
			// Readings of a sweep come again in the sweep itself.
			if (levelDbm !== null && purpose !== 'sweep') readings.push({ ...place, levelDbm });
		}
	}
	return { readings, ...place };
}
