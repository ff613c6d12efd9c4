/** Sessions that can be named and ended, passwords set anew by a code, a second factor. */
const CHANGES = [
	`ALTER TABLE sessions
		ADD COLUMN IF NOT EXISTS id CHAR(36) CHARACTER SET ascii NOT NULL DEFAULT (UUID())`,
	'ALTER TABLE sessions ADD UNIQUE KEY IF NOT EXISTS uq_sessions_id (id)',
	`CREATE TABLE IF NOT EXISTS password_resets (
		user_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		code_hash CHAR(64) CHARACTER SET ascii NOT NULL,
		made_by CHAR(36) CHARACTER SET ascii NOT NULL,
		expires_at DATETIME(3) NOT NULL,
		CONSTRAINT fk_resets_user FOREIGN KEY (user_id) REFERENCES users (id),
		CONSTRAINT fk_resets_maker FOREIGN KEY (made_by) REFERENCES users (id)
	) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
	`CREATE TABLE IF NOT EXISTS second_factors (
		user_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		sealed_secret VARCHAR(255) CHARACTER SET ascii NOT NULL,
		last_step BIGINT NOT NULL,
		made_at DATETIME(3) NOT NULL,
		CONSTRAINT fk_factors_user FOREIGN KEY (user_id) REFERENCES users (id)
	) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
	`CREATE TABLE IF NOT EXISTS recovery_codes (
		user_id CHAR(36) CHARACTER SET ascii NOT NULL,
		code_hash CHAR(64) CHARACTER SET ascii NOT NULL,
		PRIMARY KEY (user_id, code_hash),
		CONSTRAINT fk_recovery_user FOREIGN KEY (user_id) REFERENCES users (id)
	) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
	`CREATE TABLE IF NOT EXISTS role_rules (
		role VARCHAR(20) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		second_factor TINYINT(1) NOT NULL
	) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`
];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
}
