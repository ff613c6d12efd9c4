import { requireInRange } from '../units/errors';
import { OXYGEN_LINES, WATER_VAPOUR_LINES } from './gasLines';

export interface Air {
	/** Pressure of the dry air, hPa, 100 to 1100. */
	dryAirPressureHpa: number;
	/** Temperature, K, 200 to 330. */
	temperatureK: number;
	/** Water-vapour density, g/m³, 0 to 50. */
	waterVapourGM3: number;
}

/** The mean surface air of the global reference atmosphere (ITU-R P.835): 15 °C, 7.5 g/m³. */
export const REFERENCE_AIR: Air = {
	dryAirPressureHpa: 1013.25,
	temperatureK: 288.15,
	waterVapourGM3: 7.5
};

export interface GasAttenuation {
	oxygenDbKm: number;
	waterVapourDbKm: number;
	totalDbKm: number;
}

/** Line-shape factor of equation (5): width Δf and interference correction δ, all in GHz. */
function lineShape(frequencyGhz: number, lineGhz: number, widthGhz: number, delta: number): number {
	const below = lineGhz - frequencyGhz;
	const above = lineGhz + frequencyGhz;
	return (
		(frequencyGhz / lineGhz) *
		((widthGhz - delta * below) / (below * below + widthGhz * widthGhz) +
			(widthGhz - delta * above) / (above * above + widthGhz * widthGhz))
	);
}

function oxygenRefractivity(f: number, p: number, e: number, theta: number): number {
	let sum = 0;
	for (const [f0, a1, a2, a3, a4, a5, a6] of OXYGEN_LINES) {
		const strength = a1 * 1e-7 * p * theta ** 3 * Math.exp(a2 * (1 - theta));
		const pressureWidth = a3 * 1e-4 * (p * theta ** (0.8 - a4) + 1.1 * e * theta);
		// Zeeman splitting keeps a line from vanishing at low pressure: equation (6b).
		const width = Math.sqrt(pressureWidth * pressureWidth + 2.25e-6);
		const delta = (a5 + a6 * theta) * 1e-4 * (p + e) * theta ** 0.8;
		sum += strength * lineShape(f, f0, width, delta);
	}
	return sum + dryContinuum(f, p, e, theta);
}

/** Non-resonant Debye spectrum of oxygen and pressure-induced nitrogen absorption: (8), (9). */
function dryContinuum(f: number, p: number, e: number, theta: number): number {
	const debyeWidth = 5.6e-4 * (p + e) * theta ** 0.8;
	const debye = 6.14e-5 / (debyeWidth * (1 + (f / debyeWidth) ** 2));
	const nitrogen = (1.4e-12 * p * theta ** 1.5) / (1 + 1.9e-5 * f ** 1.5);
	return f * p * theta ** 2 * (debye + nitrogen);
}

function waterVapourRefractivity(f: number, p: number, e: number, theta: number): number {
	let sum = 0;
	for (const [f0, b1, b2, b3, b4, b5, b6] of WATER_VAPOUR_LINES) {
		const strength = b1 * 1e-1 * e * theta ** 3.5 * Math.exp(b2 * (1 - theta));
		const pressureWidth = b3 * 1e-4 * (p * theta ** b4 + b5 * e * theta ** b6);
		// Doppler broadening: equation (6b).
		const width =
			0.535 * pressureWidth +
			Math.sqrt(0.217 * pressureWidth * pressureWidth + (2.1316e-12 * f0 * f0) / theta);
		sum += strength * lineShape(f, f0, width, 0);
	}
	return sum;
}

/**
 * Specific attenuation of atmospheric gases, dB/km, by summing every line.
 *
 * @param frequencyGhz 1 to 1000
 * @param air the air along the path; the default is the reference surface air
 * @throws OutOfRangeError outside the ranges of {@link Air} or the frequency
 * Source: ITU-R P.676-13, Annex 1, equations (1) to (9), γ = 0.1820·f·N″.
 */
export function gasAttenuation(frequencyGhz: number, air: Air = REFERENCE_AIR): GasAttenuation {
	requireInRange('frequencyGhz', frequencyGhz, 1, 1000);
	requireInRange('dryAirPressureHpa', air.dryAirPressureHpa, 100, 1100);
	requireInRange('temperatureK', air.temperatureK, 200, 330);
	requireInRange('waterVapourGM3', air.waterVapourGM3, 0, 50);
	const theta = 300 / air.temperatureK;
	const vapourPressureHpa = (air.waterVapourGM3 * air.temperatureK) / 216.7;
	const p = air.dryAirPressureHpa;
	const oxygenDbKm =
		0.182 * frequencyGhz * oxygenRefractivity(frequencyGhz, p, vapourPressureHpa, theta);
	const waterVapourDbKm =
		0.182 * frequencyGhz * waterVapourRefractivity(frequencyGhz, p, vapourPressureHpa, theta);
	return { oxygenDbKm, waterVapourDbKm, totalDbKm: oxygenDbKm + waterVapourDbKm };
}
