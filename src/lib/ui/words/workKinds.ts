/** Kinds of work as a foreman calls them, by the stretch of the job they belong to. */
export const WORK_KINDS: readonly { title: string; kinds: Readonly<Record<string, string>> }[] = [
	{
		title: 'Before anybody climbs',
		kinds: {
			configure: 'Set up the units on a desk',
			papers: 'Papers and protection packed',
			parties: 'Who is here to receive',
			'warm-up': 'Cold goods warmed before opening',
			packing: 'Every item counted',
			labels: 'Labels read against the plan'
		}
	},
	{
		title: 'Putting together, on the ground',
		kinds: {
			orientation: 'Side of the mount',
			'centre-azimuth': 'Azimuth adjuster centred',
			'centre-tilt': 'Tilt adjuster centred',
			pivots: 'Pivots and their screws',
			'dish-bolts': 'Dish to its mount',
			chain: 'Plane of every part',
			'both-planes': 'Feed lets both planes through'
		}
	},
	{
		title: 'Raising and mounting',
		kinds: {
			tight: 'Everything tight before the lift',
			'before-lift': 'Said aloud before the lift',
			pipe: 'Pipe plumb, right diameter',
			'pipe-lean': 'Lean of the pipe',
			hoist: 'Hoist',
			'pipe-clamps': 'Clamps round the pipe',
			height: 'Centre above ground',
			heading: 'Rough heading',
			'tilt-preset': 'Tilt by the digital level',
			films: 'Films and caps off, counted',
			'o-rings': 'O-rings greased and seated',
			'mount-radio': 'A radio on its dish',
			'mount-coupling': 'A coupling on its dish',
			'chain-mounted': 'Plane of what was mounted'
		}
	},
	{
		title: 'Waveguide and foot of the run',
		kinds: {
			'guide-mark': 'First hanger marked',
			'hangers-up': 'Hangers up, way clear',
			'guide-hoist': 'Run hoisted by its grip',
			'bend-e': 'Bend in the E plane',
			'bend-h': 'Bend in the H plane',
			'guide-caps': 'Bag and caps off at the joint',
			flanges: 'Flanges at the dish',
			'guide-earth': 'Earth kits of the run',
			'foot-films': 'Films and caps at the foot',
			'foot-radio': 'A radio at the foot',
			'foot-coupling': 'A coupling at the foot',
			'foot-flanges': 'Flanges at the foot',
			'guide-dry': 'Dry air on, pressure holds',
			'guide-weather': 'Joints of the run weatherproof'
		}
	},
	{
		title: 'Earth and cables',
		kinds: {
			'earth-leads': 'Earth leads of a radio',
			'earth-conductor': 'Size of the earth conductor',
			'earth-screens': 'Screens earthed',
			surge: 'Surge protectors',
			strip: 'A connector',
			clamps: 'Cable clamps',
			slack: 'Drip loop and slack',
			entry: 'Through the entry',
			continuity: 'Loop with the far end shorted',
			insulation: 'Insulation with the far end open',
			'cable-loss': 'Loss at the IF',
			weatherproof: 'Joints of a cable weatherproof'
		}
	},
	{
		title: 'Indoors and power',
		kinds: {
			'indoor-mount': 'Indoor unit in the rack',
			'source-mount': 'Power source in its place',
			'indoor-earth': 'Protective earth indoors',
			'indoor-ports': 'Each cable on its port',
			boards: 'Boards in their slots',
			fillers: 'Filler panels',
			optics: 'Optical modules and fibres',
			management: 'Management cable',
			'indoor-power': 'Supply measured indoors',
			gland: 'Gland, port and source',
			voltage: 'Voltage at a unit, under load',
			boot: 'Wait until a unit is up',
			'port-check': 'Which port feeds which radio'
		}
	},
	{
		title: 'At the bench',
		kinds: {
			'alignment-state': 'Alignment state',
			'sweep-coarse': 'Coarse sweeps, a turn',
			'sweep-fine': 'Fine sweeps, a turn',
			polarize: 'Discrimination',
			fix: 'Fix',
			close: 'Close',
			accept: 'Acceptance on site'
		}
	}
];
