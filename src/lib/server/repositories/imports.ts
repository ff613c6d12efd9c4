import type { Provenance } from '#core/provenance/provenance';
import { selectOne } from '../db/sql';
import { hopImports, type HopImportRow } from '../db/tables';
import type { Unit } from '../db/transaction';

export interface NewImport extends Omit<HopImportRow, 'earlier'> {
	earlier: Provenance | null;
}

export function insertImport({ earlier, ...row }: NewImport, unit: Unit): Promise<void> {
	return hopImports.add({ ...row, earlier: earlier && JSON.stringify(earlier) }, unit);
}

/** How a hop was taken in; undefined where it was made here. */
export async function findImport(hopId: string): Promise<Provenance | undefined> {
	const row = await selectOne<
		Omit<HopImportRow, 'hopId'> & { importer: string; trustedAs: string | null }
	>(
		`SELECT i.imported_at AS importedAt, u.display_name AS importer, i.source_key AS sourceKey,
			i.source_name AS sourceName, i.last_seq AS lastSeq, i.revisions, i.acceptances, i.earlier,
			t.name AS trustedAs
		FROM hop_imports i JOIN users u ON u.id = i.imported_by
		LEFT JOIN trusted_installations t ON t.public_key = i.source_key AND t.withdrawn_at IS NULL
		WHERE i.hop_id = ?`,
		[hopId]
	);
	return (
		row && {
			importedAt: row.importedAt.toISOString(),
			importedBy: row.importer,
			// The name it is trusted by here; what it calls itself proves nothing.
			source:
				row.sourceKey === null
					? null
					: { key: row.sourceKey, name: row.trustedAs ?? row.sourceName ?? '' },
			trusted: row.trustedAs !== null,
			lastSeq: row.lastSeq,
			revisions: row.revisions,
			acceptances: row.acceptances,
			earlier: row.earlier === null ? null : (JSON.parse(row.earlier) as Provenance)
		}
	);
}
