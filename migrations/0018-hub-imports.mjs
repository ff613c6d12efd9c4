/** Hubs that were taken in from an archive: from whom, and how much of them came along. */
const CHANGES = [
	`ALTER TABLE hub_acceptances
		ADD COLUMN IF NOT EXISTS imported_place INT NULL`,
	`CREATE TABLE IF NOT EXISTS hub_imports (
		hub_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		imported_by CHAR(36) CHARACTER SET ascii NOT NULL,
		imported_at DATETIME(3) NOT NULL,
		source_key CHAR(43) CHARACTER SET ascii COLLATE ascii_bin NULL,
		source_name VARCHAR(120) NULL,
		last_seq BIGINT NOT NULL,
		revisions INT NOT NULL,
		acceptances INT NOT NULL,
		earlier LONGTEXT NULL CHECK (JSON_VALID(earlier)),
		CONSTRAINT fk_hub_imports_hub FOREIGN KEY (hub_id) REFERENCES hubs (id),
		CONSTRAINT fk_hub_imports_user FOREIGN KEY (imported_by) REFERENCES users (id)
	) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`
];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
	for (const change of ['UPDATE', 'DELETE']) {
		await sequelize.query(
			`CREATE TRIGGER IF NOT EXISTS hub_imports_no_${change.toLowerCase()} BEFORE ${change} ON hub_imports
			FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'hub_imports is append-only'`
		);
	}
}
