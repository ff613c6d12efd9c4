/** Life after acceptance, and the catalogue of the user's own parts. */
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const CHANGES = [
	// A hop that changes is accepted anew; what was signed before stays.
	`ALTER TABLE acceptances
		ADD COLUMN IF NOT EXISTS number INT NOT NULL DEFAULT 1`,
	`ALTER TABLE acceptances
		ADD UNIQUE KEY IF NOT EXISTS uq_acceptances_number (hop_id, number)`,
	`ALTER TABLE acceptances DROP INDEX IF EXISTS uq_acceptances_hop`,
	`ALTER TABLE hop_feeds
		ADD COLUMN IF NOT EXISTS open_visit CHAR(36) CHARACTER SET ascii NULL`,
	// Accepted hops are back in operation: no dish of theirs moves before the state is entered again.
	`UPDATE hop_feeds SET ready_a = 0, ready_b = 0
		WHERE hop_id IN (SELECT hop_id FROM acceptances)`
];

const TABLES = [
	`CREATE TABLE IF NOT EXISTS parts (
		id CHAR(36) CHARACTER SET ascii NOT NULL PRIMARY KEY,
		kind VARCHAR(20) CHARACTER SET ascii NOT NULL,
		code VARCHAR(20) NOT NULL,
		name VARCHAR(120) NOT NULL,
		from_ghz DOUBLE NULL,
		to_ghz DOUBLE NULL,
		version INT NOT NULL,
		data LONGTEXT NOT NULL CHECK (JSON_VALID(data)),
		retired_at DATETIME(3) NULL,
		updated_by CHAR(36) CHARACTER SET ascii NULL,
		updated_at DATETIME(3) NOT NULL,
		UNIQUE KEY uq_parts_code (kind, code),
		KEY ix_parts_list (retired_at, kind, code),
		CONSTRAINT fk_parts_user FOREIGN KEY (updated_by) REFERENCES users (id)
	)`,
	`CREATE TABLE IF NOT EXISTS part_versions (
		part_id CHAR(36) CHARACTER SET ascii NOT NULL,
		version INT NOT NULL,
		data LONGTEXT NOT NULL CHECK (JSON_VALID(data)),
		note VARCHAR(400) NOT NULL DEFAULT '',
		made_by CHAR(36) CHARACTER SET ascii NULL,
		made_at DATETIME(3) NOT NULL,
		PRIMARY KEY (part_id, version),
		CONSTRAINT fk_part_versions_part FOREIGN KEY (part_id) REFERENCES parts (id),
		CONSTRAINT fk_part_versions_user FOREIGN KEY (made_by) REFERENCES users (id)
	)`
];

export async function up({ context: sequelize }) {
	for (const change of CHANGES) await sequelize.query(change);
	for (const table of TABLES) {
		await sequelize.query(`${table} ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`);
	}
	await keepPartsInUse(sequelize);
	for (const change of ['UPDATE', 'DELETE']) {
		await sequelize.query(
			`CREATE TRIGGER IF NOT EXISTS part_versions_no_${change.toLowerCase()} BEFORE ${change} ON part_versions
			FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'part_versions is append-only'`
		);
	}
}

/** Files of the parts that were compiled in before parts lived in the database, by kind. */
const COMPILED_IN = {
	radio: 'radios',
	dish: 'dishes',
	mount: 'mounts',
	coupling: 'couplings',
	feeder: 'feeders',
	cable: 'cables'
};

/**
 * An installation that has planned with the parts that were compiled in keeps them, as parts of its
 * own. A new one begins with none.
 */
async function keepPartsInUse(sequelize) {
	const [hops] = await sequelize.query('SELECT 1 FROM hops LIMIT 1');
	if (hops.length === 0) return;
	const now = new Date();
	for (const [kind, file] of Object.entries(COMPILED_IN)) {
		const path = fileURLToPath(new URL(`../catalog/${file}.json`, import.meta.url));
		for (const part of JSON.parse(readFileSync(path, 'utf8'))) {
			const [known] = await sequelize.query('SELECT 1 FROM parts WHERE kind = ? AND code = ?', {
				replacements: [kind, part.code]
			});
			if (known.length) continue;
			const [from, to] = bandOf(kind, part);
			const id = randomUUID();
			const data = JSON.stringify(part);
			await sequelize.query(
				`INSERT INTO parts
				(id, kind, code, name, from_ghz, to_ghz, version, data, retired_at, updated_by, updated_at)
				VALUES (?, ?, ?, ?, ?, ?, 1, ?, NULL, NULL, ?)`,
				{ replacements: [id, kind, part.code, part.name, from, to, data, now] }
			);
			await sequelize.query(
				`INSERT IGNORE INTO part_versions (part_id, version, data, note, made_by, made_at)
				VALUES (?, 1, ?, 'Compiled in before.', NULL, ?)`,
				{ replacements: [id, data, now] }
			);
		}
	}
}

function bandOf(kind, part) {
	if (kind === 'dish') {
		return [
			Math.min(...part.bands.map((band) => band.fromGhz)),
			Math.max(...part.bands.map((band) => band.toGhz))
		];
	}
	return part.rangeGhz ?? [null, null];
}
