/** The work at hubs: issued plans, records of stations, acceptances of terminals; what stands in for practice. */
const CHANGES = [
	`ALTER TABLE hubs
		ADD COLUMN IF NOT EXISTS last_seq BIGINT NOT NULL DEFAULT 0,
		ADD COLUMN IF NOT EXISTS digest CHAR(64) CHARACTER SET ascii NOT NULL DEFAULT
			'0000000000000000000000000000000000000000000000000000000000000000',
		ADD COLUMN IF NOT EXISTS practice LONGTEXT NULL`,
	`CREATE TABLE IF NOT EXISTS hub_revisions (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		hub_id CHAR(36) CHARACTER SET ascii NOT NULL,
		number INT NOT NULL,
		input LONGTEXT NOT NULL,
		note VARCHAR(1000) NOT NULL DEFAULT '',
		issued_by CHAR(36) CHARACTER SET ascii NOT NULL,
		issued_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_hub_revisions_number (hub_id, number),
		CONSTRAINT fk_hub_revisions_hub FOREIGN KEY (hub_id) REFERENCES hubs (id),
		CONSTRAINT fk_hub_revisions_user FOREIGN KEY (issued_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS hub_records (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		hub_id CHAR(36) CHARACTER SET ascii NOT NULL,
		seq BIGINT NOT NULL,
		revision_id CHAR(36) CHARACTER SET ascii NOT NULL,
		station VARCHAR(60) NOT NULL,
		kind VARCHAR(40) NOT NULL,
		payload LONGTEXT NOT NULL CHECK (JSON_VALID(payload)),
		recorded_at DATETIME(3) NOT NULL,
		received_at DATETIME(3) NOT NULL,
		recorded_by CHAR(36) CHARACTER SET ascii NOT NULL,
		digest CHAR(64) CHARACTER SET ascii NOT NULL,
		UNIQUE KEY uq_hub_records_seq (hub_id, seq),
		CONSTRAINT fk_hub_records_hub FOREIGN KEY (hub_id) REFERENCES hubs (id),
		CONSTRAINT fk_hub_records_revision FOREIGN KEY (revision_id) REFERENCES hub_revisions (id),
		CONSTRAINT fk_hub_records_user FOREIGN KEY (recorded_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS hub_acceptances (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		hub_id CHAR(36) CHARACTER SET ascii NOT NULL,
		terminal VARCHAR(60) NOT NULL,
		number INT NOT NULL,
		revision_id CHAR(36) CHARACTER SET ascii NOT NULL,
		last_seq BIGINT NOT NULL,
		judgement LONGTEXT NOT NULL CHECK (JSON_VALID(judgement)),
		causes LONGTEXT NOT NULL CHECK (JSON_VALID(causes)),
		signature LONGTEXT NOT NULL CHECK (JSON_VALID(signature)),
		signed_by CHAR(36) CHARACTER SET ascii NOT NULL,
		signed_at DATETIME(3) NOT NULL,
		record_digest CHAR(64) CHARACTER SET ascii NOT NULL,
		UNIQUE KEY uq_hub_acceptances_number (hub_id, terminal, number),
		CONSTRAINT fk_hub_acceptances_hub FOREIGN KEY (hub_id) REFERENCES hubs (id),
		CONSTRAINT fk_hub_acceptances_revision FOREIGN KEY (revision_id) REFERENCES hub_revisions (id),
		CONSTRAINT fk_hub_acceptances_user FOREIGN KEY (signed_by) REFERENCES users (id)
	)`
];
const FROZEN = ['hub_revisions', 'hub_records', 'hub_acceptances'];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
	for (const table of FROZEN) {
		for (const change of ['UPDATE', 'DELETE']) {
			await sequelize.query(
				`CREATE TRIGGER IF NOT EXISTS ${table}_no_${change.toLowerCase()} BEFORE ${change} ON ${table}
				FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = '${table} is append-only'`
			);
		}
	}
}
