import type { Role } from './roles';
import { forbidden } from '../errors';

/** Who is asking. */
export interface Actor {
	userId: string;
	displayName: string;
	role: Role;
	/** The session they ask in; none where the program acts by itself. */
	sessionId?: string;
	/** Their role asks for a second factor that they have not set up: until then they may do nothing else. */
	secondFactorDue?: true;
}

/** Every action that a role may or may not do; the one table that decides. */
export const ACTIONS = {
	'read-hops': ['planner', 'technician', 'acceptor', 'trainee', 'administrator'],
	compute: ['planner', 'technician', 'acceptor', 'trainee', 'administrator'],
	'edit-sites': ['planner', 'administrator'],
	'read-parts': ['planner', 'technician', 'acceptor', 'trainee', 'administrator'],
	'edit-parts': ['planner', 'administrator'],
	'edit-hops': ['planner', 'administrator'],
	'issue-revision': ['planner', 'administrator'],
	record: ['technician', 'planner', 'administrator'],
	'record-practice': ['technician', 'planner', 'administrator', 'trainee'],
	sign: ['acceptor'],
	'manage-people': ['administrator'],
	'manage-installation': ['administrator']
} as const satisfies Record<string, readonly Role[]>;

export type Action = keyof typeof ACTIONS;

const ACTION_WORDS: Record<Action, string> = {
	'read-hops': 'read hops',
	compute: 'compute',
	'edit-sites': 'change sites',
	'read-parts': 'see parts',
	'edit-parts': 'change parts',
	'edit-hops': 'change hops',
	'issue-revision': 'issue a plan revision',
	record: 'record on this hop',
	'record-practice': 'record on a practice hop',
	sign: 'sign an acceptance',
	'manage-people': 'manage people',
	'manage-installation': 'manage the installation'
};

export function may(actor: Actor, action: Action): boolean {
	return (ACTIONS[action] as readonly Role[]).includes(actor.role);
}

export function requireMay(actor: Actor, action: Action): void {
	if (!may(actor, action)) throw forbidden(ACTION_WORDS[action]);
}

/** Whose hops somebody sees: an administrator all, the others those they are a member of. */
export function viewerOf({ userId, role }: Actor): { userId: string; everything: boolean } {
	return { userId, everything: role === 'administrator' };
}
