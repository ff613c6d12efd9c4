import type { Provenance } from '#core/provenance/provenance';
import { findImport } from '../repositories/imports';

/** Where a hop came from; null where it was made here. No check of the actor. */
export async function provenanceOf(hopId: string): Promise<Provenance | null> {
	return (await findImport(hopId)) ?? null;
}
