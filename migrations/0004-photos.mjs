/** Photos of the field record, kept in the database so that its backup has them. Append-only. */

const TABLE = `CREATE TABLE IF NOT EXISTS photos (
	id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
	hop_id CHAR(36) CHARACTER SET ascii NOT NULL,
	end ENUM('A','B') NOT NULL,
	source_sha256 CHAR(64) CHARACTER SET ascii NOT NULL,
	width INT UNSIGNED NOT NULL,
	height INT UNSIGNED NOT NULL,
	size_bytes INT UNSIGNED NOT NULL,
	content LONGBLOB NOT NULL,
	thumbnail MEDIUMBLOB NOT NULL,
	uploaded_by CHAR(36) CHARACTER SET ascii NOT NULL,
	uploaded_at DATETIME(3) NOT NULL,
	KEY ix_photos_hop (hop_id, uploaded_at),
	CONSTRAINT fk_photos_hop FOREIGN KEY (hop_id) REFERENCES hops (id),
	CONSTRAINT fk_photos_user FOREIGN KEY (uploaded_by) REFERENCES users (id)
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`;

export async function up({ context: sequelize }) {
	await sequelize.query(TABLE);
	for (const change of ['UPDATE', 'DELETE']) {
		await sequelize.query(
			`CREATE TRIGGER IF NOT EXISTS photos_no_${change.toLowerCase()} BEFORE ${change} ON photos
			FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'photos is append-only'`
		);
	}
}
