import { hoistClass } from '../../firstlook/hoist';
import { liftedPieces, runWeightKg, type DishItem, type Inventory } from '../../budget/inventory';
import type { FeederInstallation } from '../../catalogue/installation';
import { itemAt } from '../../units/lists';
import { bearingText, numberText } from '../../units/text';
import {
	among,
	ofDish,
	sentence,
	stepKey,
	type BuildSite,
	type BuildStep,
	type Draft
} from '../buildStep';
import { feederClamps, feederEarthKits } from '../counts';
import { atLeast, bearing, counted, measured, within } from '../quantity';
import { filmsOf } from '../films';

/** The smallest heading room that is asked for, degrees either way. */
const LEAST_ROOM_DEG = 0.5;
/** Both ways round, a digital level is read to so much, degrees. */
const LEVEL_READ_DEG = 0.2;

/** From what lies ready on the ground to a dish that hangs and looks roughly the right way. */
export function raiseSteps(site: BuildSite): Draft[] {
	const { inventory } = site;
	const { dishes } = inventory;
	return [
		{
			base: 'tight',
			phase: 'raise',
			title: 'Everything tight before the lift',
			why: 'What is loose on the ground falls from the mast.',
			people: 2,
			tools: ['spanners'],
			items: dishes.flatMap((dish) => [dish.key, dish.mount.key])
		},
		...dishes.map((dish) => saidAloud(site, dish)),
		...dishes.flatMap((dish) => pipeSteps(dish, dishes.length)),
		hoistStep(site),
		...dishes.flatMap((dish) => hungSteps(site, dish))
	];
}

function saidAloud({ plan, end, inventory }: BuildSite, dish: DishItem): Draft {
	const compass = bearingText(plan.pointing[end].azimuthCompassDeg, 0);
	return {
		...ofDish('before-lift', dish),
		phase: 'raise',
		title: `Height, heading, type and polarization${among(dish.name, inventory.dishes.length)} said aloud before the lift`,
		why: `${numberText(dish.heightAglM, 1)} m, compass ${compass}°, ${dish.part.code}, ${dish.bothPlanes ? 'both polarizations' : dish.polarization}.`,
		people: 2,
		items: [dish.key]
	};
}

function pipeSteps(dish: DishItem, dishes: number): Draft[] {
	const { part, key } = dish.mount;
	const which = dishes > 1 ? ` for the ${dish.name.toLowerCase()}` : '';
	return [
		{
			...ofDish('pipe', dish),
			phase: 'raise',
			title: `Pipe${which} plumb and of the right diameter`,
			why: 'A leaning pipe turns azimuth moves into tilt; a clamp on the wrong diameter slips.',
			card: 'climb',
			gate: { kind: 'limits' },
			caution: 'What mast and mount carry is an engineer’s word.',
			items: [key],
			tools: ['calliper'],
			quantity: within('Pipe diameter', 'mm', part.pipeDiameterMm, `sheet of ${part.code}`, 0)
		},
		...(part.installation
			? [
					{
						...ofDish('pipe-lean', dish),
						phase: 'raise' as const,
						title: `Lean of the pipe${which}`,
						why: 'Measured on two sides a quarter turn apart; the larger counts.',
						card: 'climb' as const,
						items: [key],
						tools: ['digital-level' as const],
						quantity: within(
							'Lean off plumb',
							'°',
							[0, part.installation.pipeLeanDeg],
							`sheet of ${part.code}`
						)
					}
				]
			: [])
	];
}

function hoistStep({ input, inventory }: BuildSite): Draft {
	const pieces = liftedPieces(input, inventory);
	const hoist = hoistClass(pieces.map(({ kg }) => kg));
	return {
		base: 'hoist',
		phase: 'raise',
		title: `Hoist: ${numberText(hoist.heaviestKg, 0)} kg the heaviest piece, ${numberText(hoist.totalKg, 0)} kg in all`,
		why: hoist.words,
		lines: pieces.map(({ name, kg }) => sentence(`${name}: ${numberText(kg, 1)} kg`)),
		people: hoist.people,
		card: 'lift',
		gate: { kind: 'lift', loadKg: hoist.heaviestKg },
		sheet: 'lift',
		tools: ['lifting-gear'],
		items: pieces.flatMap(({ items }) => items),
		caution: 'Nobody beneath. The rope’s and the locality’s own rules decide.',
		quantity: atLeast('Tag lines', hoist.tagLines, '', 'weight class')
	};
}

function hungSteps({ plan, end, own, inventory }: BuildSite, dish: DishItem): Draft[] {
	const { part, key } = dish.mount;
	const mount = part.installation;
	const which = among(dish.name, inventory.dishes.length);
	const { azimuthCompassDeg } = plan.pointing[end];
	const diversity = inventory.radios.some(
		(radio) => radio.role === 'diversity' && radio.dish === dish.number
	);
	// The fine adjuster alone must find the far end: its travel, less a beam on either side.
	const beamDeg = dish.beamwidthDeg ?? plan.dish[end].beamwidthDeg;
	const roomDeg = Math.max(LEAST_ROOM_DEG, part.azimuth.travelDeg - 2 * beamDeg);
	return [
		{
			...ofDish('pipe-clamps', dish),
			phase: 'raise',
			title: `Clamps${which} round the pipe${mount ? ` to ${numberText(mount.pipeClampNm, 0)} N·m` : ''}${mount?.strut ? ', strut on' : ''}`,
			why: 'In opposite pairs; the hoisting rope stays until the dish is fixed.',
			card: 'climb',
			people: 2,
			photo: true,
			items: [key],
			duties: ['torque'],
			tools: ['spanners'],
			torquesNm: mount ? [mount.pipeClampNm] : []
		},
		{
			...ofDish('height', dish),
			phase: 'raise',
			title: `Centre${dish.number === 2 ? ' of the second dish' : ''} above ground`,
			why: diversity
				? 'The distance between the two makes the diversity.'
				: 'The plan’s clearance holds for this height.',
			items: [dish.key],
			tools: ['measuring-tape'],
			quantity: measured('Height', 'm', dish.heightAglM, 0.5, 'plan')
		},
		{
			...ofDish('heading', dish),
			phase: 'raise',
			title: `Rough heading${which}, so that the fine adjuster alone can finish`,
			why: `By landmark, binoculars or a compass held well away from steel.${own.landmark ? ` ${own.landmark}.` : ''}`,
			items: [dish.key],
			tools: ['compass'],
			quantity: bearing(
				'Compass heading',
				azimuthCompassDeg,
				roomDeg,
				'plan; tolerance from the adjuster’s travel'
			)
		},
		{
			...ofDish('tilt-preset', dish),
			phase: 'raise',
			title: `Tilt${which} by the digital level`,
			why: 'On a face that stands square to the beam. Read it, turn the level end for end, read it again: the mean has lost the level’s own error.',
			items: [dish.key],
			tools: ['digital-level', 'spanners'],
			quantity: measured('Mean of both readings', '°', dish.tiltDeg, LEVEL_READ_DEG, 'plan')
		}
	];
}

/** Every run of guide: marked, held, hoisted, bent, joined and kept dry. */
export function runSteps(site: BuildSite): Draft[] {
	const { end, own, input, inventory } = site;
	const { runs } = inventory;
	const [run] = runs;
	const sheet = guideSheet(inventory);
	if (!run || !sheet || !run.part.waveguide) return [];
	const guide = run.part.waveguide;
	const from = `sheet of ${run.part.code}`;
	const all = runs.length;
	const each = all > 1 ? ', each run' : '';
	const items = runs.map(({ key }) => key);
	const weight = runWeightKg(run);
	const films = filmsOf(input, end).filter(({ item }) => items.includes(item));
	const step = (
		base: string,
		title: string,
		why: string,
		more: Partial<BuildStep> = {}
	): Draft => ({ base, phase: 'waveguide', title, why, items, ...more });
	return [
		step(
			'guide-mark',
			`Mark the first hanger on ${all > 1 ? `each of the ${all} runs` : 'the run'} before the hoist`,
			'Up there nothing to measure from is within reach.',
			{
				tools: ['measuring-tape'],
				quantity: measured('From the end to the mark', 'm', sheet.firstHangerM, 0.05, from, 2)
			}
		),
		step(
			'hangers-up',
			'All hangers up and the way clear, before the hoist',
			'The run goes up once.',
			{
				card: 'climb',
				sheet: 'hangers',
				tools: ['spanners'],
				quantity: atLeast('Hangers', all * feederClamps(own), '', from)
			}
		),
		...runs.map((one, i): Draft => ({
			base: 'guide-hoist',
			key: stepKey('guide-hoist', one.key, i),
			phase: 'waveguide',
			title: `Hoist the ${one.name.toLowerCase()} by its grip${weight === null ? '' : `, ${numberText(weight, 0)} kg`}`,
			why: `A grip for every ${numberText(sheet.gripEveryM, 0)} m. It stays until ${sheet.hangersBeforeRelease} hangers hold.${weight === null ? ` The sheet of ${one.part.code} does not say what it weighs: its papers or a scale do.` : ''}`,
			people: 3,
			card: 'lift',
			gate: { kind: 'lift', loadKg: weight },
			sheet: 'lift',
			tools: ['lifting-gear'],
			items: [one.key],
			duties: ['mount'],
			caution: 'Nobody beneath. Bag and caps stay on until the run is at its joint.',
			quantity: atLeast(
				'Hangers closed before the grip was let go',
				sheet.hangersBeforeRelease,
				'',
				from
			)
		})),
		...(['E', 'H'] as const).map((bend): Draft => {
			const least = bend === 'E' ? guide.minBendEPlaneMm : guide.minBendHPlaneMm;
			return step(
				`bend-${bend.toLowerCase()}`,
				`Tightest bend in the ${bend} plane${each}`,
				guide.shape === 'elliptical'
					? 'In small steps, never twisted; only the flexible section gives a little.'
					: 'Below its radius the guide buckles inside.',
				{
					sheet: 'bends',
					tools: ['measuring-tape'],
					quantity: atLeast('Radius', least, 'mm', from)
				}
			);
		}),
		...(films.length
			? [
					step(
						'guide-caps',
						`Bag and caps off at the joint${each}, counted`,
						'Off the moment before mating. Left in, it is a loss nobody can find from below.',
						{
							lines: films.map(({ part, name }) => `${part}: ${name}`),
							photo: true,
							quantity: counted('Caps in your hand', films.length, from)
						}
					)
				]
			: []),
		flangeStep(site, 'flanges'),
		step(
			'guide-earth',
			`Earth kits of the ${all > 1 ? `${all} runs` : 'run'}`,
			'Top, bottom, before entry, and between on a long run.',
			{
				duties: ['earth'],
				caution: 'Local code and a licensed person decide on earthing.',
				tools: ['spanners'],
				quantity: counted('Kits', all * feederEarthKits(own.feederLengthM), 'parts list')
			}
		)
	];
}

/** Flanges of every run, at the dish or at the foot. */
function flangeStep({ inventory: { runs } }: BuildSite, where: 'flanges' | 'foot-flanges'): Draft {
	const run = itemAt(runs, 0);
	const bolts = run.part.installation?.flangeBolts ?? { count: 0, torqueNm: 0 };
	const top = where === 'flanges';
	return {
		base: where,
		phase: top ? 'waveguide' : 'foot',
		title: `Flanges ${top ? 'at the dish' : 'at the foot'}: seals, shims, ${bolts.count} bolts in opposite pairs`,
		why: `${top ? 'Flexible section first. ' : ''}${numberText(bolts.torqueNm, 0)} N·m; no grease on a flange face.`,
		items: runs.map(({ key }) => key),
		duties: ['connect', 'torque'],
		caution: 'Transmitter off before anyone looks into a waveguide.',
		people: 2,
		tools: ['spanners'],
		torquesNm: [bolts.torqueNm],
		...(top ? { card: 'climb' as const } : {}),
		quantity: counted(
			'Bolts at torque',
			runs.length * bolts.count,
			`sheet of ${run.part.code}${runs.length > 1 ? `, ${runs.length} runs` : ''}`
		)
	};
}

/** What closes the runs once radio or coupler stands at their foot. */
export function footRunSteps(site: BuildSite): Draft[] {
	const { plan, end, inventory } = site;
	const sheet = guideSheet(inventory);
	if (!sheet) return [];
	return [
		flangeStep(site, 'foot-flanges'),
		{
			base: 'guide-dry',
			phase: 'foot',
			title: sheet.dry === 'pressurised' ? 'Dry air on, pressure holds' : 'Sealed dry',
			why: `Water in the run costs level in both directions; planned loss here is ${numberText(plan.received[end].receiveFeederLossDb, 1)} dB.`,
			items: inventory.runs.map(({ key }) => key),
			photo: true,
			tools: sheet.dry === 'pressurised' ? ['pressure-gauge'] : []
		}
	];
}

/** The sheet of the guide that the runs are of; undefined where there is none, or it says nothing. */
function guideSheet({ runs: [run] }: Inventory): FeederInstallation | undefined {
	return run?.part.kind === 'waveguide' && run.part.waveguide ? run.part.installation : undefined;
}
