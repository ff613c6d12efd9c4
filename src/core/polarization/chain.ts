import { inventoryOf, type CouplingItem, type Inventory } from '../budget/inventory';
import { crossed } from '../budget/configuration';
import type { HopPlanInput } from '../budget/planInput';
import type { PolarizationSetting } from '../catalogue/installation';
import type { End, PerEnd } from '../ends';
import type { LinearPolarization } from '../propagation/rain';

/** One place between radio and dish where the plane can be set, or seen. */
export interface Joint {
	key: string;
	/** The part it is on, as the inventory has it. */
	item: string;
	/** Part in words, such as "Radio 1, RU-18". */
	part: string;
	/** What the crew looks at. */
	mark: string;
	/** What it shows for each plane. */
	shows: Record<LinearPolarization, string>;
	expected: LinearPolarization;
	/** As the part is delivered; null where that says nothing. */
	delivered: LinearPolarization | null;
	/** Cannot be painted over: decides when the mark of that joint disagrees with it. */
	proves: string | null;
	/** Set on the part itself before it goes anywhere, or only as it is mounted. */
	set: 'part' | 'mounting';
}

const WALL_SHOWS: Joint['shows'] = {
	vertical: 'short wall vertical',
	horizontal: 'short wall level'
};

/**
 * Every joint of one end that decides the plane of what is sent, from its radios to its dishes. A radio or a
 * coupler at the foot of a guide follows the guide, whose twist down there says nothing of the dish.
 */
export function chainOf(input: HopPlanInput, end: End): Joint[] {
	const inventory = inventoryOf(input, end);
	const { coupling } = inventory;
	return [
		...radioJoints(inventory),
		...(coupling?.place === 'dish' ? couplingJoints(inventory, coupling) : []),
		...dishJoints(inventory)
	];
}

type Named = Pick<Joint, 'key' | 'item' | 'part' | 'expected' | 'set'>;

function setJoint(setting: PolarizationSetting | null | undefined, joint: Named): Joint[] {
	if (!setting) return [];
	const { mark, shows, delivered } = setting;
	return [{ ...joint, mark, shows, delivered, proves: null }];
}

function radioJoints({ radios }: Inventory): Joint[] {
	return radios
		.filter(({ place }) => place === 'dish')
		.flatMap(({ key, number, part, polarization }) =>
			setJoint(part.installation?.polarization, {
				key,
				item: key,
				part: `Radio ${number}, ${part.code}`,
				expected: polarization,
				set: 'mounting'
			})
		);
}

/** Which port each radio sits on, how the coupling is turned, and what its openings themselves show. */
function couplingJoints({ radios, dishes }: Inventory, coupling: CouplingItem): Joint[] {
	const own = dishes[0]?.polarization ?? 'vertical';
	const { arms, code, installation } = coupling.part;
	const turned = setJoint(installation?.polarization, {
		key: 'coupling',
		item: coupling.key,
		part: `Coupling, ${code}`,
		expected: own,
		set: 'mounting'
	});
	if (!coupling.bothPlanes) return turned;
	const named = (plane: 'own' | 'crossed'): string =>
		arms
			.filter((arm) => arm.plane === plane)
			.map((arm) => arm.name.toLowerCase())
			.join(' or ');
	const shows = {
		[own]: `on ${named('own')}`,
		[crossed(own)]: `on ${named('crossed')}`
	} as Joint['shows'];
	const ports = radios.map(({ number, key, place, polarization }): Joint => ({
		key: `port-${number}`,
		item: key,
		part: place === 'dish' ? `Radio ${number} on the coupling` : `Run of radio ${number}`,
		mark: place === 'dish' ? 'port it sits on' : 'port it comes down from',
		shows,
		expected: polarization,
		delivered: null,
		proves: null,
		set: 'mounting'
	}));
	const openings = arms.map(({ name, plane }, i): Joint => ({
		key: `port-wall-${i + 1}`,
		item: coupling.key,
		part: `Opening of ${name.toLowerCase()}, ${code}`,
		mark: 'walls of the opening, transmitter off',
		shows: WALL_SHOWS,
		expected: plane === 'own' ? own : crossed(own),
		delivered: null,
		proves: 'coupling',
		set: 'mounting'
	}));
	return [...ports, ...turned, ...openings];
}

function dishJoints({ dishes }: Inventory): Joint[] {
	return dishes.flatMap(({ number, key: item, part, polarization, bothPlanes }): Joint[] => {
		const setting = part.installation?.polarization;
		const [feed, wall, words] =
			number === 2 ? ['second-feed', 'second-wall', 'Second feed'] : ['feed', 'wall', 'Feed'];
		const joint = { key: feed, item, part: `${words}, ${part.code}`, set: 'part' as const };
		if (!setting) return [];
		if (bothPlanes) {
			// A feed that turns carries the transducer round with it: it stays as delivered. A blade or an insert
			// would let one plane through only, and comes out: a step of its own says so.
			return setting.how === 'turn'
				? setJoint(setting, { ...joint, expected: setting.delivered })
				: [];
		}
		return [
			...setJoint(setting, { ...joint, expected: polarization }),
			{
				key: wall,
				item,
				part: `Waveguide at the ${words.toLowerCase()}, ${part.code}`,
				mark: 'walls of the guide, transmitter off',
				shows: WALL_SHOWS,
				expected: polarization,
				delivered: null,
				proves: feed,
				set: 'part'
			}
		];
	});
}

export interface JointState {
	joint: Joint;
	shows: LinearPolarization | null;
	verdict: 'agrees' | 'wrong' | 'open';
	reason: string;
}

export interface ChainJudgement {
	joints: JointState[];
	/** What is wrong at this end, worst first; empty when nothing is. */
	problems: string[];
	complete: boolean;
}

/** What the joints of an end were seen set to, by their keys. */
export type JointsSeen = Readonly<Record<string, LinearPolarization>>;

/** What was seen last of every joint of an end, against the plan. */
export function judgeChain(
	input: HopPlanInput,
	seen: JointsSeen,
	end: End,
	only?: readonly string[]
): ChainJudgement {
	const asked = chainOf(input, end).filter(({ key }) => !only || only.includes(key));
	const joints = asked.map((joint): JointState => {
		const shows = seen[joint.key] ?? null;
		if (shows === null) {
			return {
				joint,
				shows,
				verdict: 'open',
				reason: `Expected: ${joint.shows[joint.expected]}.`
			};
		}
		if (shows === joint.expected) return { joint, shows, verdict: 'agrees', reason: 'As planned.' };
		return {
			joint,
			shows,
			verdict: 'wrong',
			reason: `${joint.part} at ${end} is set ${shows} (${joint.shows[shows]}); the plan says ${joint.expected}: ${joint.shows[joint.expected]}.`
		};
	});
	return {
		joints,
		problems: [
			...paintedOver(joints),
			...joints.filter((state) => state.verdict === 'wrong').map((state) => state.reason)
		],
		complete: joints.every((state) => state.verdict !== 'open')
	};
}

/** Marks that agree with the plan while the guide itself says otherwise. */
function paintedOver(joints: readonly JointState[]): string[] {
	const problems = joints
		.filter(({ joint, verdict }) => joint.proves !== null && verdict === 'wrong')
		.flatMap(({ joint }) => {
			const marked = joints.find((state) => state.joint.key === joint.proves);
			return marked?.verdict === 'agrees'
				? [
						`The ${marked.joint.mark} says ${marked.shows}, the guide itself does not: a mark can be painted over or the part be of another kind. The guide decides.`
					]
				: [];
		});
	return [...new Set(problems)];
}

/** Whether the two ends disagree although each looks whole by itself; empty when they agree. */
export function compareChains(input: HopPlanInput, seen: PerEnd<JointsSeen>): string[] {
	const [a, b] = [judgeChain(input, seen.A, 'A'), judgeChain(input, seen.B, 'B')];
	return a.joints.flatMap((own) => {
		const other = b.joints.find((state) => state.joint.key === own.joint.key);
		return own.shows !== null && other?.shows && own.shows !== other.shows
			? [`${own.joint.part}: ${own.shows} at A, ${other.shows} at B. Both ends must be alike.`]
			: [];
	});
}
