import { QueryTypes, Sequelize } from 'sequelize';

/** @param {string} name */
const quoted = (name) => `\`${name.replaceAll('`', '``')}\``;

/**
 * The account of a URL as the database knows it, such as `'app'@'127.0.0.1'`; asked without naming a
 * database, since it may not enter any yet.
 * @param {string} url
 * @returns {Promise<string>}
 */
async function accountOf(url) {
	const { protocol, username, password, host } = new URL(url);
	const own = new Sequelize(`${protocol}//${username}:${password}@${host}`, {
		dialect: 'mysql',
		logging: false
	});
	try {
		const [row] = await own.query('SELECT CURRENT_USER() AS account', { type: QueryTypes.SELECT });
		const account = String(/** @type {{ account: string }} */ (row).account);
		const at = account.lastIndexOf('@');
		const text = (/** @type {string} */ part) => `'${part.replaceAll("'", "''")}'`;
		return `${text(account.slice(0, at))}@${text(account.slice(at + 1))}`;
	} finally {
		await own.close();
	}
}

/**
 * What the running application needs and no more, from the database as it stands: it reads everything and
 * adds rows; it changes and deletes only where no trigger forbids it; it makes, empties and alters nothing.
 * @param {Sequelize} owner
 * @param {string} account
 * @returns {Promise<string[]>}
 */
async function grantsFor(owner, account) {
	const schema = quoted(owner.getDatabaseName());
	/** @type {{ name: string }[]} */
	const tables = await owner.query(
		`SELECT TABLE_NAME AS name FROM information_schema.TABLES
		WHERE TABLE_SCHEMA = DATABASE() AND TABLE_TYPE = 'BASE TABLE' ORDER BY TABLE_NAME`,
		{ type: QueryTypes.SELECT }
	);
	/** @type {{ name: string }[]} */
	const triggers = await owner.query(
		'SELECT TRIGGER_NAME AS name FROM information_schema.TRIGGERS WHERE TRIGGER_SCHEMA = DATABASE()',
		{ type: QueryTypes.SELECT }
	);
	const forbidden = new Set(triggers.map(({ name }) => name));
	return [
		`GRANT SELECT ON ${schema}.* TO ${account}`,
		`GRANT EXECUTE ON PROCEDURE ${schema}.standing_triggers TO ${account}`,
		...tables
			.filter(({ name }) => name !== 'migrations')
			.map(({ name }) => {
				const rights = ['INSERT', 'UPDATE', 'DELETE'].filter(
					(right) => !forbidden.has(`${name}_no_${right.toLowerCase()}`)
				);
				return `GRANT ${rights.join(', ')} ON ${schema}.${quoted(name)} TO ${account}`;
			})
	];
}

/**
 * Gives the application's account its rights on a database that another account has migrated. Gives the
 * statements where that account may not grant them.
 * @param {string} ownerUrl
 * @param {string} appUrl
 * @returns {Promise<{ granted: boolean, statements: string[] }>}
 */
export async function grantRights(ownerUrl, appUrl) {
	const owner = new Sequelize(ownerUrl, { dialect: 'mysql', logging: false });
	try {
		const statements = await grantsFor(owner, await accountOf(appUrl));
		try {
			for (const statement of statements) await owner.query(statement);
			return { granted: true, statements };
		} catch {
			return { granted: false, statements };
		}
	} finally {
		await owner.close();
	}
}
