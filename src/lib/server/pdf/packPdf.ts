import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { VISIT_PURPOSE_WORDS } from '#core/record/kinds';
import { originWords, provenanceWords } from '#core/provenance/provenance';
import { expectedText } from '#core/tower/quantity';
import { mendedFaults, mountedParts } from '#core/accept/asMounted';
import type { HopPlan } from '#core/budget/hopPlan';
import { throughSecondDish } from '#core/budget/configuration';
import { inventoryOf } from '#core/budget/inventory';
import type { HopPlanInput } from '#core/budget/planInput';
import { ENDS, type End, type PerEnd } from '#core/ends';
import { currentLockSteps, hopsAt, type HopState } from '#core/record/hopState';
import { bearingText, numberText } from '#core/units/text';
import type { UnitSystem } from '#core/units/systems';
import type { Pack } from './pack';
import { END_COLOURS, heading, INK, titled, madePdf, QUIET } from './common';

const VERDICT_WORDS = { pass: 'holds', deviation: 'deviates', missing: 'missing' } as const;
const STATE_WORDS = {
	done: 'done',
	trouble: 'off',
	skipped: 'left out',
	open: 'open',
	blocked: 'open'
} as const;

/** The acceptance pack as a PDF for A4 paper. */
export function packPdf(pack: Pack, system: UnitSystem): Promise<Buffer> {
	return madePdf(packDefinition(pack), system);
}

/** Of a simulated hop every page says so, large and at its foot: none can pass for a real one. */
const PRACTICE_MARK: Pick<TDocumentDefinitions, 'watermark'> = {
	watermark: { text: 'Practice, not a real hop', color: INK, opacity: 0.12, bold: true }
};

const day = (iso: string): string => iso.slice(0, 16).replace('T', ' ');

/** What every page says at its foot before anything else. */
function marksOf({ hop, acceptance }: Pack): string {
	const origin = acceptance ? originWords(acceptance.origin) : '';
	return `${hop.practice ? 'PRACTICE. ' : ''}${origin ? `${origin}. ` : ''}`;
}

/** Where the hop came from, below its head; nothing where it was made here. */
function originOfPack({ hop, acceptance }: Pack): Content[] {
	if (!hop.provenance) return [];
	const words = [
		acceptance ? originWords(acceptance.origin) : '',
		provenanceWords(hop.provenance, day)
	];
	return [{ text: words.filter(Boolean).join('. '), bold: true, margin: [0, 4, 0, 0] }];
}

/** The document as data; exported so that a test can read what will be printed. */
export function packDefinition(pack: Pack): TDocumentDefinitions {
	const { hop, revision, acceptance } = pack;
	return {
		pageSize: 'A4',
		pageMargins: [34, 34, 34, 44],
		info: { title: `Acceptance pack, ${hop.name}, revision ${revision.number}` },
		defaultStyle: { font: 'Sans', fontSize: 9, color: INK, lineHeight: 1.12 },
		...(hop.practice ? PRACTICE_MARK : {}),
		footer: (page, pages) => ({
			margin: [34, 10, 34, 0],
			columns: [
				{
					text: `${marksOf(pack)}${hop.name}, plan revision ${revision.number}, ${acceptance ? `signed ${day(acceptance.signedAt)} UTC` : 'not signed'}`,
					color: QUIET,
					fontSize: 8
				},
				{ text: `${page} / ${pages}`, alignment: 'right', color: QUIET, fontSize: 8, width: 40 }
			]
		}),
		content: [
			{ text: hop.name, fontSize: 22, bold: true },
			{
				text: `${hop.sites.A.name} (A) to ${hop.sites.B.name} (B), ${numberText(revision.plan.pathKm, 2)} km, ${numberText(revision.input.ends.A.transmitFrequencyGhz, 3)} / ${numberText(revision.input.ends.B.transmitFrequencyGhz, 3)} GHz, plan revision ${revision.number}`,
				color: QUIET,
				margin: [0, 2, 0, 0]
			},
			{
				text: acceptance
					? 'Accepted and signed'
					: pack.judgement.complete
						? 'Ready to be signed'
						: 'Not complete yet',
				fontSize: 13,
				bold: true,
				margin: [0, 8, 0, 0]
			},
			...originOfPack(pack),
			...judgementTable(pack),
			...planTable(pack),
			...fixingTable(pack),
			...partsTable(pack),
			...faultsTable(pack),
			...snagTable(pack),
			...discrepancyTable(pack),
			...visitTable(pack),
			...ENDS.flatMap((end) => buildingTable(pack, end)),
			...photoPages(pack),
			signatures(pack)
		]
	};
}

const cell = (text: string, more: object = {}): TableCell => ({ text, ...more });
const head = (...texts: string[]): TableCell[] => texts.map((text) => cell(text, { color: QUIET }));
const mono = (text: string): TableCell => cell(text, { font: 'Mono', fontSize: 8 });

function table(
	title: string,
	widths: (string | number)[],
	[top, ...rows]: [TableCell[], ...TableCell[][]]
): Content[] {
	return rows.length === 0 ? [] : [titled(title, INK, widths, rows, top)];
}

function judgementTable({ judgement, acceptance }: Pack): Content[] {
	return table(
		'Planned against measured',
		[14, 118, 92, 92, 44, '*'],
		[
			head('', 'Item', 'Planned', 'Measured', 'Verdict', 'Reason, cause'),
			...judgement.lines.map((line) => [
				cell(line.end, { bold: true, color: END_COLOURS[line.end] }),
				cell(line.label),
				mono(line.planned),
				mono(line.measured),
				cell(VERDICT_WORDS[line.verdict], { bold: line.verdict !== 'pass' }),
				cell(
					[
						line.reason,
						acceptance?.causes[line.code] ? `Cause: ${acceptance.causes[line.code]}` : ''
					]
						.filter(Boolean)
						.join(' ')
				)
			])
		]
	);
}

function planTable({ revision, state }: Pack): Content[] {
	const { input, plan } = revision;
	return table(
		'The plan',
		[140, '*', '*'],
		[
			head('', 'A', 'B'),
			ofBoth('Site', (end) => input.ends[end].siteName),
			ofBoth('Antenna above ground, m', (end) => numberText(input.ends[end].antennaHeightAglM, 1)),
			ofBoth('Bearing true / compass, °', (end) =>
				[plan.pointing[end].azimuthTrueDeg, plan.pointing[end].azimuthCompassDeg]
					.map((value) => bearingText(value, 1))
					.join(' / ')
			),
			ofBoth('Tilt, °', (end) => numberText(plan.pointing[end].tiltDeg, 2, true)),
			ofBoth('Dish, mount', (end) =>
				[input.ends[end].dish, input.ends[end].mount].map((part) => part.code).join(', ')
			),
			...partsBetween(input),
			...radioRows(input),
			ofBoth('Level to be received', (end) => levelAskedOf(plan, end)),
			...plan.carriers
				.slice(1)
				// What comes through the second dish stands below, with that dish.
				.filter((carrier) => !throughSecondDish(carrier))
				.map((carrier) => ofBoth(`${carrier.name}, level`, (end) => levelAskedOf(carrier, end))),
			...(state.second
				? secondDishRows(state.second).map(({ label, of }) => ofBoth(`Second dish: ${label}`, of))
				: [])
		]
	);
}

const ofBoth = (label: string, of: (end: End) => string): TableCell[] => [
	cell(label, { color: QUIET }),
	mono(of('A')),
	mono(of('B'))
];

/** What stands between the radios and the dish, where anything does. */
function partsBetween(input: HopPlanInput): TableCell[][] {
	const at = { A: inventoryOf(input, 'A'), B: inventoryOf(input, 'B') };
	const rows = [
		{ label: 'Coupling', of: (end: End) => at[end].coupling?.part.code ?? '' },
		{
			label: 'Feeder',
			of: (end: End) =>
				at[end].runs
					.map(({ part, lengthM }) => `${part.code}, ${numberText(lengthM, 1)} m`)
					.join('; ')
		},
		{ label: 'Indoor unit', of: (end: End) => at[end].indoorUnit?.part.code ?? '' }
	];
	return rows
		.filter(({ of }) => ENDS.some((end) => of(end) !== ''))
		.map(({ label, of }) => ofBoth(label, of));
}

/** Every radio with what it sends and hears. */
function radioRows(input: HopPlanInput): TableCell[][] {
	const at = { A: inventoryOf(input, 'A').radios, B: inventoryOf(input, 'B').radios };
	return at.A.map(({ name }, i) =>
		ofBoth(name, (end) => {
			const radio = at[end][i];
			if (!radio) return '';
			const sends =
				radio.role === 'diversity'
					? 'only hears'
					: `${numberText(radio.transmitFrequencyGhz, 4)} GHz`;
			return `${radio.part.code}, ${sends}, ${radio.polarization}, ${numberText(radio.channelWidthMhz, 0)} MHz, ${radio.modulation}`;
		})
	);
}

function partsTable({ state }: Pack): Content[] {
	return table(
		'Parts as mounted',
		[14, 130, 90, 130, '*'],
		[
			head('', 'Part', 'Code', 'Serial number', 'Changed'),
			...ENDS.flatMap((end) => mountedParts(state, end)).map((part) => [
				cell(part.end, { bold: true, color: END_COLOURS[part.end] }),
				cell(part.name),
				mono(part.code),
				mono(part.serial),
				cell(part.changed)
			])
		]
	);
}

function faultsTable({ state }: Pack): Content[] {
	return table(
		'Found and set right',
		[14, '*', 100, 120],
		[
			head('', 'What', 'When, UTC', 'By'),
			...mendedFaults(state).map((fault) => [
				cell(fault.end, { bold: true, color: END_COLOURS[fault.end] }),
				cell(fault.name),
				mono(day(fault.at)),
				cell(fault.by)
			])
		]
	);
}

const levelAskedOf = ({ received }: Pick<HopPlan, 'received'>, end: End): string =>
	`${numberText(received[end].plannedLevelDbm, 1)} dBm ± ${numberText(received[end].toleranceDb, 1)} dB`;

function secondDishRows(second: PerEnd<HopState>): { label: string; of: (end: End) => string }[] {
	return [
		{
			label: 'above ground, m',
			of: (end) => numberText(second[end].input.ends[end].antennaHeightAglM, 1)
		},
		{ label: 'tilt, °', of: (end) => numberText(second[end].plan.pointing[end].tiltDeg, 2, true) },
		{
			label: 'radio, dish',
			of: (end) => {
				const { radio, dish } = second[end].input.ends[end];
				return `${radio.code}, ${dish.code}`;
			}
		},
		{ label: 'level to be received', of: (end) => levelAskedOf(second[end].plan, end) }
	];
}

function fixingTable({ state, torqueTools }: Pack): Content[] {
	const steps = ENDS.flatMap((end) =>
		hopsAt(state, end).flatMap(({ dish, hop }) =>
			currentLockSteps(hop, end).map((step) => ({ end, dish, step }))
		)
	);
	const rows = steps.map(({ end, dish, step }) => [
		cell(end, { bold: true, color: END_COLOURS[end] }),
		cell(dish === 2 ? `Second dish: ${step.fastener}` : step.fastener),
		mono(`${numberText(step.torqueNm, 0)} N·m`),
		mono(`${numberText(step.beforeDbm, 1)} dBm`),
		mono(`${numberText(step.afterDbm, 1)} dBm`),
		mono(`${numberText(step.afterDbm - step.beforeDbm, 2, true)} dB`)
	]);
	return [
		...table(
			'Fixing',
			[14, '*', 60, 70, 70, 60],
			[head('', 'Fastener', 'Torque', 'Before', 'After', 'Change'), ...rows]
		),
		...torqueTools.map(({ end, serial, calibratedUntil }): Content => ({
			text: `Torque tool at ${end}: ${serial}, calibrated until ${calibratedUntil}.`,
			margin: [0, 3, 0, 0]
		}))
	];
}

function visitTable({ visits }: Pack): Content[] {
	return table(
		'Visits since',
		[70, 90, '*', 120],
		[
			head('Begun, UTC', 'Why', 'What was found', 'Closed by'),
			...visits.map((visit) => [
				mono(day(visit.startedAt)),
				cell(`${VISIT_PURPOSE_WORDS[visit.purpose]}: ${visit.why}`),
				cell(visit.closed?.found ?? 'goes on'),
				cell(visit.closed ? `${visit.closed.name}, ${day(visit.closed.at)}` : '')
			])
		]
	);
}

function snagTable({ snags }: Pack): Content[] {
	return table(
		'Snags',
		[14, '*', 90, 60, 130],
		[
			head('', 'What is left', 'Owner', 'Due', 'State'),
			...snags.map((snag) => [
				cell(snag.end, { bold: true, color: END_COLOURS[snag.end] }),
				cell(snag.text),
				cell(snag.owner),
				mono(snag.due),
				cell(
					snag.closed
						? `closed ${day(snag.closed.at)} by ${snag.closed.by}: ${snag.closed.note}`
						: 'open'
				)
			])
		]
	);
}

function discrepancyTable({ discrepancies }: Pack): Content[] {
	return table(
		'Received differently than listed',
		[14, 70, 150, 44, '*'],
		[
			head('', 'Code', 'Part', 'Kind', 'What'),
			...discrepancies.map((row) => [
				cell(row.end, { bold: true, color: END_COLOURS[row.end] }),
				mono(row.code),
				cell(row.name),
				cell(row.kind),
				cell([row.text, row.note].filter(Boolean).join(' '))
			])
		]
	);
}

function buildingTable({ building }: Pack, end: End): Content[] {
	const state = building[end];
	if (!state.begun) return [];
	return table(
		`Building at ${end}`,
		['*', 74, 60, 46, 150],
		[
			head('Step', 'Expected', 'Found', 'State', 'Remark'),
			...state.steps.map(({ step, state: standing, value, note, reason }) => [
				cell(step.title),
				mono(step.quantity && step.work === 'confirm' ? expectedText(step.quantity) : ''),
				mono(
					value === null || step.work !== 'confirm'
						? ''
						: `${numberText(value, step.quantity?.digits ?? 0)} ${step.quantity?.unit ?? ''}`
				),
				cell(STATE_WORDS[standing], { bold: standing !== 'done' }),
				cell(
					standing === 'done' && step.quantity && step.work === 'confirm'
						? note
						: [reason, note].filter(Boolean).join(' ')
				)
			])
		]
	);
}

const PHOTOS_A_ROW = 3;

function photoPages({ photos, photosLeftOut }: Pack): Content[] {
	if (photos.length === 0) return [];
	const rows = Array.from({ length: Math.ceil(photos.length / PHOTOS_A_ROW) }, (_, i) =>
		photos.slice(i * PHOTOS_A_ROW, (i + 1) * PHOTOS_A_ROW)
	);
	return [
		heading('Photos', INK),
		...rows.map((row): Content => ({
			unbreakable: true,
			columnGap: 8,
			margin: [0, 4, 0, 4],
			columns: row.map(({ image, caption }) => ({
				width: 170,
				stack: [
					{
						image: `data:image/jpeg;base64,${Buffer.from(image).toString('base64')}`,
						fit: [170, 128]
					},
					{ text: caption, fontSize: 8, color: QUIET }
				]
			}))
		})),
		...(photosLeftOut
			? [{ text: `${photosLeftOut} more photos are in the archive of this hop.` } as Content]
			: [])
	];
}

function signatures({ acceptance, crewSignatures }: Pack): Content {
	const signed = [
		...crewSignatures.map(({ end, name, drawing, at }) => ({
			who: `For the crew at ${end}`,
			name,
			drawing,
			at
		})),
		...(acceptance
			? [
					{
						who: 'For the customer',
						name: acceptance.signature.name,
						drawing: acceptance.signature.drawing,
						at: acceptance.signedAt
					}
				]
			: [])
	];
	return {
		unbreakable: true,
		stack: [
			heading('Signatures', INK),
			...(acceptance?.recordDigest
				? [
						{
							text: `The acceptance is over the record up to entry ${acceptance.lastSeq}, digest ${acceptance.recordDigest}.`,
							fontSize: 8,
							color: QUIET,
							margin: [0, 0, 0, 4] as [number, number, number, number]
						} as Content
					]
				: []),
			...(signed.length
				? [
						{
							columnGap: 16,
							columns: signed.map(({ who, name, drawing, at }) => ({
								width: 160,
								stack: [
									{ text: who, color: QUIET, fontSize: 8 },
									...(drawing ? [{ image: drawing, fit: [150, 60] as [number, number] }] : []),
									{
										text: name,
										fontSize: 12,
										bold: true,
										margin: [0, 2, 0, 0] as [number, number, number, number]
									},
									{ text: `${day(at)} UTC`, fontSize: 8, color: QUIET }
								]
							}))
						} as Content
					]
				: [{ text: 'Nobody has signed yet.' } as Content])
		]
	};
}
