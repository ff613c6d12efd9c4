/** A term of the trade as every screen, sheet and document of this program writes it. */
export interface Term {
	/** As it is written, everywhere. */
	term: string;
	/** What an abbreviation stands for; empty where the term is its own word. */
	standsFor: string;
	/** What it means, in a sentence or two that a newcomer understands. */
	means: string;
	/** Its unit; empty where it has none. */
	unit: string;
	/** When we say it: which of several words is ours, and where another one stands. */
	when: string;
	/** Spellings and words that are not used for it on any screen, as whole words. */
	not?: readonly string[];
}

const term = (
	name: string,
	standsFor: string,
	means: string,
	unit: string,
	when: string,
	not?: readonly string[]
): Term => ({ term: name, standsFor, means, unit, when, ...(not ? { not } : {}) });

/**
 * The vocabulary: one row a term, in the order of the alphabet. Screens explain a term from here when it is
 * tapped, the glossary lists it, and a test finds words that are not ours.
 */
export const VOCABULARY: readonly Term[] = [
	term(
		'ACM',
		'adaptive coding and modulation',
		'The radio goes down to a sturdier modulation when the signal weakens, and up again when it is back. While a dish is aligned it is off: a lower modulation may send more power, and the level jumps.',
		'',
		'For the function. A single step of it is a modulation.',
		['adaptive modulation']
	),
	term(
		'ATPC',
		'automatic transmit power control',
		'The transmitter sends only as much as the far end needs. While a dish is aligned it is off: it makes up for a worse aim by sending more, and the RSL rises as the pointing worsens.',
		'dB of range',
		'For the function; the power it has in hand is its range.',
		['automatic power control']
	),
	term(
		'azimuth',
		'',
		'The direction of a dish in the horizontal plane, clockwise from north. True north unless a compass is named.',
		'°',
		'Bearing is the azimuth of the path; azimuth is also the adjuster that turns the dish sideways.'
	),
	term(
		'baton',
		'',
		'Who holds it may move their dish. Two dishes that move at once make every reading worthless.',
		'',
		'Only for the right to move; it is handed over.'
	),
	term(
		'carrier',
		'',
		'One frequency on one polarization, sent by one radio. A hop has one of them or several.',
		'',
		'For what is in the air; the unit that sends it is a radio.'
	),
	term(
		'coupling',
		'',
		'What joins two radios to one dish: a coupler, even or uneven, or an OMT.',
		'',
		'For the part, whichever kind it is.'
	),
	term(
		'dBm',
		'decibels over a milliwatt',
		'A power on a scale in which ten more is ten times as much. Received levels are negative; −40 is stronger than −50.',
		'dBm',
		'For a level. A difference of two levels is in dB.'
	),
	term(
		'EIRP',
		'equivalent isotropically radiated power',
		'What would have to be sent evenly to all sides to arrive as strongly as this dish sends straight ahead: transmit power, less feeder, plus antenna gain. The licence limits it.',
		'dBm',
		'For what leaves the dish.'
	),
	term(
		'F1',
		'first Fresnel zone',
		'The room around the ray that a hop needs free. Clearance is told as a multiple of its radius at the place.',
		'multiple of the radius',
		'With a number before it: 0.6 F1.'
	),
	term(
		'feeder',
		'',
		'What carries the signal between radio and dish where the radio does not sit on it: waveguide or coaxial cable.',
		'dB of loss',
		'For the part; a single length of it is a run.'
	),
	term(
		'HSB',
		'hot standby',
		'A second radio stands ready on the same dish and takes over when the first one fails. Through an uneven coupler one of them hears less, by design.',
		'',
		'For the configuration; the radios are main and standby.'
	),
	term(
		'hub',
		'',
		'A site whose units steer their beams by themselves to many terminals. It is aimed coarsely: every terminal has to lie inside a scan window, in both angles.',
		'',
		'For the site with its units; each unit has a name of its own. A hop joins two sites.'
	),
	term(
		'IDU',
		'indoor unit',
		'The part of a split radio that stands in the rack: modem, traffic ports and the supply of the ODU.',
		'',
		'For the part in the rack.',
		['inside unit']
	),
	term(
		'IF cable',
		'intermediate frequency cable',
		'The coaxial cable between IDU and ODU. It carries the signal at an intermediate frequency, and mostly the supply, too.',
		'm',
		'For the coaxial cable of a split radio; a cable with traffic is a data cable, one with power alone a supply cable.'
	),
	term(
		'lobe',
		'',
		'A direction into which a dish sends more than into those beside it. The main lobe is where the hop belongs.',
		'',
		'Main lobe and side lobe.'
	),
	term(
		'main lobe',
		'',
		'The strongest direction of a dish, one beamwidth wide. Both ends must stand in the middle of it.',
		'°',
		'Of both ends: both ends are on the main lobe.',
		['mainlobe', 'main beam']
	),
	term(
		'margin',
		'',
		'How far the RSL stands above the threshold of a modulation: what rain and fading may take away.',
		'dB',
		'Fade margin, where fading is meant.'
	),
	term(
		'ODU',
		'outdoor unit',
		'The radio at the antenna, straight on the dish or beside it. Radios that stand indoors are called radios, too: what is true of both says radio.',
		'',
		'For a radio that hangs outdoors, where the difference matters.'
	),
	term(
		'OMT',
		'orthomode transducer',
		'Joins two radios to one dish, one on each polarization. Its ports are not alike: which one is vertical depends on how it is turned.',
		'',
		'For the part; together with couplers it is a coupling.',
		['ortho mode transducer', 'ortho-mode transducer']
	),
	term(
		'polarization',
		'',
		'The plane in which the field of a wave swings: vertical or horizontal. Both ends of a carrier must agree, or some 30 dB are lost.',
		'',
		'Vertical and horizontal, never up and down.',
		['polarisation']
	),
	term(
		'RSL',
		'received signal level',
		'The power that arrives at the receiver. Planned for each end; measured when the dish is aligned; the difference tells where the beam stands.',
		'dBm',
		'For the level at a receiver; short where it falls below the plan.',
		['RX level', 'receive level', 'Rx level']
	),
	term(
		'RSSI',
		'received signal strength indicator',
		'A voltage at the radio that stands for the RSL by a curve of its own. On some radios it rises with the level, on others it falls.',
		'V',
		'For the voltage at the port; what it means in dBm is the RSL.'
	),
	term(
		'scan window',
		'',
		'How far a unit steers its beam off its face, across and up and down. What lies outside is not reached, however near; towards its edge the level falls.',
		'° each way',
		'Of units and terminals that steer by themselves; a dish has a beam.'
	),
	term(
		'side lobe',
		'',
		'A weaker direction beside the main lobe, some 15 to 30 dB down. A sweep that stops on one looks like a peak: it is narrower and the level is short.',
		'dB below the main lobe',
		'First side lobe for the one next to the main lobe.',
		['sidelobe']
	),
	term(
		'sweep',
		'',
		'The dish is turned evenly over a range, and the level read at every step: what it draws tells which lobe one is on.',
		'',
		'For the whole turn; a straight line through the map is a cut.'
	),
	term(
		'threshold',
		'',
		'The weakest level at which a modulation still works.',
		'dBm',
		'With its modulation.'
	),
	term(
		'tilt',
		'',
		'The angle of a dish above or below level, up positive.',
		'°',
		'Also the adjuster that does it.',
		['elevation angle']
	),
	term(
		'XPD',
		'cross-polar discrimination',
		'How much weaker the far end’s one polarization arrives on the other. Two polarizations on one channel need it.',
		'dB',
		'For the measured difference at an end; what the antenna alone can do is its XPD, too.',
		['cross polar discrimination']
	),
	term(
		'XPIC',
		'cross-polar interference canceller',
		'A circuit in the receivers of a pair of radios that takes out what leaks from one polarization into the other. It helps by some decibels and replaces no aligned feed.',
		'dB of improvement',
		'For the circuit; its improvement is what is planned with.'
	)
];

const BY_TERM: ReadonlyMap<string, Term> = new Map(VOCABULARY.map((one) => [one.term, one]));

/** The row of a term as it is written; undefined where it is none of ours. */
export function termOf(text: string): Term | undefined {
	return BY_TERM.get(text);
}

/** Abbreviations are marked wherever they stand in a sentence; a plain word explains itself. */
const MARKED = VOCABULARY.filter(({ standsFor }) => standsFor !== '').map((one) => one.term);
const AS_WORDS = new RegExp(`\\b(${MARKED.join('|')})\\b`, 'u');

/**
 * A sentence cut at its abbreviations, in order: plain text, and the terms between.
 *
 * @param text any sentence
 * @returns parts whose texts make up the sentence again; `term` where the part is one
 */
export function withTerms(text: string): { text: string; term?: Term }[] {
	return text
		.split(AS_WORDS)
		.filter((part) => part !== '')
		.map((part) => {
			const known = MARKED.includes(part) ? termOf(part) : undefined;
			return known ? { text: part, term: known } : { text: part };
		});
}
