/** Hubs: a site with sector units, and the terminals they serve. */
const CHANGES = [
	`CREATE TABLE IF NOT EXISTS hubs (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		name VARCHAR(120) NOT NULL,
		site_id CHAR(36) CHARACTER SET ascii NOT NULL,
		content LONGTEXT NOT NULL,
		unit_count INT NOT NULL,
		terminal_count INT NOT NULL,
		version INT NOT NULL DEFAULT 1,
		created_by CHAR(36) CHARACTER SET ascii NOT NULL,
		created_at DATETIME(3) NOT NULL,
		updated_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_hubs_name (name),
		CONSTRAINT fk_hubs_site FOREIGN KEY (site_id) REFERENCES sites (id),
		CONSTRAINT fk_hubs_user FOREIGN KEY (created_by) REFERENCES users (id)
	)`
];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
}
