/**
 * What the list of hops says of each: which are put away, and the snags that are open on it. The audit
 * trail is found by who did something and by what was done.
 */
const CHANGES = [
	'ALTER TABLE hops ADD COLUMN IF NOT EXISTS archived_at DATETIME(3) NULL',
	'ALTER TABLE hop_feeds ADD COLUMN IF NOT EXISTS open_snags JSON NULL',
	'ALTER TABLE hop_feeds ADD COLUMN IF NOT EXISTS sent_back TINYINT(1) NOT NULL DEFAULT 0',
	'ALTER TABLE audit_trail ADD KEY IF NOT EXISTS ix_audit_user (user_id, id)',
	'ALTER TABLE audit_trail ADD KEY IF NOT EXISTS ix_audit_action (action, id)'
];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
	const [noted] = await sequelize.query(
		`SELECT hop_id AS hopId, kind, JSON_VALUE(payload, '$.snagId') AS snagId,
			JSON_VALUE(payload, '$.due') AS due
		FROM field_records WHERE kind IN ('snag', 'snag-closed') ORDER BY hop_id, seq`
	);
	const byHop = new Map();
	for (const { hopId, kind, snagId, due } of noted) {
		const open = byHop.get(hopId) ?? {};
		if (kind === 'snag') open[snagId] = due;
		else delete open[snagId];
		byHop.set(hopId, open);
	}
	for (const [hopId, open] of byHop) {
		await sequelize.query('UPDATE hop_feeds SET open_snags = ? WHERE hop_id = ?', {
			replacements: [JSON.stringify(open), hopId]
		});
	}
}
