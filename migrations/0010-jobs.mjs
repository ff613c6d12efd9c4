/** Long work that any process may take up: a table with leases, in place of the one of replans. */
const CHANGES = [
	`CREATE TABLE IF NOT EXISTS jobs (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
		input LONGTEXT NOT NULL CHECK (JSON_VALID(input)),
		state LONGTEXT NULL CHECK (state IS NULL OR JSON_VALID(state)),
		status VARCHAR(20) CHARACTER SET ascii NOT NULL,
		total INT UNSIGNED NOT NULL,
		done INT UNSIGNED NOT NULL DEFAULT 0,
		cancel_requested TINYINT(1) NOT NULL DEFAULT 0,
		result LONGTEXT NULL CHECK (result IS NULL OR JSON_VALID(result)),
		trouble VARCHAR(400) NULL,
		started_by CHAR(36) CHARACTER SET ascii NOT NULL,
		started_at DATETIME(3) NOT NULL,
		touched_at DATETIME(3) NOT NULL,
		holder CHAR(36) CHARACTER SET ascii NULL,
		leased_until DATETIME(3) NULL,
		tries INT UNSIGNED NOT NULL DEFAULT 0,
		running_for CHAR(36) CHARACTER SET ascii NULL,
		UNIQUE KEY uq_jobs_running (running_for, kind),
		KEY ix_jobs_free (status, leased_until),
		KEY ix_jobs_person (started_by, started_at),
		KEY ix_jobs_holder (holder),
		CONSTRAINT fk_jobs_user FOREIGN KEY (started_by) REFERENCES users (id)
	) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`
];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
	const [there] = await sequelize.query("SHOW TABLES LIKE 'replans'");
	if (there.length === 0) return;
	// What was under way has died with the process that ran it before this version.
	await sequelize.query(
		`INSERT IGNORE INTO jobs (id, kind, input, status, total, done, cancel_requested, result, started_by,
			started_at, touched_at)
		SELECT id, 'replan', '{}', IF(status = 'running', 'failed', status), total, done, cancel_requested, result,
			started_by, started_at, touched_at FROM replans`
	);
	await sequelize.query('DROP TABLE replans');
}
