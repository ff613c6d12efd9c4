import type { Provenance } from '#core/provenance/provenance';
import { selectOne } from '../db/sql';
import { hopImports, hubImports, type HopImportRow, type HubImportRow } from '../db/tables';
import type { Unit } from '../db/transaction';

type Told<R> = Omit<R, 'earlier'> & { earlier: Provenance | null };

const written = (earlier: Provenance | null): string | null => earlier && JSON.stringify(earlier);

export const insertImport = ({ earlier, ...row }: Told<HopImportRow>, unit: Unit): Promise<void> =>
	hopImports.add({ ...row, earlier: written(earlier) }, unit);

export const insertHubImport = (
	{ earlier, ...row }: Told<HubImportRow>,
	unit: Unit
): Promise<void> => hubImports.add({ ...row, earlier: written(earlier) }, unit);

/** How a hop was taken in; undefined where it was made here. */
export const findImport = (hopId: string): Promise<Provenance | undefined> =>
	importFrom('hop_imports', 'hop_id', hopId);

/** The same of a hub. */
export const findHubImport = (hubId: string): Promise<Provenance | undefined> =>
	importFrom('hub_imports', 'hub_id', hubId);

async function importFrom(
	table: 'hop_imports' | 'hub_imports',
	column: 'hop_id' | 'hub_id',
	id: string
): Promise<Provenance | undefined> {
	const row = await selectOne<
		Omit<HubImportRow, 'hubId'> & { importer: string; trustedAs: string | null }
	>(
		`SELECT i.imported_at AS importedAt, u.display_name AS importer, i.source_key AS sourceKey,
			i.source_name AS sourceName, i.last_seq AS lastSeq, i.revisions, i.acceptances, i.earlier,
			t.name AS trustedAs
		FROM ${table} i JOIN users u ON u.id = i.imported_by
		LEFT JOIN trusted_installations t ON t.public_key = i.source_key AND t.withdrawn_at IS NULL
		WHERE i.${column} = ?`,
		[id]
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
