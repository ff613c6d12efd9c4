/** The list of people is paged by the name shown. */
export async function up({ context: sequelize }) {
	await sequelize.query(
		'ALTER TABLE users ADD KEY IF NOT EXISTS ix_users_display_name (display_name, id)'
	);
}
