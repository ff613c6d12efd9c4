/** Lets an account without rights on triggers ask whether they stand. */
export async function up({ context: sequelize }) {
	await sequelize.query('DROP PROCEDURE IF EXISTS standing_triggers');
	await sequelize.query(
		`CREATE PROCEDURE standing_triggers() READS SQL DATA SQL SECURITY DEFINER
		SELECT TRIGGER_NAME AS name FROM information_schema.TRIGGERS WHERE TRIGGER_SCHEMA = DATABASE()`
	);
}
