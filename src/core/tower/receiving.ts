import { ENDS, farEnd, type End } from '../ends';
import { parseSubBandUnit } from '../frequency/subBand';
import type { HopState } from '../record/hopState';
import type { PackingLine } from '../record/records';
import { numberText } from '../units/text';
import { buildSteps } from './buildSteps';
import { partsToLabel, type LabelledPart } from './labels';
import { partsList } from './partsList';
import { toolLines } from './tools';

export interface ReceivedLine extends PackingLine {
	found: number | null;
	condition: 'good' | 'damaged' | 'wrong';
	note: string;
	photoIds: readonly string[];
	verdict: 'open' | 'good' | 'short' | 'surplus' | 'damaged' | 'wrong';
	reason: string;
}

/** The list that holds at an end: the latest one taken in, else parts and tools of the plan. */
export function packingListOf({ input, plan, ends }: HopState, end: End): PackingLine[] {
	const { packingList } = ends[end].building;
	if (packingList) return [...packingList];
	return [...partsList(input, end), ...toolLines(input, end, buildSteps(input, plan, end))].map(
		({ code, name, count, unit }) => ({ code, name, count, unit })
	);
}

/** Every line of the list with what was found, the latest count of each; surplus goods at the end. */
export function judgeReceived(state: HopState, end: End): ReceivedLine[] {
	const list = packingListOf(state, end);
	const latest = new Map(Object.entries(state.ends[end].building.received));
	const lines = list.map((line): ReceivedLine => {
		const counted = latest.get(line.code);
		latest.delete(line.code);
		if (!counted) {
			return {
				...line,
				found: null,
				condition: 'good',
				note: '',
				photoIds: [],
				verdict: 'open',
				reason: 'Not counted yet.'
			};
		}
		const { found, condition, note, photoIds } = counted;
		return { ...line, found, condition, note, photoIds, ...lineVerdict(line, found, condition) };
	});
	const unlisted = [...latest.values()].map(
		({ code, name, found, condition, note, photoIds }): ReceivedLine => ({
			code,
			name,
			count: 0,
			unit: 'piece',
			found,
			condition,
			note,
			photoIds,
			verdict: 'surplus',
			reason: `${found} found, not on the list.`
		})
	);
	return [...lines, ...unlisted];
}

function lineVerdict(
	line: PackingLine,
	found: number,
	condition: ReceivedLine['condition']
): Pick<ReceivedLine, 'verdict' | 'reason'> {
	if (condition === 'wrong') return { verdict: 'wrong', reason: 'Not what the list names.' };
	if (found < line.count) {
		return {
			verdict: 'short',
			reason: `${numberText(line.count - found, 0)} ${line.unit} short of ${line.count}.`
		};
	}
	if (condition === 'damaged') return { verdict: 'damaged', reason: 'Damaged.' };
	if (found > line.count) {
		return { verdict: 'surplus', reason: `${numberText(found - line.count, 0)} more than listed.` };
	}
	return { verdict: 'good', reason: 'As listed.' };
}

export interface LabelState {
	expected: LabelledPart;
	label: {
		bandFromGhz: number;
		bandToGhz: number;
		subBandUnit: string;
		flange: string;
		serial: string;
	} | null;
	verdict: 'open' | 'good' | 'wrong';
	problems: string[];
}

/** Every label read at an end against the plan and against the far end. */
export function judgeLabels(state: HopState, end: End): LabelState[] {
	const labels = latestLabels(state);
	return partsToLabel(state.input, end).map((expected): LabelState => {
		const label = labels.get(`${end}/${expected.part}`) ?? null;
		if (!label) return { expected, label, verdict: 'open', problems: [] };
		const problems = [
			...bandProblems(expected, label),
			...unitProblems(expected, label, labels.get(`${farEnd(end)}/${expected.part}`), end),
			...flangeProblems(expected, label),
			...serialProblems(labels, `${end}/${expected.part}`, label.serial)
		];
		return { expected, label, verdict: problems.length ? 'wrong' : 'good', problems };
	});
}

type Label = NonNullable<LabelState['label']>;

function latestLabels({ ends }: HopState): Map<string, Label> {
	return new Map(
		ENDS.flatMap((end) =>
			Object.entries(ends[end].building.labels).map(([part, label]): [string, Label] => [
				`${end}/${part}`,
				label
			])
		)
	);
}

function bandProblems(expected: LabelledPart, label: Label): string[] {
	const outside = expected.frequenciesGhz.filter(
		(frequency) => frequency < label.bandFromGhz || frequency > label.bandToGhz
	);
	return outside.length
		? [
				`Its label says ${numberText(label.bandFromGhz, 2)} to ${numberText(label.bandToGhz, 2)} GHz; the plan needs ${outside.map((f) => numberText(f, 3)).join(' and ')} GHz. A part for another band can look alike and fit.`
			]
		: [];
}

function unitProblems(
	expected: LabelledPart,
	label: Label,
	far: Label | undefined,
	end: End
): string[] {
	if (!expected.part.startsWith('radio')) return [];
	const said = label.subBandUnit.trim().toUpperCase();
	if (expected.subBandUnit && said !== expected.subBandUnit.toUpperCase()) {
		const swapped = parseSubBandUnit(said)?.index === parseSubBandUnit(expected.subBandUnit)?.index;
		return [
			`Unit ${said || '(none)'} instead of ${expected.subBandUnit}${swapped ? `: the two ends' units are swapped, this one belongs to ${farEnd(end)}` : ''}.`
		];
	}
	const [own, other] = [parseSubBandUnit(said), far && parseSubBandUnit(far.subBandUnit)];
	if (far && own && other && (own.index !== other.index || own.side === other.side)) {
		return [
			`Unit ${said} here and ${far.subBandUnit.toUpperCase()} at ${farEnd(end)} are no pair: one low and one high of the same number.`
		];
	}
	return [];
}

function flangeProblems(expected: LabelledPart, label: Label): string[] {
	return expected.flange && label.flange !== expected.flange
		? [`Flange "${label.flange}"; the catalogue's part has "${expected.flange}".`]
		: [];
}

function serialProblems(labels: ReadonlyMap<string, Label>, own: string, serial: string): string[] {
	const twin = [...labels].find(([key, label]) => key !== own && label.serial === serial);
	return twin
		? [`Serial ${serial} was read on another part too (${twin[0].replace('/', ', ')}).`]
		: [];
}

/** One line of a discrepancy report. */
export interface Discrepancy {
	end: End;
	code: string;
	name: string;
	listed: number | null;
	found: number | null;
	kind: 'short' | 'surplus' | 'damaged' | 'wrong' | 'label';
	text: string;
	note: string;
	photoIds: readonly string[];
}

/** Everything that came differently than it was listed or planned, of both ends. */
export function discrepancies(state: HopState): Discrepancy[] {
	return ENDS.flatMap((end) => [
		...judgeReceived(state, end).flatMap((line): Discrepancy[] =>
			line.verdict === 'good' || line.verdict === 'open'
				? []
				: [
						{
							end,
							code: line.code,
							name: line.name,
							listed: line.count,
							found: line.found,
							kind: line.verdict,
							text: line.reason,
							note: line.note,
							photoIds: line.photoIds
						}
					]
		),
		...judgeLabels(state, end).flatMap(({ expected, problems }) =>
			problems.map((text): Discrepancy => ({
				end,
				code: expected.code,
				name: expected.name,
				listed: null,
				found: null,
				kind: 'label',
				text,
				note: '',
				photoIds: []
			}))
		)
	]);
}
