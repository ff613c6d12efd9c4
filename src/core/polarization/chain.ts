import { carriersOf, CONFIGURATION_RULES, crossed, radiosOf } from '../budget/configuration';
import type { HopPlanInput } from '../budget/planInput';
import type { PolarizationSetting } from '../catalogue/installation';
import type { End, PerEnd } from '../ends';
import type { LinearPolarization } from '../propagation/rain';
import { itemAt } from '../units/lists';

/** One place between radio and dish where the plane can be set, or seen. */
export interface Joint {
	key: string;
	/** Part in words, such as "Radio 1, RU-18". */
	part: string;
	/** What the crew looks at. */
	mark: string;
	/** What it shows for each plane. */
	shows: Record<LinearPolarization, string>;
	expected: LinearPolarization;
	/** As the part is delivered; null where that says nothing. */
	delivered: LinearPolarization | null;
	/** Cannot be painted over: decides when marks disagree with it. */
	independent: boolean;
}

const WALL_SHOWS: Joint['shows'] = {
	vertical: 'short wall vertical',
	horizontal: 'short wall level'
};

/** Every joint of one end from its radios to its dish, in that order. */
export function chainOf(input: HopPlanInput, end: End): Joint[] {
	const own = input.ends[end];
	const rule = CONFIGURATION_RULES[input.configuration.kind];
	const coupling = rule.couplings.length ? own.coupling : null;
	const joints: Joint[] = [];
	const add = (
		key: string,
		part: string,
		setting: PolarizationSetting | null | undefined,
		expected: LinearPolarization
	): void => {
		if (!setting) return;
		joints.push({
			key,
			part,
			mark: setting.mark,
			shows: setting.shows,
			expected,
			delivered: setting.delivered,
			independent: false
		});
	};
	const planes = radioPlanes(input);
	radiosOf(input, end).forEach(({ code, installation }, i) =>
		add(`radio-${i + 1}`, `Radio ${i + 1}, ${code}`, installation?.polarization, itemAt(planes, i))
	);
	if (coupling && coupling.arms.some((arm) => arm.plane === 'crossed')) {
		planes.forEach((plane, i) => joints.push(portJoint(coupling.arms, plane, own.polarization, i)));
	}
	if (coupling) {
		add(
			'coupling',
			`Coupling, ${coupling.code}`,
			coupling.installation?.polarization,
			own.polarization
		);
	}
	if (own.dish.installation) {
		add('feed', `Feed, ${own.dish.code}`, own.dish.installation.polarization, own.polarization);
		joints.push(wallJoint('wall', `Waveguide at the feed, ${own.dish.code}`, own.polarization));
	}
	if (rule.dishes === 2 && own.secondDish?.installation) {
		add(
			'second-feed',
			`Second feed, ${own.secondDish.code}`,
			own.secondDish.installation.polarization,
			own.polarization
		);
		joints.push(
			wallJoint(
				'second-wall',
				`Waveguide at the second feed, ${own.secondDish.code}`,
				own.polarization
			)
		);
	}
	return joints;
}

/** Plane of each radio of an end, in the order of the arms. */
function radioPlanes(input: HopPlanInput): LinearPolarization[] {
	const rule = CONFIGURATION_RULES[input.configuration.kind];
	const carriers = carriersOf(input);
	return Array.from(
		{ length: rule.radios },
		(_, i) => carriers[i]?.polarization ?? input.ends.A.polarization
	);
}

/** Which port a radio sits on: the plane that port carries. */
function portJoint(
	arms: readonly { name: string; plane: 'own' | 'crossed' }[],
	expected: LinearPolarization,
	own: LinearPolarization,
	index: number
): Joint {
	const names = (plane: 'own' | 'crossed'): string =>
		arms
			.filter((arm) => arm.plane === plane)
			.map((arm) => arm.name.toLowerCase())
			.join(' or ');
	const shows = {
		[own]: `on ${names('own')}`,
		[crossed(own)]: `on ${names('crossed')}`
	} as Joint['shows'];
	return {
		key: `port-${index + 1}`,
		part: `Radio ${index + 1} on the coupling`,
		mark: 'port it sits on',
		shows,
		expected,
		delivered: null,
		independent: false
	};
}

function wallJoint(key: string, part: string, expected: LinearPolarization): Joint {
	return {
		key,
		part,
		mark: 'walls of the guide, transmitter off',
		shows: WALL_SHOWS,
		expected,
		delivered: null,
		independent: true
	};
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
export function judgeChain(input: HopPlanInput, seen: JointsSeen, end: End): ChainJudgement {
	const joints = chainOf(input, end).map((joint): JointState => {
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
	return joints
		.filter(({ joint, verdict }) => joint.independent && verdict === 'wrong')
		.flatMap(({ joint }) => {
			const feed = joints.find(
				(state) => state.joint.key === joint.key.replace('wall', 'feed') && state.shows !== null
			);
			return feed?.verdict === 'agrees'
				? [
						`The ${feed.joint.mark} says ${feed.shows}, the guide itself does not: a mark can be painted over or the part be of another kind. The guide decides.`
					]
				: [];
		});
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
