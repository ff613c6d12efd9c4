import { radioPorts } from './chassis';
import { apertureGainDbi, halfPowerBeamwidthDeg } from '../antenna/gain';
import { usableBandGhz } from '../feeder/waveguide';
import { receiverFloorDbm } from '../radio/receiverFloor';
import { numberText } from '../units/text';
import type { AnyPart, PartKind, PartOf } from './partKinds';
import type { Modulation } from './parts';
import { itemAt, lastOf } from '../units/lists';

/** Something about a part that is not what such parts are; it can be kept all the same. */
export interface PartDoubt {
	/** Path of the field, such as `bands.0.gainDbi`. */
	field: string;
	message: string;
}

/** Aperture efficiencies that real parabolic dishes have. */
const EFFICIENCY = { low: 0.35, high: 0.82 };
/** Real dishes stay within this share of the rule of 70·λ/D. */
const BEAMWIDTH_SLACK = 0.3;
/** Noise figures of microwave receivers, dB. */
const NOISE_FIGURE_DB = { low: 2, high: 12 };
/** Resistance times area of copper at 20 °C, Ω·mm²/km, with what stranding adds. Source: IEC 60228. */
const COPPER_OHM_MM2_KM = { low: 17, high: 22 };
/** Tensile stress that a fine steel rod stands while it adjusts; pitch to torque in rough bounds. */
const TORQUE_PER_PITCH_NM_MM = { low: 2, high: 120 };

/**
 * What is doubtful about a part whose values are each in range: values that do not go with each other
 * or with physics. A check as somebody types, never a refusal.
 */
export function doubtsAbout(kind: PartKind, part: AnyPart): PartDoubt[] {
	switch (kind) {
		case 'radio':
			return radioDoubts(part as PartOf<'radio'>);
		case 'dish':
			return dishDoubts(part as PartOf<'dish'>);
		case 'mount':
			return mountDoubts(part as PartOf<'mount'>);
		case 'coupling':
			return couplingDoubts(part as PartOf<'coupling'>);
		case 'feeder':
			return feederDoubts(part as PartOf<'feeder'>);
		case 'cable':
			return cableDoubts(part as PartOf<'cable'>);
		case 'indoor-unit':
			return indoorDoubts(part as PartOf<'indoor-unit'>);
		case 'power-source':
			return [];
		case 'hub-unit':
		case 'terminal':
			return steeredDoubts(part as PartOf<'hub-unit' | 'terminal'>);
	}
}

/**
 * Threshold of a modulation at a channel width: noise in the channel, noise figure, ratio needed, dBm.
 *
 * @param channelWidthMhz above 0
 */
export function thresholdDbm(
	radio: Pick<PartOf<'radio'>, 'noiseFigureDb'>,
	modulation: { requiredSnrDb: number },
	channelWidthMhz: number
): number {
	return receiverFloorDbm(channelWidthMhz, radio.noiseFigureDb) + modulation.requiredSnrDb;
}

/** Modulations that do not stand in their order, or do not go with each other. */
function modulationDoubts(modulations: readonly Modulation[]): PartDoubt[] {
	return modulations.flatMap((modulation, i): PartDoubt[] => {
		const before = modulations[i - 1];
		if (!before) return [];
		const at = (key: keyof Modulation, message: string): PartDoubt => ({
			field: `modulations.${i}.${key}`,
			message
		});
		return [
			...(modulation.requiredSnrDb <= before.requiredSnrDb
				? [
						at(
							'requiredSnrDb',
							`Needs no more than ${before.name}: put the modulations in order, the most robust first.`
						)
					]
				: modulation.maxPowerDbm > before.maxPowerDbm
					? [
							at(
								'maxPowerDbm',
								`More than ${before.name} sends: power falls as the modulation rises.`
							)
						]
					: []),
			...(modulation.mbitSPerMhz < before.mbitSPerMhz
				? [at('mbitSPerMhz', `Carries less than ${before.name}.`)]
				: [])
		];
	});
}

function radioDoubts(radio: PartOf<'radio'>): PartDoubt[] {
	const doubts: PartDoubt[] = [];
	const add = (field: string, message: string): number => doubts.push({ field, message });
	const { noiseFigureDb, rangeGhz, modulations } = radio;
	if (noiseFigureDb < NOISE_FIGURE_DB.low || noiseFigureDb > NOISE_FIGURE_DB.high) {
		add(
			'noiseFigureDb',
			`Receivers of such radios have ${NOISE_FIGURE_DB.low} to ${NOISE_FIGURE_DB.high} dB.`
		);
	}
	doubts.push(...modulationDoubts(modulations));
	modulations.forEach((modulation, i) => {
		if (modulation.maxPowerDbm < radio.minPowerDbm) {
			add(`modulations.${i}.maxPowerDbm`, 'Below the lowest output power.');
		}
	});
	if (radio.damageInputDbm <= radio.maxInputDbm) {
		add(
			'damageInputDbm',
			'A receiver is destroyed above, not below, what it takes without bending.'
		);
	}
	radio.subBands.forEach(({ lowGhz, highGhz }, i) => {
		if (lowGhz[1] > highGhz[0]) add(`subBands.${i}.highGhz`, 'The two halves overlap.');
		const spacingMhz = 1000 * (highGhz[0] - lowGhz[0]);
		if (Math.abs(spacingMhz - radio.duplexSpacingMhz) > 1) {
			add(
				`subBands.${i}.highGhz`,
				`Its halves are ${numberText(spacingMhz, 0)} MHz apart, the duplex spacing is ${numberText(radio.duplexSpacingMhz, 0)} MHz.`
			);
		}
		if (lowGhz[0] < rangeGhz[0] || highGhz[1] > rangeGhz[1]) {
			add(`subBands.${i}.lowGhz`, 'Outside the frequencies of the radio.');
		}
	});
	if (!modulations.some(({ name }) => name === radio.alignmentState.modulation)) {
		add('alignmentState.modulation', 'None of the modulations has this name.');
	}
	const levels = radio.levelPort.curve.map(([levelDbm]) => levelDbm);
	if (Math.max(...levels) < radio.maxInputDbm - 15) {
		add(
			'levelPort.curve',
			'Ends more than 15 dB below the highest input: a strong level reads alike.'
		);
	}
	const supply = radio.installation?.power;
	if (supply && supply.maxV <= radio.supplyMinV) {
		add('installation.power.maxV', 'Not above the lowest supply.');
	}
	return doubts;
}

function dishDoubts(dish: PartOf<'dish'>): PartDoubt[] {
	return dish.bands.flatMap((band, i): PartDoubt[] => {
		const doubts: PartDoubt[] = [];
		const low = apertureGainDbi(band.atGhz, dish.diameterM, EFFICIENCY.low);
		const high = apertureGainDbi(band.atGhz, dish.diameterM, EFFICIENCY.high);
		if (band.gainDbi < low || band.gainDbi > high) {
			doubts.push({
				field: `bands.${i}.gainDbi`,
				message: `A dish of ${numberText(dish.diameterM, 2)} m has ${numberText(low, 1)} to ${numberText(high, 1)} dBi at ${numberText(band.atGhz, 2)} GHz.`
			});
		}
		const usual = halfPowerBeamwidthDeg(band.atGhz, dish.diameterM);
		if (Math.abs(band.beamwidthDeg - usual) > BEAMWIDTH_SLACK * usual) {
			doubts.push({
				field: `bands.${i}.beamwidthDeg`,
				message: `About ${numberText(usual, 2)}° is usual for this diameter and frequency.`
			});
		}
		if (band.fromGhz >= band.toGhz) {
			doubts.push({ field: `bands.${i}.toGhz`, message: 'Not above where the band begins.' });
		} else if (band.atGhz < band.fromGhz || band.atGhz > band.toGhz) {
			doubts.push({ field: `bands.${i}.atGhz`, message: 'Outside the band.' });
		}
		return doubts;
	});
}

function mountDoubts(mount: PartOf<'mount'>): PartDoubt[] {
	const doubts: PartDoubt[] = [];
	for (const axis of ['azimuth', 'tilt'] as const) {
		const { threadPitchMm, armMm, travelDeg } = mount[axis];
		const turnDeg = (Math.atan(threadPitchMm / armMm) * 180) / Math.PI;
		if (turnDeg > travelDeg / 2) {
			doubts.push({
				field: `${axis}.threadPitchMm`,
				message: `One turn moves ${numberText(turnDeg, 2)}°, more than half the travel.`
			});
		}
		const rodMm = mount.installation?.centredRodMm[axis];
		const strokeMm = armMm * Math.tan((travelDeg * Math.PI) / 180);
		if (rodMm !== undefined && rodMm < strokeMm) {
			doubts.push({
				field: `installation.centredRodMm.${axis}`,
				message: `The travel needs ${numberText(strokeMm, 0)} mm of rod each way.`
			});
		}
		if (!mount.fasteners.some(({ locks }) => locks === axis)) {
			doubts.push({ field: 'fasteners', message: `Nothing locks the ${axis}.` });
		}
	}
	const pitch = Math.max(mount.azimuth.threadPitchMm, mount.tilt.threadPitchMm);
	mount.fasteners.forEach(({ torqueNm }, i) => {
		const { low, high } = TORQUE_PER_PITCH_NM_MM;
		if (torqueNm < low * pitch || torqueNm > high * pitch) {
			doubts.push({
				field: `fasteners.${i}.torqueNm`,
				message: `With threads of ${numberText(pitch, 2)} mm, ${numberText(low * pitch, 0)} to ${numberText(high * pitch, 0)} N·m are usual.`
			});
		}
	});
	return doubts;
}

/** An even split of power: half for each arm, dB. */
const EVEN_SPLIT_DB = 10 * Math.log10(2);

function couplingDoubts(coupling: PartOf<'coupling'>): PartDoubt[] {
	const { kind, arms } = coupling;
	const doubts: PartDoubt[] = [];
	if (kind === 'equal-coupler' || kind === 'uneven-coupler') {
		// What goes in comes out at both arms, or is lost: the shares cannot sum to more than all.
		const sum = arms.reduce((total, { lossDb }) => total + 10 ** (-lossDb / 10), 0);
		if (sum > 1.001) {
			doubts.push({
				field: 'arms.0.lossDb',
				message: 'The arms together would carry more power than goes in.'
			});
		}
		if (arms.some(({ plane }) => plane === 'crossed')) {
			doubts.push({ field: 'arms.1.plane', message: 'A coupler keeps the plane on both arms.' });
		}
	}
	const spread = Math.max(...arms.map((a) => a.lossDb)) - Math.min(...arms.map((a) => a.lossDb));
	if (kind === 'equal-coupler' && (spread > 0.5 || itemAt(arms, 0).lossDb < EVEN_SPLIT_DB - 0.05)) {
		doubts.push({
			field: 'arms.0.lossDb',
			message: 'An even coupler loses about 3 dB or more on each arm.'
		});
	}
	if (kind === 'uneven-coupler' && spread < 1) {
		doubts.push({ field: 'arms.1.lossDb', message: 'The arms of an uneven coupler differ.' });
	}
	if (kind === 'orthomode' && !arms.some(({ plane }) => plane === 'crossed')) {
		doubts.push({
			field: 'arms.1.plane',
			message: 'One port of an orthomode transducer is turned by 90°.'
		});
	}
	return doubts;
}

function feederDoubts(feeder: PartOf<'feeder'>): PartDoubt[] {
	const doubts: PartDoubt[] = [];
	if (feeder.waveguide) {
		const [low, high] = usableBandGhz(feeder.waveguide.broadWallMm);
		// Makers state a little beyond the rule.
		if (feeder.rangeGhz[0] < 0.92 * low || feeder.rangeGhz[1] > 1.05 * high) {
			doubts.push({
				field: 'rangeGhz',
				message: `A guide with this wall carries ${numberText(low, 2)} to ${numberText(high, 2)} GHz.`
			});
		}
		if (feeder.waveguide.minBendEPlaneMm > feeder.waveguide.minBendHPlaneMm) {
			doubts.push({
				field: 'waveguide.minBendEPlaneMm',
				message: 'A guide bends more tightly in its E plane than in its H plane.'
			});
		}
	}
	const [first, last] = [itemAt(feeder.lossDbPer100M, 0), lastOf(feeder.lossDbPer100M)];
	const covers = first[0] <= 1.05 * feeder.rangeGhz[0] && last[0] >= 0.95 * feeder.rangeGhz[1];
	if (feeder.kind !== 'direct' && !covers) {
		doubts.push({ field: 'lossDbPer100M', message: 'Does not cover all its frequencies.' });
	}
	return doubts;
}

function cableDoubts(cable: PartOf<'cable'>): PartDoubt[] {
	const doubts: PartDoubt[] = [];
	const product = cable.ohmPerKm * cable.conductorMm2;
	if (product < COPPER_OHM_MM2_KM.low || product > COPPER_OHM_MM2_KM.high) {
		doubts.push({
			field: 'ohmPerKm',
			message: `Copper of ${numberText(cable.conductorMm2, 2)} mm² has ${numberText(COPPER_OHM_MM2_KM.low / cable.conductorMm2, 2)} to ${numberText(COPPER_OHM_MM2_KM.high / cable.conductorMm2, 2)} Ω/km.`
		});
	}
	if ((cable.wiring?.kind === 'coaxial') !== (cable.coaxial !== undefined)) {
		doubts.push({
			field: cable.coaxial ? 'wiring.kind' : 'coaxial',
			message: cable.coaxial
				? 'It has figures of a coaxial cable, and is wired as another.'
				: 'Screen and attenuation of a coaxial cable are missing.'
		});
	}
	const glands = cable.installation?.glands ?? [];
	if (glands.length && !glands.some((g) => cable.outerMm >= g.fromMm && cable.outerMm <= g.toMm)) {
		doubts.push({ field: 'installation.glands', message: 'No insert fits this cable.' });
	}
	return doubts;
}

function indoorDoubts(unit: PartOf<'indoor-unit'>): PartDoubt[] {
	const doubts: PartDoubt[] = [];
	if (unit.place === 'rack' && unit.heightUnits === 0) {
		doubts.push({ field: 'heightUnits', message: 'In a rack it takes height.' });
	}
	const { chassis } = unit;
	if (!chassis) return doubts;
	for (const [i, { slot, kind, ports, capacityMbitS }] of chassis.boards.entries()) {
		const field = `chassis.boards.${i}`;
		if (slot > chassis.slots) {
			doubts.push({ field: `${field}.slot`, message: `The chassis has ${chassis.slots} slots.` });
		}
		if (kind === 'radio' && ports === 0) {
			doubts.push({ field: `${field}.ports`, message: 'No radio can hang on it.' });
		}
		if ((kind === 'ethernet' || kind === 'circuit') && capacityMbitS === 0) {
			doubts.push({ field: `${field}.capacityMbitS`, message: 'It carries nothing.' });
		}
	}
	if (!chassis.boards.some(({ kind }) => kind === 'control')) {
		doubts.push({ field: 'chassis.boards', message: 'No board controls it.' });
	}
	const ports = radioPorts(unit).length;
	if (ports !== unit.radioPorts) {
		doubts.push({
			field: 'radioPorts',
			message: `Its radio boards have ${ports} ports together.`
		});
	}
	return doubts;
}

/** Beams whose gain and width are what one aperture has: gain times the square of the width. Source: Kraus, 32 400 deg² at most 41 253. */
const GAIN_BEAM_DEG2 = { low: 12_000, high: 41_253 };

/** What does not go together of a unit that steers its beam. */
function steeredDoubts(unit: PartOf<'hub-unit' | 'terminal'>): PartDoubt[] {
	const doubts: PartDoubt[] = [];
	const { scan, mountings, modulations, gainDbi, beamwidthDeg } = unit;
	const area = 10 ** (gainDbi / 10) * beamwidthDeg ** 2;
	if (beamwidthDeg > 0 && (area > GAIN_BEAM_DEG2.high || area < GAIN_BEAM_DEG2.low)) {
		const dbi = (deg2: number): string => numberText(10 * Math.log10(deg2 / beamwidthDeg ** 2), 1);
		const message = `A beam of ${numberText(beamwidthDeg, 1)}° has a gain of ${dbi(GAIN_BEAM_DEG2.low)} to ${dbi(GAIN_BEAM_DEG2.high)} dBi.`;
		doubts.push({ field: 'gainDbi', message });
	}
	if (itemAt(scan.loss, 0)[0] > 0) {
		doubts.push({ field: 'scan.loss', message: 'The scan loss begins at 0°, on boresight.' });
	}
	const falls = scan.loss.findIndex(([, db], i) => i > 0 && db < itemAt(scan.loss, i - 1)[1]);
	if (falls > 0) {
		doubts.push({ field: 'scan.loss', message: 'Steering farther off costs more, never less.' });
	}
	const edge = Math.max(scan.azimuthDeg, scan.elevationDeg);
	if (lastOf(scan.loss)[0] < edge) {
		const message = `The loss is not given as far as the edge of the window, ${numberText(edge, 0)}°.`;
		doubts.push({ field: 'scan.loss', message });
	}
	mountings.forEach((mounting, i) => {
		if (mounting.lowestTiltDeg > mounting.highestTiltDeg) {
			const message = 'The lowest tilt is above the highest.';
			doubts.push({ field: `mountings.${i}.lowestTiltDeg`, message });
		}
		if (
			mounting.how === 'pole' &&
			Number.isFinite(mounting.poleToMm) &&
			mounting.poleToMm <= mounting.poleFromMm
		) {
			const message = 'On a pole it needs diameters that it takes.';
			doubts.push({ field: `mountings.${i}.poleToMm`, message });
		}
	});
	doubts.push(...modulationDoubts(modulations));
	return doubts;
}
