/** Two faults may be planted in a practice hop at once, each at one end. */

export async function up({ context: sequelize }) {
	await sequelize.query('ALTER TABLE hops MODIFY COLUMN planted_fault VARCHAR(100) NULL');
}
