/**
 * How long work takes: what the firm says of it, and what the records of its hops tell; what a project's schedule was
 * worked out from, so that it can be moved by what is recorded since.
 */
export async function up({ context: sequelize }) {
	const id = 'CHAR(36) CHARACTER SET ascii';
	const kind = 'VARCHAR(40) CHARACTER SET ascii';
	await sequelize.query(
		`CREATE TABLE IF NOT EXISTS said_durations (
			id TINYINT NOT NULL PRIMARY KEY CHECK (id = 1),
			content LONGTEXT NOT NULL CHECK (JSON_VALID(content)),
			version INT NOT NULL,
			changed_by ${id} NOT NULL,
			changed_at DATETIME(3) NOT NULL,
			CONSTRAINT fk_said_durations_user FOREIGN KEY (changed_by) REFERENCES users (id)
		) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`
	);
	await sequelize.query(
		`CREATE TABLE IF NOT EXISTS seen_durations (
			hop_id ${id} NOT NULL,
			kind ${kind} NOT NULL,
			n INT NOT NULL,
			sum_log DOUBLE NOT NULL,
			sum_log2 DOUBLE NOT NULL,
			PRIMARY KEY (hop_id, kind),
			KEY ix_seen_durations_kind (kind, hop_id, n, sum_log, sum_log2),
			CONSTRAINT fk_seen_durations_hop FOREIGN KEY (hop_id) REFERENCES hops (id) ON DELETE CASCADE
		) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`
	);
	await sequelize.query(
		`ALTER TABLE projects
			ADD COLUMN IF NOT EXISTS schedule_read LONGTEXT NULL CHECK (schedule_read IS NULL OR JSON_VALID(schedule_read)) AFTER schedule,
			ADD COLUMN IF NOT EXISTS schedule_basis LONGBLOB NULL AFTER schedule_read`
	);
	// Where hops stand is read anew with their times.
	await sequelize.query('DELETE FROM hop_stands');
}
