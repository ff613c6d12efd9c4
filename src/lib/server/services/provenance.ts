import type { Provenance } from '#core/provenance/provenance';
import { findHubImport, findImport } from '../repositories/imports';

/** Where a hop came from; null where it was made here. No check of the actor. */
export async function provenanceOf(hopId: string): Promise<Provenance | null> {
	return (await findImport(hopId)) ?? null;
}

/** The same of a hub. */
export async function hubProvenanceOf(hubId: string): Promise<Provenance | null> {
	return (await findHubImport(hubId)) ?? null;
}
