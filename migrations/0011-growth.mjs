/** Finding among many: names by their words, sites by place, and how many sites stand in each part of the map. */

/** Degrees of the cells that sites are counted in. */
const CELL_SIZES_DEG = [4, 1, 0.25, 0.0625];
const ROWS_AT_ONCE = 1000;

const wordTable = (/** @type {'site' | 'hop'} */ of) => `CREATE TABLE IF NOT EXISTS ${of}_words (
	${of}_id CHAR(36) CHARACTER SET ascii NOT NULL,
	word VARCHAR(80) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
	PRIMARY KEY (${of}_id, word),
	KEY ix_${of}_words (word, ${of}_id),
	CONSTRAINT fk_${of}_words FOREIGN KEY (${of}_id) REFERENCES ${of}s (id) ON DELETE CASCADE
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`;

const TABLES = [
	wordTable('site'),
	wordTable('hop'),
	`CREATE TABLE IF NOT EXISTS site_cells (
		size_deg DECIMAL(5,4) NOT NULL,
		row_at SMALLINT NOT NULL,
		column_at SMALLINT NOT NULL,
		site_count INT NOT NULL,
		latitude_sum DECIMAL(20,6) NOT NULL,
		longitude_sum DECIMAL(20,6) NOT NULL,
		PRIMARY KEY (size_deg, row_at, column_at)
	) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4`,
	'ALTER TABLE sites ADD COLUMN IF NOT EXISTS place POINT NULL'
];

const place = (/** @type {string} */ row) => `POINT(${row}longitude_deg, ${row}latitude_deg)`;

/** Statements that count a site in, or out, at each size of cell. */
const counted = (/** @type {'OLD' | 'NEW'} */ row, /** @type {1 | -1} */ sign) =>
	`INSERT INTO site_cells (size_deg, row_at, column_at, site_count, latitude_sum, longitude_sum)
	VALUES ${CELL_SIZES_DEG.map(
		(
			size
		) => `(${size}, FLOOR(${row}.latitude_deg / ${size}), FLOOR(${row}.longitude_deg / ${size}),
			${sign}, ${sign} * ${row}.latitude_deg, ${sign} * ${row}.longitude_deg)`
	).join(', ')}
	ON DUPLICATE KEY UPDATE site_count = site_count + VALUES(site_count),
		latitude_sum = latitude_sum + VALUES(latitude_sum),
		longitude_sum = longitude_sum + VALUES(longitude_sum);`;

const TRIGGERS = {
	sites_place_insert: `BEFORE INSERT ON sites FOR EACH ROW SET NEW.place = ${place('NEW.')}`,
	sites_place_update: `BEFORE UPDATE ON sites FOR EACH ROW SET NEW.place = ${place('NEW.')}`,
	sites_cells_insert: `AFTER INSERT ON sites FOR EACH ROW BEGIN ${counted('NEW', 1)} END`,
	sites_cells_update: `AFTER UPDATE ON sites FOR EACH ROW BEGIN
		IF OLD.latitude_deg <> NEW.latitude_deg OR OLD.longitude_deg <> NEW.longitude_deg THEN
			${counted('OLD', -1)} ${counted('NEW', 1)}
		END IF; END`,
	sites_cells_delete: `AFTER DELETE ON sites FOR EACH ROW BEGIN ${counted('OLD', -1)} END`
};

/** Counts and places of the sites that were there before; done again whole where a start broke off. */
const FILLED = [
	'UPDATE sites SET updated_at = updated_at, place = POINT(longitude_deg, latitude_deg) WHERE place IS NULL',
	'ALTER TABLE sites MODIFY place POINT NOT NULL',
	'ALTER TABLE sites ADD SPATIAL INDEX IF NOT EXISTS ix_sites_place (place)',
	'DELETE FROM site_cells',
	...CELL_SIZES_DEG.map(
		(size) => `INSERT INTO site_cells SELECT ${size}, FLOOR(latitude_deg / ${size}),
			FLOOR(longitude_deg / ${size}), COUNT(*), SUM(latitude_deg), SUM(longitude_deg)
			FROM sites GROUP BY 2, 3`
	)
];

/**
 * The words of names as they are looked for: small letters without accents, a run of letters and digits
 * each, the parts of such a run where letters and digits meet, and every rest of a run of a script that
 * puts no space between words.
 */
export function wordsOf(/** @type {string[]} */ ...names) {
	const runs = names
		.join(' ')
		.normalize('NFKD')
		.replace(/\p{M}/gu, '')
		.normalize('NFC')
		.toLowerCase()
		.match(/[\p{L}\p{N}]+/gu);
	const words = new Set();
	for (const run of runs ?? []) {
		words.add(run);
		for (const { index } of run.matchAll(
			/(?<=\p{L})(?=\p{N})|(?<=\p{N})(?=\p{L})|(?<=[\p{sc=Han}\p{sc=Hira}\p{sc=Kana}\p{sc=Hang}\p{sc=Thai}])/gu
		)) {
			if (index > 0 && index < run.length) words.add(run.slice(index));
		}
	}
	return [...words].map((word) => [...word].slice(0, 80).join(''));
}

async function fillWords(sequelize, of, names) {
	for (let after = ''; ;) {
		const [rows] = await sequelize.query(
			`SELECT t.id, ${names} AS name FROM ${of}s t ${
				of === 'hop' ? 'JOIN sites a ON a.id = t.site_a_id JOIN sites b ON b.id = t.site_b_id' : ''
			} WHERE t.id > ? ORDER BY t.id LIMIT ?`,
			{ replacements: [after, ROWS_AT_ONCE] }
		);
		if (rows.length === 0) return;
		const words = rows.flatMap(({ id, name }) => wordsOf(name).map((word) => [id, word]));
		if (words.length) {
			await sequelize.query(`INSERT IGNORE INTO ${of}_words (${of}_id, word) VALUES ?`, {
				replacements: [words]
			});
		}
		after = rows.at(-1).id;
	}
}

export async function up({ context: sequelize }) {
	for (const table of TABLES) await sequelize.query(table);
	for (const name of Object.keys(TRIGGERS)) await sequelize.query(`DROP TRIGGER IF EXISTS ${name}`);
	for (const change of FILLED) await sequelize.query(change);
	for (const [name, body] of Object.entries(TRIGGERS)) {
		await sequelize.query(`CREATE TRIGGER ${name} ${body}`);
	}
	await fillWords(sequelize, 'site', 't.name');
	await fillWords(sequelize, 'hop', "CONCAT_WS(' ', t.name, a.name, b.name)");
}
