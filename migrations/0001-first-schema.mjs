/** First schema: accounts, sites, hops, frozen revisions, the field record, acceptance, audit. */

const APPEND_ONLY = ['plan_revisions', 'field_records', 'acceptances', 'audit_trail'];

const TABLES = [
	`CREATE TABLE IF NOT EXISTS users (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		sign_in_name VARCHAR(80) NOT NULL,
		display_name VARCHAR(120) NOT NULL,
		role ENUM('planner','technician','acceptor','trainee','administrator') NOT NULL,
		password_hash VARCHAR(255) NOT NULL,
		disabled TINYINT(1) NOT NULL DEFAULT 0,
		created_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_users_sign_in_name (sign_in_name)
	)`,
	`CREATE TABLE IF NOT EXISTS sessions (
		token_hash CHAR(64) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		user_id CHAR(36) CHARACTER SET ascii NOT NULL,
		kind ENUM('browser','script') NOT NULL,
		created_at DATETIME(3) NOT NULL,
		expires_at DATETIME(3) NOT NULL,
		KEY ix_sessions_user (user_id),
		KEY ix_sessions_expires (expires_at),
		CONSTRAINT fk_sessions_user FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
	)`,
	`CREATE TABLE IF NOT EXISTS rate_limits (
		\`key\` VARCHAR(255) NOT NULL PRIMARY KEY,
		points INT NOT NULL DEFAULT 0,
		expire BIGINT UNSIGNED NULL,
		KEY ix_rate_limits_expire (expire)
	)`,
	`CREATE TABLE IF NOT EXISTS sites (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		name VARCHAR(80) NOT NULL,
		latitude_deg DECIMAL(9,6) NOT NULL,
		longitude_deg DECIMAL(10,6) NOT NULL,
		ground_amsl_m DECIMAL(7,2) NOT NULL,
		notes VARCHAR(4000) NOT NULL DEFAULT '',
		version INT NOT NULL DEFAULT 1,
		created_by CHAR(36) CHARACTER SET ascii NOT NULL,
		created_at DATETIME(3) NOT NULL,
		updated_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_sites_name (name),
		UNIQUE KEY uq_sites_position (latitude_deg, longitude_deg),
		CONSTRAINT fk_sites_user FOREIGN KEY (created_by) REFERENCES users (id),
		CONSTRAINT ck_sites_latitude CHECK (latitude_deg BETWEEN -90 AND 90),
		CONSTRAINT ck_sites_longitude CHECK (longitude_deg BETWEEN -180 AND 180),
		CONSTRAINT ck_sites_ground CHECK (ground_amsl_m BETWEEN -430 AND 8900)
	)`,
	`CREATE TABLE IF NOT EXISTS hops (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		name VARCHAR(80) NOT NULL,
		site_a_id CHAR(36) CHARACTER SET ascii NOT NULL,
		site_b_id CHAR(36) CHARACTER SET ascii NOT NULL,
		plan_draft LONGTEXT NOT NULL CHECK (JSON_VALID(plan_draft)),
		simulation_seed INT UNSIGNED NULL,
		version INT NOT NULL DEFAULT 1,
		created_by CHAR(36) CHARACTER SET ascii NOT NULL,
		created_at DATETIME(3) NOT NULL,
		updated_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_hops_name (name),
		KEY ix_hops_updated (updated_at, id),
		CONSTRAINT fk_hops_site_a FOREIGN KEY (site_a_id) REFERENCES sites (id),
		CONSTRAINT fk_hops_site_b FOREIGN KEY (site_b_id) REFERENCES sites (id),
		CONSTRAINT fk_hops_user FOREIGN KEY (created_by) REFERENCES users (id),
		CONSTRAINT ck_hops_two_ends CHECK (site_a_id <> site_b_id)
	)`,
	`CREATE TABLE IF NOT EXISTS hop_members (
		hop_id CHAR(36) CHARACTER SET ascii NOT NULL,
		user_id CHAR(36) CHARACTER SET ascii NOT NULL,
		PRIMARY KEY (hop_id, user_id),
		KEY ix_hop_members_user (user_id, hop_id),
		CONSTRAINT fk_members_hop FOREIGN KEY (hop_id) REFERENCES hops (id) ON DELETE CASCADE,
		CONSTRAINT fk_members_user FOREIGN KEY (user_id) REFERENCES users (id) ON DELETE CASCADE
	)`,
	`CREATE TABLE IF NOT EXISTS plan_revisions (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		hop_id CHAR(36) CHARACTER SET ascii NOT NULL,
		number INT NOT NULL,
		input LONGTEXT NOT NULL CHECK (JSON_VALID(input)),
		plan LONGTEXT NOT NULL CHECK (JSON_VALID(plan)),
		note VARCHAR(1000) NOT NULL DEFAULT '',
		issued_by CHAR(36) CHARACTER SET ascii NOT NULL,
		issued_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_revisions_number (hop_id, number),
		CONSTRAINT fk_revisions_hop FOREIGN KEY (hop_id) REFERENCES hops (id),
		CONSTRAINT fk_revisions_user FOREIGN KEY (issued_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS hop_feeds (
		hop_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		last_seq BIGINT NOT NULL DEFAULT 0,
		baton ENUM('A','B') NOT NULL DEFAULT 'A',
		ready_a TINYINT(1) NOT NULL DEFAULT 0,
		ready_b TINYINT(1) NOT NULL DEFAULT 0,
		CONSTRAINT fk_feeds_hop FOREIGN KEY (hop_id) REFERENCES hops (id)
	)`,
	`CREATE TABLE IF NOT EXISTS field_records (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		hop_id CHAR(36) CHARACTER SET ascii NOT NULL,
		seq BIGINT NOT NULL,
		revision_id CHAR(36) CHARACTER SET ascii NOT NULL,
		end ENUM('A','B') NOT NULL,
		kind VARCHAR(40) NOT NULL,
		payload LONGTEXT NOT NULL CHECK (JSON_VALID(payload)),
		recorded_at DATETIME(3) NOT NULL,
		received_at DATETIME(3) NOT NULL,
		recorded_by CHAR(36) CHARACTER SET ascii NOT NULL,
		UNIQUE KEY uq_records_seq (hop_id, seq),
		CONSTRAINT fk_records_hop FOREIGN KEY (hop_id) REFERENCES hops (id),
		CONSTRAINT fk_records_revision FOREIGN KEY (revision_id) REFERENCES plan_revisions (id),
		CONSTRAINT fk_records_user FOREIGN KEY (recorded_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS acceptances (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		hop_id CHAR(36) CHARACTER SET ascii NOT NULL,
		revision_id CHAR(36) CHARACTER SET ascii NOT NULL,
		last_seq BIGINT NOT NULL,
		judgement LONGTEXT NOT NULL CHECK (JSON_VALID(judgement)),
		causes LONGTEXT NOT NULL CHECK (JSON_VALID(causes)),
		signature LONGTEXT NOT NULL CHECK (JSON_VALID(signature)),
		signed_by CHAR(36) CHARACTER SET ascii NOT NULL,
		signed_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_acceptances_hop (hop_id),
		CONSTRAINT fk_acceptances_hop FOREIGN KEY (hop_id) REFERENCES hops (id),
		CONSTRAINT fk_acceptances_revision FOREIGN KEY (revision_id) REFERENCES plan_revisions (id),
		CONSTRAINT fk_acceptances_user FOREIGN KEY (signed_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS audit_trail (
		id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
		at DATETIME(3) NOT NULL,
		user_id CHAR(36) CHARACTER SET ascii NULL,
		action VARCHAR(60) NOT NULL,
		subject VARCHAR(120) NOT NULL,
		detail LONGTEXT NOT NULL CHECK (JSON_VALID(detail)),
		KEY ix_audit_subject (subject, id)
	)`
];

export async function up({ context: sequelize }) {
	for (const table of TABLES) {
		await sequelize.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
	}
	for (const table of APPEND_ONLY) {
		for (const change of ['UPDATE', 'DELETE']) {
			await sequelize.query(
				`CREATE TRIGGER IF NOT EXISTS ${table}_no_${change.toLowerCase()} BEFORE ${change} ON ${table}
				FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = '${table} is append-only'`
			);
		}
	}
}
