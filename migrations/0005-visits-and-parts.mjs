/** Life after acceptance, and the catalogue of the user's own parts. */

const CHANGES = [
	// A hop that changes is accepted anew; what was signed before stays.
	`ALTER TABLE acceptances
		ADD COLUMN IF NOT EXISTS number INT NOT NULL DEFAULT 1`,
	`ALTER TABLE acceptances
		ADD UNIQUE KEY IF NOT EXISTS uq_acceptances_number (hop_id, number)`,
	`ALTER TABLE acceptances DROP INDEX IF EXISTS uq_acceptances_hop`,
	`ALTER TABLE hop_feeds
		ADD COLUMN IF NOT EXISTS open_visit CHAR(36) CHARACTER SET ascii NULL`,
	// Accepted hops are back in operation: no dish of theirs moves before the state is entered again.
	`UPDATE hop_feeds SET ready_a = 0, ready_b = 0
		WHERE hop_id IN (SELECT hop_id FROM acceptances)`
];

const TABLES = [
	`CREATE TABLE IF NOT EXISTS parts (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
		code VARCHAR(20) NOT NULL,
		name VARCHAR(120) NOT NULL,
		from_ghz DOUBLE NULL,
		to_ghz DOUBLE NULL,
		version INT NOT NULL,
		data LONGTEXT NOT NULL CHECK (JSON_VALID(data)),
		retired_at DATETIME(3) NULL,
		updated_by CHAR(36) CHARACTER SET ascii NULL,
		updated_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_parts_code (kind, code),
		KEY ix_parts_list (retired_at, kind, code),
		CONSTRAINT fk_parts_user FOREIGN KEY (updated_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS part_versions (
		part_id CHAR(36) CHARACTER SET ascii NOT NULL,
		version INT NOT NULL,
		data LONGTEXT NOT NULL CHECK (JSON_VALID(data)),
		note VARCHAR(400) NOT NULL DEFAULT '',
		made_by CHAR(36) CHARACTER SET ascii NULL,
		made_at DATETIME(3) NOT NULL,
		PRIMARY KEY (part_id, version),
		CONSTRAINT fk_part_versions_part FOREIGN KEY (part_id) REFERENCES parts (id),
		CONSTRAINT fk_part_versions_user FOREIGN KEY (made_by) REFERENCES users (id)
	)`
];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
	for (const table of TABLES) {
		await sequelize.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
	}
	for (const change of ['UPDATE', 'DELETE']) {
		await sequelize.query(
			`CREATE TRIGGER IF NOT EXISTS part_versions_no_${change.toLowerCase()} BEFORE ${change} ON part_versions
			FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'part_versions is append-only'`
		);
	}
}
