import type { End } from '../ends';
import type { Found } from '../finding/planFinding';
import { inventoryOf } from './inventory';
import type { HopPlanInput } from './planInput';

/** A radio at the foot stands no higher than this above ground, m, unless somebody says so. */
const FOOT_M = 3;

/** Whether what is planned up there fits: dish and bracket, dish and mast, cable or guide and the way down. */
export function reachFindings(input: HopPlanInput, end: End, found: Found): void {
	const own = input.ends[end];
	const { dishes, cables, runs, radios } = inventoryOf(input, end);
	const top = own.conditions.mastHeightM;
	const heightOf = (dish: 1 | 2): number =>
		dishes.find(({ number }) => number === dish)?.heightAglM ?? own.antennaHeightAglM;
	for (const { part, mount, name, heightAglM, number } of dishes) {
		const range = mount.part.carries?.dishDiameterM;
		if (range && (part.diameterM < range[0] || part.diameterM > range[1])) {
			// A plan names one model of mount for both dishes of an end: what the second gets is said in writing.
			found(
				number === 1 ? 'error' : 'warning',
				'mount-not-for-dish',
				`ends.${end}.${number === 1 ? 'mountCode' : 'secondDishCode'}`,
				`${mount.part.code} is made for dishes of ${range[0]} to ${range[1]} m; ${name.toLowerCase()} at ${own.siteName} has ${part.diameterM} m. ${number === 1 ? 'Take another mount.' : 'Say which mount it gets.'}`
			);
		}
		if (top !== null && heightAglM > top) {
			found(
				'error',
				'antenna-above-mast',
				`ends.${end}.${number === 1 ? 'antennaHeightAglM' : 'secondDishOffsetM'}`,
				`${name} at ${own.siteName} is planned ${heightAglM.toFixed(1)} m above ground; the mast there ends at ${top} m.`
			);
		}
	}
	// Every radio of an end has a cable of the same length.
	const [cable] = cables;
	const fed = radios.find(({ number }) => number === cable?.radio);
	if (cable && fed?.place === 'dish' && cable.lengthM < heightOf(fed.dish)) {
		found(
			'warning',
			'cable-short',
			`ends.${end}.cableLengthM`,
			`${cable.name} at ${own.siteName} is ${cable.lengthM} m long; its radio hangs ${heightOf(fed.dish).toFixed(1)} m above ground. It reaches only what stands on a roof or on the mast.`
		);
	}
	const short = runs.find(({ lengthM, dish }) => lengthM < heightOf(dish) - FOOT_M);
	if (short) {
		found(
			'warning',
			'feeder-short',
			`ends.${end}.feederLengthM`,
			`${short.name} at ${own.siteName} is ${short.lengthM} m long; the dish hangs ${heightOf(short.dish).toFixed(1)} m above ground. It reaches only a radio on a roof or on the mast.`
		);
	}
}
