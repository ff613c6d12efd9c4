/** When a hop is to be built and aligned, and by whom: one plan of its days, with a version. */
export async function up({ context: sequelize }) {
	await sequelize.query(
		`CREATE TABLE IF NOT EXISTS day_plans (
			hop_id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
			content LONGTEXT NOT NULL CHECK (JSON_VALID(content)),
			version INT NOT NULL,
			changed_by CHAR(36) CHARACTER SET ascii NOT NULL,
			changed_at DATETIME(3) NOT NULL,
			CONSTRAINT fk_day_plans_hop FOREIGN KEY (hop_id) REFERENCES hops (id) ON DELETE CASCADE,
			CONSTRAINT fk_day_plans_user FOREIGN KEY (changed_by) REFERENCES users (id)
		) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`
	);
}
