/** The planning office: climate and conditions of a site, attachments, terrain, patterns, replans. */

const COLUMNS = [
	`ALTER TABLE sites
		ADD COLUMN IF NOT EXISTS climate LONGTEXT NULL CHECK (climate IS NULL OR JSON_VALID(climate)),
		ADD COLUMN IF NOT EXISTS conditions LONGTEXT NULL CHECK (conditions IS NULL OR JSON_VALID(conditions)),
		ADD KEY IF NOT EXISTS ix_sites_longitude (longitude_deg, latitude_deg)`,
	`ALTER TABLE plan_revisions
		ADD COLUMN IF NOT EXISTS review LONGTEXT NULL CHECK (review IS NULL OR JSON_VALID(review))`
];

const TABLES = [
	`CREATE TABLE IF NOT EXISTS site_attachments (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		site_id CHAR(36) CHARACTER SET ascii NOT NULL,
		file_name VARCHAR(160) NOT NULL,
		media_type VARCHAR(80) NOT NULL,
		size_bytes INT UNSIGNED NOT NULL,
		content LONGBLOB NOT NULL,
		note VARCHAR(400) NOT NULL DEFAULT '',
		uploaded_by CHAR(36) CHARACTER SET ascii NOT NULL,
		uploaded_at DATETIME(3) NOT NULL,
		KEY ix_attachments_site (site_id, uploaded_at),
		CONSTRAINT fk_attachments_site FOREIGN KEY (site_id) REFERENCES sites (id),
		CONSTRAINT fk_attachments_user FOREIGN KEY (uploaded_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS terrain_rasters (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		name VARCHAR(120) NOT NULL,
		west_deg DOUBLE NOT NULL,
		north_deg DOUBLE NOT NULL,
		step_longitude_deg DOUBLE NOT NULL,
		step_latitude_deg DOUBLE NOT NULL,
		column_count INT UNSIGNED NOT NULL,
		row_count INT UNSIGNED NOT NULL,
		lowest_m FLOAT NOT NULL,
		highest_m FLOAT NOT NULL,
		heights LONGBLOB NOT NULL,
		uploaded_by CHAR(36) CHARACTER SET ascii NOT NULL,
		uploaded_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_rasters_name (name),
		CONSTRAINT fk_rasters_user FOREIGN KEY (uploaded_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS replans (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		status ENUM('running','done','cancelled','failed') NOT NULL,
		total INT UNSIGNED NOT NULL,
		done INT UNSIGNED NOT NULL DEFAULT 0,
		cancel_requested TINYINT(1) NOT NULL DEFAULT 0,
		result LONGTEXT NULL CHECK (result IS NULL OR JSON_VALID(result)),
		started_by CHAR(36) CHARACTER SET ascii NOT NULL,
		started_at DATETIME(3) NOT NULL,
		touched_at DATETIME(3) NOT NULL,
		KEY ix_replans_user (started_by, started_at),
		CONSTRAINT fk_replans_user FOREIGN KEY (started_by) REFERENCES users (id)
	)`
];

export async function up({ context: sequelize }) {
	for (const change of COLUMNS) await sequelize.query(change);
	for (const table of TABLES) {
		await sequelize.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
	}
}
