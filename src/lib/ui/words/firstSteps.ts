export interface FirstStep {
	/** What to do, as somebody would say it who shows a new colleague round. */
	does: string;
	/** Why, or what comes of it. */
	why: string;
	/** Where it is done; nothing where it is done on the page that is open. */
	to?:
		| '/sites'
		| '/sites/new'
		| '/hops/new'
		| '/exchange'
		| '/parts'
		| '/people'
		| '/account'
		| '/glossary';
}

/** The way of each role, from the first sign-in to the first work done. */
export const FIRST_STEPS = {
	planner: [
		{
			does: 'Bring in the sites',
			why: 'One by one with their coordinates, or a whole list as CSV, GeoJSON or GPX.',
			to: '/exchange'
		},
		{
			does: 'Look at the parts',
			why: 'Every figure of a plan comes from them: dishes, radios, feeders, mounts.',
			to: '/parts'
		},
		{
			does: 'Plan a hop',
			why: 'Two sites and a channel; path, levels and availability follow as you type.',
			to: '/hops/new'
		},
		{
			does: 'Mend what the review finds, then issue the plan',
			why: 'Each finding leads to its field. What is issued is frozen; the crews get their site sheets.'
		},
		{
			does: 'Say who works on it',
			why: 'Under People, beside its plan. Only they see it in their list.'
		}
	],
	technician: [
		{
			does: 'Open your hop while you have a connection',
			why: 'It is kept on this device then; the page of the hop says so.'
		},
		{
			does: 'Choose the end you stand at',
			why: 'Your mast is on the left, the far end on the right; its bays are the stages of the work.'
		},
		{
			does: 'Press the large dark button',
			why: 'It is always the next thing to do: from the crate to the signature.'
		},
		{
			does: 'Move the dish only while you hold the baton',
			why: 'One end moves at a time. The far end sees what you read, and you see theirs.'
		},
		{
			does: 'Record without a connection as well',
			why: 'What you record waits on this device and goes out by itself; the line at the top says how much.'
		}
	],
	trainee: [
		{
			does: 'Take a practice hop',
			why: 'Dishes, meter and faults are simulated; the screens are those of the real work.'
		},
		{
			does: 'Choose an end and press the large dark button',
			why: 'It is always the next thing to do.'
		},
		{
			does: 'Read why, not only what',
			why: 'Below every step stands its reason. Underlined terms explain themselves on a tap.',
			to: '/glossary'
		},
		{
			does: 'Look at the record afterwards',
			why: 'It replays your alignment, reading by reading, with what each said of where the far end is.'
		}
	],
	acceptor: [
		{
			does: 'Open a hop that is under way',
			why: 'Its Accept page judges what was measured against the plan, line by line.'
		},
		{
			does: 'Read what is missing or deviates',
			why: 'It stands first. A deviation is signed only with a cause in writing.'
		},
		{
			does: 'Sign it, or send it back with a reason',
			why: 'What is signed is frozen. What is sent back is on both crews’ phones at once.'
		}
	],
	administrator: [
		{
			does: 'Make accounts for the others',
			why: 'Each with a role: it decides what they may change. They change the password you give them on their own page.',
			to: '/people'
		},
		{
			does: 'Guard your own account',
			why: 'A passkey or a second factor: you can reset everybody else’s.',
			to: '/account'
		}
	]
} as const satisfies Record<string, readonly FirstStep[]>;

/** Every role has a way of its own: one without does not compile where it is asked for. */
export type GuidedRole = keyof typeof FIRST_STEPS;

export const firstStepsOf = (role: GuidedRole): readonly FirstStep[] => FIRST_STEPS[role];

/** What says on a device that somebody of a role has put the first steps away. */
export const firstStepsCookie = (role: GuidedRole): string => `skiaxis-began-${role}`;
