import { passwordTrouble } from '../auth/passwordRules';
import { config } from '../config';
import { DEMO_LOADED, loadDemo } from '../demo/load';
import { log } from '../log';
import { isAudited } from '../repositories/audit';
import { rightsBeyondNeed } from './health';
import { countAccounts, createAccountUnchecked } from './accounts';

/** On an empty database: loads the demo, or makes the first administrator from the environment. */
export async function firstStart(): Promise<void> {
	try {
		const rights = await rightsBeyondNeed();
		if (rights.length) {
			log.warn(
				`The database account of the application could change what is frozen (${rights.join(', ')}). docs/operations.md says how to give it less.`
			);
		}
		if ((await countAccounts()) > 0) {
			if (config.demo && !(await isAudited(DEMO_LOADED))) {
				log.error('The demo was broken off half-way. Run: npm run demo -- --reset');
			}
			return;
		}
		if (config.demo) {
			await loadDemo();
			return;
		}
		const first = config.firstAdministrator;
		const colon = first?.indexOf(':') ?? -1;
		if (!first || colon < 1) {
			log.warn('There are no accounts. Set SKIAXIS_FIRST_ADMIN=name:password once and restart.');
			return;
		}
		const [signInName, password] = [first.slice(0, colon), first.slice(colon + 1)];
		const trouble = passwordTrouble(password, [signInName]);
		if (trouble) {
			log.error(`The first administrator was not made, for their password. ${trouble}`);
			return;
		}
		await createAccountUnchecked({
			signInName,
			displayName: 'Administrator',
			role: 'administrator',
			password
		});
		log.info('The first administrator was made.');
	} catch (error) {
		// The process still comes up and says at /readyz what is wrong with the database.
		log.error({ err: error }, 'first start could not finish');
	}
}
