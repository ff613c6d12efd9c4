/**
 * Where a hop came from, and that its record is whole: what was imported, the installation's own key and
 * those it trusts, and the chain of digests over each hop's record.
 */
import { createHash } from 'node:crypto';
import canonicalize from 'canonicalize';

const TABLES = [
	`CREATE TABLE IF NOT EXISTS installation (
		id TINYINT NOT NULL PRIMARY KEY CHECK (id = 1),
		public_key CHAR(43) CHARACTER SET ascii NOT NULL,
		private_key VARCHAR(200) CHARACTER SET ascii NOT NULL,
		made_at DATETIME(3) NOT NULL
	)`,
	`CREATE TABLE IF NOT EXISTS trusted_installations (
		public_key CHAR(43) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
		name VARCHAR(120) NOT NULL,
		added_by CHAR(36) CHARACTER SET ascii NOT NULL,
		added_at DATETIME(3) NOT NULL,
		withdrawn_at DATETIME(3) NULL,
		CONSTRAINT fk_trusted_user FOREIGN KEY (added_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS hop_imports (
		hop_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		imported_by CHAR(36) CHARACTER SET ascii NOT NULL,
		imported_at DATETIME(3) NOT NULL,
		source_key CHAR(43) CHARACTER SET ascii COLLATE ascii_bin NULL,
		source_name VARCHAR(120) NULL,
		last_seq BIGINT NOT NULL,
		revisions INT NOT NULL,
		acceptances INT NOT NULL,
		photos INT NOT NULL,
		earlier LONGTEXT NULL CHECK (JSON_VALID(earlier)),
		CONSTRAINT fk_imports_hop FOREIGN KEY (hop_id) REFERENCES hops (id),
		CONSTRAINT fk_imports_user FOREIGN KEY (imported_by) REFERENCES users (id)
	)`
];

const FROZEN = ['hop_imports', 'installation'];
const CHANGES = ['UPDATE', 'DELETE'];
/** Digest before the first record of a hop. */
const START = '0'.repeat(64);
const AT_ONCE = 500;

export async function up({ context: sequelize }) {
	for (const table of TABLES) {
		await sequelize.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
	}
	await sequelize.query(
		'ALTER TABLE field_records ADD COLUMN IF NOT EXISTS digest CHAR(64) CHARACTER SET ascii NULL'
	);
	await sequelize.query(
		`ALTER TABLE hop_feeds
		ADD COLUMN IF NOT EXISTS digest CHAR(64) CHARACTER SET ascii NOT NULL DEFAULT '${START}'`
	);
	await sequelize.query(
		'ALTER TABLE acceptances ADD COLUMN IF NOT EXISTS record_digest CHAR(64) CHARACTER SET ascii NULL'
	);
	await markEarlierImports(sequelize);
	// The one time that the record is touched: the digest of what stands there is written beside it.
	await sequelize.query('DROP TRIGGER IF EXISTS field_records_no_update');
	await chainRecords(sequelize);
	await appendOnly(sequelize, 'field_records', 'UPDATE');
	for (const table of FROZEN) {
		for (const change of CHANGES) await appendOnly(sequelize, table, change);
	}
	await appendOnly(sequelize, 'trusted_installations', 'DELETE');
}

function appendOnly(sequelize, table, change) {
	return sequelize.query(
		`CREATE TRIGGER IF NOT EXISTS ${table}_no_${change.toLowerCase()} BEFORE ${change} ON ${table}
		FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = '${table} is append-only'`
	);
}

/** Hops taken in before imports were marked: the audit trail knows them. Nothing was signed then. */
async function markEarlierImports(sequelize) {
	await sequelize.query(
		`INSERT IGNORE INTO hop_imports
			(hop_id, imported_by, imported_at, source_key, source_name, last_seq, revisions, acceptances,
			photos, earlier)
		SELECT h.id, t.user_id, t.at, NULL, NULL,
			COALESCE(JSON_VALUE(t.detail, '$.records'), 0),
			(SELECT COUNT(*) FROM plan_revisions r WHERE r.hop_id = h.id AND r.issued_at <= t.at),
			(SELECT COUNT(*) FROM acceptances x WHERE x.hop_id = h.id AND x.signed_at <= t.at),
			COALESCE(JSON_VALUE(t.detail, '$.photos'), 0), NULL
		FROM audit_trail t JOIN hops h ON t.subject = CONCAT('hop:', h.id)
		WHERE t.action = 'import-hop' AND t.user_id IS NOT NULL`
	);
}

async function chainRecords(sequelize) {
	const [hops] = await sequelize.query('SELECT hop_id FROM hop_feeds WHERE last_seq > 0');
	for (const { hop_id: hopId } of hops) {
		let previous = START;
		let after = 0;
		for (;;) {
			const [rows] = await sequelize.query(
				`SELECT id, seq, revision_id AS revisionId, end, kind, payload, recorded_at AS recordedAt,
					received_at AS receivedAt, recorded_by AS recordedBy
				FROM field_records WHERE hop_id = ? AND seq > ? ORDER BY seq LIMIT ${AT_ONCE}`,
				{ replacements: [hopId, after] }
			);
			const digests = [];
			for (const row of rows) {
				const payload = typeof row.payload === 'string' ? JSON.parse(row.payload) : row.payload;
				previous = createHash('sha256')
					.update(
						canonicalize({
							previous,
							hopId,
							id: row.id,
							seq: Number(row.seq),
							revisionId: row.revisionId,
							end: row.end,
							kind: row.kind,
							payload,
							recordedAt: new Date(row.recordedAt).toISOString(),
							receivedAt: new Date(row.receivedAt).toISOString(),
							recordedBy: row.recordedBy
						}) ?? ''
					)
					.digest('hex');
				digests.push([row.id, previous]);
				after = Number(row.seq);
			}
			for (const [id, digest] of digests) {
				await sequelize.query('UPDATE field_records SET digest = ? WHERE id = ?', {
					replacements: [digest, id]
				});
			}
			if (rows.length < AT_ONCE) break;
		}
		await sequelize.query('UPDATE hop_feeds SET digest = ? WHERE hop_id = ?', {
			replacements: [previous, hopId]
		});
	}
}
