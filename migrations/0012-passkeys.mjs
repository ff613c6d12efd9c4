/** Passkeys, and the challenges that were answered once. */
const CHANGES = [
	`CREATE TABLE IF NOT EXISTS passkeys (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		user_id CHAR(36) CHARACTER SET ascii NOT NULL,
		name VARCHAR(60) NOT NULL,
		credential_id VARCHAR(1400) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
		credential_hash CHAR(64) CHARACTER SET ascii NOT NULL,
		public_key VARBINARY(2048) NOT NULL,
		use_count BIGINT UNSIGNED NOT NULL,
		made_at DATETIME(3) NOT NULL,
		used_at DATETIME(3) NULL,
		UNIQUE KEY uq_passkeys_credential (credential_hash),
		KEY ix_passkeys_user (user_id, made_at),
		CONSTRAINT fk_passkeys_user FOREIGN KEY (user_id) REFERENCES users (id)
	) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
	`CREATE TABLE IF NOT EXISTS answered_challenges (
		challenge_hash CHAR(64) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		expires_at DATETIME(3) NOT NULL,
		KEY ix_challenges_expires (expires_at)
	) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`
];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
}
