import type { CountedAvailability, HopAvailability } from './availability';
import { availabilityOf } from './hopPlan';
import type { HopPlanInput } from './planInput';

/** What a value of the climate does to the availability. */
export interface ClimateSensitivity {
	quantity: 'rain-rate' | 'gradient' | 'temperature';
	/** Twenty percent less, as planned, twenty percent more. */
	values: readonly [number, number, number];
	/** Availability of the hop with each; null where the methods do not reach. */
	available: readonly [
		CountedAvailability | null,
		CountedAvailability | null,
		CountedAvailability | null
	];
}

const SHARE = 0.2;
/** Twenty percent of a temperature near zero says nothing: at least this is tried, °C. */
const LEAST_CHANGE_C = 5;

/** By quantity: its value, and the input with another. */
const QUANTITIES: readonly {
	quantity: ClimateSensitivity['quantity'];
	of: (input: HopPlanInput) => number;
	put: (input: HopPlanInput, value: number) => HopPlanInput;
	least: number;
}[] = [
	{
		quantity: 'rain-rate',
		of: ({ climate }) => climate.rainRate001MmH,
		put: (input, rainRate001MmH) => ({ ...input, climate: { ...input.climate, rainRate001MmH } }),
		least: 0
	},
	{
		quantity: 'gradient',
		of: ({ climate }) => climate.gradientDn1,
		put: (input, gradientDn1) => ({ ...input, climate: { ...input.climate, gradientDn1 } }),
		least: 0
	},
	{
		quantity: 'temperature',
		of: ({ air }) => air.temperatureK - 273.15,
		put: (input, celsius) => ({ ...input, air: { ...input.air, temperatureK: celsius + 273.15 } }),
		least: LEAST_CHANGE_C
	}
];

/**
 * How far the availability of a hop hangs on each value of its climate, changed by 20 % each way, the others
 * as planned. Of a temperature at least 5 °C are tried.
 */
export function climateSensitivity(input: HopPlanInput): ClimateSensitivity[] {
	return QUANTITIES.map(({ quantity, of, put, least }) => {
		const value = of(input);
		const step = Math.max(least, SHARE * Math.abs(value));
		const values = [value - step, value, value + step] as const;
		const availableWith = (changed: number): CountedAvailability | null => {
			try {
				return countedOf(availabilityOf(put(input, changed)));
			} catch (error) {
				if (error instanceof RangeError) return null;
				throw error;
			}
		};
		return {
			quantity,
			values,
			available: [availableWith(values[0]), availableWith(values[1]), availableWith(values[2])]
		};
	});
}

const countedOf = (availability: HopAvailability | undefined): CountedAvailability | null =>
	availability
		? { percent: availability.achievedPercent, bound: availability.bound ?? null }
		: null;
