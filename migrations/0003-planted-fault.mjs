/** A fault that a practice hop's simulation has, kept from its crew. */

export async function up({ context: sequelize }) {
	await sequelize.query('ALTER TABLE hops ADD COLUMN IF NOT EXISTS planted_fault VARCHAR(40) NULL');
}
