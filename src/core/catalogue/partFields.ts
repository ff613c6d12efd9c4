import {
	choice,
	flag,
	group,
	list,
	number,
	pairs,
	range,
	table,
	text,
	whole,
	type FieldSpec,
	type GroupSpec,
	type NumberSpec
} from './fieldSpec';
import { BOARD_WORDS } from './chassis';
import { LAMP_STATES, LAMP_WORDS, WEATHERPROOFING_WORDS } from './installation';
import type { PartKind } from './partKinds';

const ghz = (key: string, label: string): NumberSpec => number(key, label, 'GHz', 0.1, 120);
const weight = (most: number): NumberSpec => number('weightKg', 'Weight', 'kg', 0.05, most);
const films = list(
	'films',
	'Films and caps to be counted off',
	text('', 'Film or cap', 80),
	0,
	30,
	{ hint: 'Each by the name the crew will know it by.' }
);
const bolts = (
	key = 'bolts',
	label = 'Bolts',
	more: Partial<Pick<GroupSpec, 'absent' | 'hint'>> = {}
): GroupSpec =>
	group(
		key,
		label,
		[whole('count', 'Number', 1, 60), number('torqueNm', 'Torque', 'N·m', 0.5, 500)],
		more
	);
const PLANES = { vertical: 'vertical', horizontal: 'horizontal' };
const polarization = (absent?: 'null'): GroupSpec =>
	group(
		'polarization',
		'Setting of the polarization',
		[
			choice('how', 'It is set by', {
				turn: 'turning the part',
				blade: 'turning a blade or plate',
				insert: 'a swapped insert',
				side: 'the side it is mounted on',
				orientation: 'its own orientation'
			}),
			text('mark', 'What the crew looks at'),
			group('shows', 'What it shows', [
				text('vertical', 'for vertical'),
				text('horizontal', 'for horizontal')
			]),
			choice('delivered', 'Delivered', PLANES),
			group('scale', 'Scale', [number('stepDeg', 'One mark', '°', 0.1, 10)], {
				absent: 'missing',
				hint: 'What a hand can set by it; advice to turn is given in its marks.'
			})
		],
		absent ? { absent } : {}
	);
const installation = (fields: readonly FieldSpec[]): GroupSpec =>
	group('installation', 'Installation', fields, {
		absent: 'missing',
		hint: 'Without these figures the steps of the building cannot say quantities.'
	});

const MODULATIONS = table(
	'modulations',
	'Modulations',
	[
		text('name', 'Name', 40),
		number('maxPowerDbm', 'Highest power', 'dBm', -30, 50),
		number('requiredSnrDb', 'Signal-to-noise ratio needed', 'dB', -10, 60),
		number('mbitSPerMhz', 'Net capacity', 'Mbit/s per MHz', 0.01, 20)
	],
	1,
	30,
	{ unique: 'name' }
);

const SUPPLY = group('power', 'Supply', [
	choice('kind', 'Kind', {
		dc: 'DC',
		'poe-standard': 'Power over Ethernet, standard class',
		'poe-passive': 'Power over Ethernet, passive'
	}),
	number('maxV', 'Highest voltage it stands', 'V', 5, 100),
	text('unconnected', 'What stays unconnected'),
	text('port', 'Port')
]);

const RADIO: readonly FieldSpec[] = [
	range('rangeGhz', 'Frequencies it sends and receives', 'GHz', 1, 120),
	list('channelWidthsMhz', 'Channel widths', number('', 'Width', 'MHz', 0.1, 4000), 1, 40),
	number('duplexSpacingMhz', 'Duplex spacing', 'MHz', 1, 20_000),
	table(
		'subBands',
		'Sub-bands',
		[
			whole('index', 'Number', 1, 40),
			range('lowGhz', 'Low half', 'GHz', 1, 120),
			range('highGhz', 'High half', 'GHz', 1, 120)
		],
		0,
		40,
		{ unique: 'index', hint: 'Unit 1L sends in the low half of sub-band 1, unit 1H in the high.' }
	),
	number('minPowerDbm', 'Lowest output power', 'dBm', -60, 40),
	MODULATIONS,
	number('noiseFigureDb', 'Noise figure', 'dB', 0.1, 20),
	number('maxInputDbm', 'Highest input for linear reception', 'dBm', -60, 20),
	number('damageInputDbm', 'Input that may destroy it', 'dBm', -60, 30),
	group('levelPort', 'Level port', [
		text('connector', 'Connector', 80),
		pairs(
			'curve',
			'Level curve',
			[number('', 'Level', 'dBm', -200, 50), number('', 'Port', 'V', -100, 100)],
			'level-curve',
			{ hint: 'From the part’s own sheet; it may rise or fall with the level.' }
		),
		number('resolutionV', 'Last digit of the meter', 'V', 0.0001, 0.1)
	]),
	group('alignmentState', 'Alignment state', [
		text('modulation', 'Fixed modulation', 40),
		text('enter', 'How it is entered', 400),
		text('leave', 'How it is left', 400),
		group('timer', 'Leaves by itself', [number('hours', 'After', 'h', 0.1, 240)], {
			absent: 'missing',
			hint: 'The bench then says when, before it happens.'
		})
	]),
	number('supplyMinV', 'Lowest supply at the unit', 'V', 5, 72),
	number('consumptionW', 'Consumption', 'W', 1, 500),
	number('bootMinutes', 'Start-up', 'min', 0, 60),
	weight(100),
	group(
		'intermediate',
		'Intermediate frequency on its cable',
		[
			number('transmitMhz', 'Up to the radio', 'MHz', 1, 3000),
			number('receiveMhz', 'Down from the radio', 'MHz', 1, 3000),
			number('maxLossDb', 'Most loss of the cable, at the higher', 'dB', 1, 60)
		],
		{ absent: 'missing', hint: 'Of a radio whose modem stands indoors.' }
	),
	group(
		'distortion',
		'Selective fading',
		[
			number('delayNs', 'Delay of the echo', 'ns', 0.1, 100),
			table(
				'signatures',
				'Signatures',
				[
					text('modulation', 'Modulation', 40),
					number('channelWidthMhz', 'Channel', 'MHz', 0.1, 4000),
					number('widthMhz', 'Width of the signature', 'MHz', 0.1, 5000),
					number('minimumPhaseDb', 'Depth, minimum phase', 'dB', 0, 60),
					number('nonMinimumPhaseDb', 'Depth, non-minimum phase', 'dB', 0, 60)
				],
				1,
				60
			)
		],
		{
			absent: 'missing',
			hint: 'Signatures of the modulations. Without them the availability counts flat fades only, and says so.'
		}
	),
	group(
		'selectivity',
		'Neighbouring channels',
		[
			number('adjacentChannelDb', 'Kept off of the next channel', 'dB', 0, 100),
			number('secondChannelDb', 'Kept off of the one after', 'dB', 0, 100)
		],
		{
			absent: 'missing',
			hint: 'Without these only channels that overlap are counted as interference, and that is said.'
		}
	),
	installation([
		polarization('null'),
		films,
		text('flange', 'Flange'),
		SUPPLY,
		text('lamps', 'Lamps once it is up'),
		bolts('fixing', 'What holds it', {
			absent: 'missing',
			hint: 'Screws or latches between it and what it sits on.'
		})
	])
];

const DISH: readonly FieldSpec[] = [
	number('diameterM', 'Diameter', 'm', 0.1, 5),
	table(
		'bands',
		'Electrical values by band',
		[
			ghz('fromGhz', 'From'),
			ghz('toGhz', 'To'),
			number('gainDbi', 'Gain', 'dBi', 5, 70),
			ghz('atGhz', 'Stated at'),
			number('beamwidthDeg', 'Half-power beamwidth', '°', 0.05, 30),
			number('crossPolarDiscriminationDb', 'Cross-polar discrimination', 'dB', 10, 60),
			number('firstSideLobeDb', 'First side lobe below', 'dB', 10, 40)
		],
		1,
		20
	),
	text('polarizationSetting', 'How its polarization is set, in words'),
	group('cover', 'Cover', [number('wetLossDb', 'Loss when wet', 'dB', 0, 20)], {
		absent: 'missing',
		hint: 'Counts in rain, on top of the rain itself.'
	}),
	{
		type: 'pattern',
		key: 'pattern',
		label: 'Measured pattern',
		hint: 'Of this type, in the exchange format WG16.99.050; plans then use it in place of the values by band.'
	},
	weight(500),
	installation([
		polarization(),
		films,
		whole('oRings', 'O-rings', 0, 20),
		text('flange', 'Flange'),
		text('drain', 'What stands lowest'),
		bolts(),
		text('grease', 'Where grease goes, and where never'),
		group('bothPlanes', 'Both polarizations', [text('setting', 'What is done to the feed')], {
			absent: 'missing',
			hint: 'Where an orthomode transducer sits on it.'
		})
	])
];

const adjuster = (key: string, label: string): GroupSpec =>
	group(key, label, [
		number('threadPitchMm', 'Pitch of the thread', 'mm', 0.2, 10),
		number('armMm', 'Rod to pivot', 'mm', 10, 2000),
		number('travelDeg', 'Travel each way', '°', 0.5, 45),
		whole('nutFlats', 'Flats of the nut', 1, 12),
		text('positiveTurn', 'Turning that moves right, or up'),
		group(
			'nut',
			'Nut turned clockwise',
			[
				text('seenFrom', 'Clockwise seen from', 80),
				choice('clockwise', 'The dish goes', {
					'right-or-up': 'right, or up',
					'left-or-down': 'left, or down'
				}),
				choice('rod', 'The free rod becomes', { longer: 'longer', shorter: 'shorter' })
			],
			{
				absent: 'missing',
				hint: 'With it the bench says which way to turn the nut, and where the rod then stands.'
			}
		)
	]);

const MOUNT: readonly FieldSpec[] = [
	adjuster('azimuth', 'Azimuth adjuster'),
	adjuster('tilt', 'Tilt adjuster'),
	table(
		'fasteners',
		'Fasteners, in the order they are tightened',
		[
			text('name', 'Name', 120),
			choice('locks', 'Locks', { azimuth: 'azimuth', tilt: 'tilt' }),
			number('torqueNm', 'Torque', 'N·m', 1, 500)
		],
		1,
		40
	),
	range('pipeDiameterMm', 'Pipe it fits', 'mm', 20, 400),
	group(
		'carries',
		'What it is made for',
		[range('dishDiameterM', 'Diameter of the dish', 'm', 0.1, 5)],
		{
			absent: 'missing',
			hint: 'As its sheet says; with it the review finds a dish that it cannot hold.'
		}
	),
	weight(300),
	installation([
		group('centredRodMm', 'Free rod with the adjuster centred', [
			number('azimuth', 'Azimuth', 'mm', 1, 2000),
			number('tilt', 'Tilt', 'mm', 1, 2000)
		]),
		number('rodToleranceMm', 'Tolerance of it', 'mm', 0.1, 50),
		number('pipeLeanDeg', 'Greatest lean of the pipe', '°', 0.05, 5),
		number('pipeClampNm', 'Torque of the pipe clamps', 'N·m', 1, 1000),
		flag('strut', 'Has a strut against the wind')
	])
];

const FEEDER: readonly FieldSpec[] = [
	choice('kind', 'Kind', {
		direct: 'none: the radio sits on the dish',
		waveguide: 'waveguide',
		coaxial: 'coaxial'
	}),
	range('rangeGhz', 'Frequencies', 'GHz', 0.1, 120),
	pairs(
		'lossDbPer100M',
		'Loss by frequency',
		[ghz('', 'Frequency'), number('', 'Loss', 'dB per 100 m', 0, 1000)],
		'first-rises'
	),
	number('endsLossDb', 'Loss of both ends together', 'dB', 0, 10),
	group(
		'waveguide',
		'Waveguide',
		[
			choice('shape', 'Shape', {
				elliptical: 'elliptical',
				flexible: 'flexible',
				rectangular: 'rectangular'
			}),
			number('broadWallMm', 'Wide inner wall', 'mm', 1, 300, {
				hint: 'Of an elliptical guide: that of the rectangular one with the same cut-off.'
			}),
			number('minBendEPlaneMm', 'Least bend, E plane', 'mm', 1, 5000),
			number('minBendHPlaneMm', 'Least bend, H plane', 'mm', 1, 5000),
			number('maxTwistDegPerM', 'Most twist', '° per m', 0, 360)
		],
		{ when: { key: 'kind', is: 'waveguide' } }
	),
	installation([
		films,
		number('hangerEveryM', 'Longest distance of hangers', 'm', 0.1, 10),
		number('firstHangerM', 'First hanger from the end', 'm', 0.05, 5),
		number('gripEveryM', 'One hoisting grip for', 'm', 5, 200),
		whole('hangersBeforeRelease', 'Hangers before the grip is let go', 1, 20),
		bolts('flangeBolts', 'Flange bolts'),
		choice('dry', 'Kept dry', { pressurised: 'under pressure', sealed: 'sealed' }),
		group('weight', 'Weight of the run', [number('kgPerM', 'Weight', 'kg/m', 0.01, 50)], {
			absent: 'missing',
			hint: 'Without it the hoist does not count the run, and says so.'
		}),
		group(
			'wrapMm',
			'Joint that is wrapped',
			[number('diameter', 'Diameter', 'mm', 3, 400), number('length', 'Length', 'mm', 10, 500)],
			{ absent: 'missing', hint: 'A flange outdoors; the tape is counted by it.' }
		)
	])
];

const COUPLING: readonly FieldSpec[] = [
	choice('kind', 'Kind', {
		'equal-coupler': 'even coupler',
		'uneven-coupler': 'uneven coupler',
		orthomode: 'orthomode transducer',
		'dual-coupler': 'dual coupler'
	}),
	range('rangeGhz', 'Frequencies', 'GHz', 1, 120),
	table(
		'arms',
		'Arms',
		[
			text('name', 'Name', 40),
			number('lossDb', 'Loss', 'dB', 0, 20),
			choice('plane', 'Plane', { own: 'as the first', crossed: 'turned by 90°' })
		],
		2,
		4,
		{ unique: 'name' }
	),
	weight(100),
	installation([
		polarization('null'),
		films,
		whole('oRings', 'O-rings', 0, 20),
		text('flange', 'Flange'),
		bolts()
	])
];

const GLANDS = table(
	'glands',
	'Inserts of the gland',
	[
		text('name', 'Name'),
		number('fromMm', 'For cables from', 'mm', 1, 80),
		number('toMm', 'to', 'mm', 1, 80)
	],
	0,
	12
);

const CABLE: readonly FieldSpec[] = [
	number('conductorMm2', 'Conductor', 'mm²', 0.2, 50),
	number('ohmPerKm', 'One conductor at 20 °C', 'Ω/km', 0.1, 200),
	number('outerMm', 'Outer diameter', 'mm', 2, 60),
	number('kgPerKm', 'Weight', 'kg/km', 5, 5000),
	group(
		'wiring',
		'Wiring',
		[
			choice('kind', 'Kind', {
				dc: 'two conductors, DC',
				ethernet: 'pairs, Ethernet',
				coaxial: 'coaxial'
			}),
			whole('conductors', 'Conductors, without the screen', 1, 60),
			number('insulationMohm', 'Insulation at least', 'MΩ', 0.01, 10_000)
		],
		{ absent: 'missing', hint: 'Decides how it is tested before it is connected.' }
	),
	group(
		'coaxial',
		'Coaxial',
		[
			number('screenOhmPerKm', 'Screen at 20 °C', 'Ω/km', 0.1, 200),
			number('lossDbPer100M', 'Attenuation', 'dB per 100 m', 0.1, 100),
			number('atMhz', 'Stated at', 'MHz', 1, 3000)
		],
		{
			absent: 'missing',
			hint: 'Supply and intermediate frequency on one conductor and its screen.'
		}
	),
	installation([
		number('minBendRadiusMm', 'Least bend', 'mm', 5, 2000),
		number('clampEveryM', 'Longest distance of clamps', 'm', 0.1, 10),
		number('firstClampM', 'First clamp from the unit', 'm', 0.05, 5),
		group('connector', 'Connector', [
			text('name', 'Name'),
			table(
				'strips',
				'Stripped back from the cut end',
				[text('layer', 'Layer'), number('mm', 'Length', 'mm', 0.5, 300)],
				1,
				12
			),
			number('torqueNm', 'Torque', 'N·m', 0.2, 60),
			group('wrapMm', 'Joint that is wrapped', [
				number('diameter', 'Diameter', 'mm', 3, 200),
				number('length', 'Length', 'mm', 10, 500)
			])
		]),
		GLANDS,
		choice('weatherproofing', 'Weatherproofing', WEATHERPROOFING_WORDS)
	])
];

const INDOOR_UNIT: readonly FieldSpec[] = [
	choice('place', 'Place', { rack: 'rack', wall: 'wall', shelf: 'shelf' }),
	number('heightUnits', 'Height in the rack', 'U', 0, 60),
	whole('radioPorts', 'Radios it can serve', 1, 40),
	range('supplyV', 'Supply', 'V', 5, 75),
	number('consumptionW', 'Consumption without radios', 'W', 0.5, 3000),
	flag('feedsRadios', 'Feeds its radios over their cables'),
	weight(100),
	group(
		'chassis',
		'Chassis',
		[
			whole('slots', 'Slots', 1, 40),
			table(
				'boards',
				'Boards',
				[
					whole('slot', 'Slot', 1, 40),
					choice('kind', 'Kind', BOARD_WORDS),
					text('name', 'Name', 80),
					number('consumptionW', 'Consumption', 'W', 0, 500),
					whole('ports', 'Ports', 0, 64),
					number('capacityMbitS', 'Carries at most', 'Mbit/s', 0, 1_000_000),
					choice('fixing', 'Held by', {
						levers: 'levers',
						screws: 'screws',
						latch: 'a latch'
					})
				],
				1,
				40,
				{ unique: 'slot' }
			),
			group(
				'optical',
				'Optical',
				[
					whole('modules', 'Modules', 1, 60),
					number('fibreBendMm', 'Least bend of a fibre', 'mm', 5, 200)
				],
				{ absent: 'missing' }
			)
		],
		{
			absent: 'missing',
			hint: 'Of a unit that boards are put into; without it, it is one closed unit.'
		}
	)
];

const POWER_SOURCE: readonly FieldSpec[] = [
	choice('kind', 'Kind', {
		dc: 'DC',
		'poe-standard': 'Power over Ethernet, standard class',
		'poe-passive': 'Power over Ethernet, passive'
	}),
	number('outputV', 'Output', 'V', 5, 75),
	number('powerW', 'Power it can give', 'W', 1, 5000),
	number('backupHours', 'Battery at full load', 'h', 0, 500),
	weight(500)
];

const STEERED_UNIT: readonly FieldSpec[] = [
	range('rangeGhz', 'Frequencies it sends and receives', 'GHz', 1, 100),
	list('channelWidthsMhz', 'Channel widths', number('', 'Width', 'MHz', 0.1, 4000), 1, 40),
	MODULATIONS,
	number('noiseFigureDb', 'Noise figure', 'dB', 0.1, 20),
	number('gainDbi', 'Gain at boresight', 'dBi', 0, 60),
	number('beamwidthDeg', 'Half-power beamwidth of the steered beam', '°', 0.2, 90),
	number('sideLobeDb', 'Side lobes below the beam', 'dB', 3, 60),
	number('backDb', 'Front-to-back ratio', 'dB', 3, 90),
	number('adjacentChannelDb', 'Kept off of the next channel', 'dB', 0, 90),
	group('scan', 'Scan window', [
		number('azimuthDeg', 'Each way across', '°', 1, 90),
		number('elevationDeg', 'Each way up and down', '°', 1, 90),
		pairs(
			'loss',
			'Scan loss',
			[number('', 'Off boresight', '°', 0, 90), number('', 'Loss', 'dB', 0, 40)],
			'first-rises',
			{ hint: 'From 0° on. A unit that does not steer: half its beam, and the loss at its edge.' }
		)
	]),
	table(
		'mountings',
		'Mountings',
		[
			choice('how', 'On', { pole: 'a pole', wall: 'a wall', bracket: 'a tilting bracket' }),
			text('name', 'Name', 80),
			number('lowestTiltDeg', 'Lowest tilt', '°', -90, 90),
			number('highestTiltDeg', 'Highest tilt', '°', -90, 90),
			number('poleFromMm', 'Poles from', 'mm', 0, 400),
			number('poleToMm', 'to', 'mm', 0, 400)
		],
		1,
		3,
		{
			unique: 'how',
			hint: 'Tilts of 0 where it does not tilt, diameters of 0 where there is no pole.'
		}
	),
	number('bootMinutes', 'Start-up', 'min', 0, 60),
	weight(100),
	group(
		'installation',
		'Putting it up',
		[
			table(
				'contents',
				'In its box',
				[text('name', 'What', 80), whole('count', 'How many', 1, 100)],
				0,
				30
			),
			SUPPLY,
			number('consumptionW', 'Consumption', 'W', 0.5, 500),
			number('supplyMinV', 'Lowest voltage it works at', 'V', 5, 75),
			text('cable', 'Cable and plugs'),
			number('longestCableM', 'Longest cable', 'm', 1, 1000),
			GLANDS,
			text('earth', 'Earth point'),
			text('lowest', 'What hangs lowest'),
			text('reset', 'Reset button'),
			table(
				'lamps',
				'What its lamps mean',
				[choice('state', 'It is', LAMP_WORDS), text('shows', 'It shows', 80)],
				1,
				LAMP_STATES.length,
				{ unique: 'state' }
			),
			table(
				'display',
				'Level on its own display',
				[number('fromDbm', 'From', 'dBm', -120, 0), text('shows', 'It shows', 80)],
				0,
				12,
				{ unique: 'fromDbm', hint: 'From the weakest on. None where it shows figures only.' }
			)
		],
		{ absent: 'missing', hint: 'What a crew is told where it is put up.' }
	)
];

const HUB_UNIT: readonly FieldSpec[] = [
	...STEERED_UNIT,
	whole('mostTerminals', 'Most terminals', 1, 64),
	number('airTimePercent', 'Air time that carries traffic', '%', 1, 100, {
		hint: 'What turns and pauses leave of it.'
	})
];

/** Fields of every kind of part beyond code and name. */
export const PART_FIELDS: Readonly<Record<PartKind, readonly FieldSpec[]>> = {
	radio: RADIO,
	dish: DISH,
	mount: MOUNT,
	feeder: FEEDER,
	coupling: COUPLING,
	cable: CABLE,
	'indoor-unit': INDOOR_UNIT,
	'power-source': POWER_SOURCE,
	'hub-unit': HUB_UNIT,
	terminal: STEERED_UNIT
};
