/** The stop cards of a hop as they were last answered, beside what else its feed remembers of itself. */
const CHANGES = ['ALTER TABLE hop_feeds ADD COLUMN IF NOT EXISTS cards JSON NULL'];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
}
