import { gunzipSync, gzipSync } from 'node:zlib';
import type { ProjectHop, ProjectQuestion } from '#core/schedule/projectDays';
import { moveProject, type KeptOrder, type MovedSchedule } from '#core/schedule/projectSchedule';

/** What a schedule was worked out from, and the order of its tasks. */
export interface Basis {
	question: ProjectQuestion;
	order: KeptOrder;
}

export const packBasis = (basis: Basis): Uint8Array => gzipSync(JSON.stringify(basis));

/** A schedule that was worked out before, moved by how some of its hops stand now. */
export function moveKept({
	basis,
	hops,
	now
}: {
	/** Of {@link packBasis}. */
	basis: Uint8Array;
	/** Those that went on since. */
	hops: ProjectHop[];
	/** Minutes since 1970 UTC. */
	now: number;
}): MovedSchedule {
	const { question, order } = JSON.parse(gunzipSync(basis).toString()) as Basis;
	const fresh = new Map(hops.map((hop) => [hop.id, hop]));
	const all = question.hops.map((hop) => fresh.get(hop.id) ?? hop);
	return moveProject({ ...question, hops: all, now }, order);
}
