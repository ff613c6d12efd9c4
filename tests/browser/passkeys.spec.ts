import { freePort } from '../../scripts/lib/mariadb.mjs';
import { address as shared, api, expect, open, person, test } from './people';
import { startServer, type RunningServer } from './server';

const FIRST = 'gravel under the window';

/** Passkeys belong to a name, so the server is opened by one. */
let server: RunningServer;
let home: string;
test.beforeAll(async () => {
	const port = await freePort();
	home = `http://localhost:${port}`;
	server = await startServer(port, { ORIGIN: home });
});
test.afterAll(() => server.kill());

test('somebody adds a passkey on a phone, signs in with it alone, and takes it away', async ({
	browser
}) => {
	const admin = await person(browser, 'admin');
	await open(admin.page, '/people');
	const name = `keys-${Date.now()}`;
	await api(admin.page, 'POST', '/people', {
		...{ signInName: name, displayName: 'Keys Bearer', role: 'planner', password: FIRST }
	});
	const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
	const page = await context.newPage();
	const devtools = await context.newCDPSession(page);
	await devtools.send('WebAuthn.enable');
	const { authenticatorId } = await devtools.send('WebAuthn.addVirtualAuthenticator', {
		options: {
			...{ protocol: 'ctap2', transport: 'internal', hasResidentKey: true },
			...{ hasUserVerification: true, isUserVerified: true, automaticPresenceSimulation: true }
		}
	});
	const at = async (path: string): Promise<void> => {
		await page.goto(`${home}${path}`);
		await page.waitForSelector('html[data-alive]');
	};
	const withPasskey = page.getByRole('button', { name: 'Sign in with a passkey' });
	const withPassword = page.getByRole('button', { name: 'Sign in', exact: true });
	const fill = async (): Promise<void> => {
		await page.getByLabel('Name', { exact: true }).fill(name);
		await page.getByLabel('Password').fill(FIRST);
		await withPassword.click();
	};
	await at('/sign-in');
	await fill();
	await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();

	await at('/account');
	await page.getByRole('button', { name: 'Add a passkey' }).click();
	await page.getByRole('button', { name: 'Make the passkey' }).click();
	await expect(page.locator('#field-passkey-name-error')).toBeVisible();
	await page.getByLabel('What you call this device').fill('Site phone');
	await page.getByLabel('Your password').fill('wrong words here');
	await page.getByRole('button', { name: 'Make the passkey' }).click();
	await expect(page.getByText('This is not your password.').first()).toBeVisible();
	// What was typed has survived.
	await expect(page.getByLabel('What you call this device')).toHaveValue('Site phone');
	await devtools.send('WebAuthn.clearCredentials', { authenticatorId });
	await page.getByLabel('Your password').fill(FIRST);
	await page.getByRole('button', { name: 'Make the passkey' }).click();
	await expect(page.getByTestId('recovery-codes').getByRole('listitem')).toHaveCount(10);
	const recovery = await page
		.getByTestId('recovery-codes')
		.getByRole('listitem')
		.first()
		.innerText();
	await expect(page.getByText('not used yet')).toBeVisible();

	await context.clearCookies();
	await at('/sign-in?next=/account');
	await withPasskey.click();
	await page.waitForURL(/\/account$/);
	await expect(page.getByText('last used')).toBeVisible();

	// The password alone is too little now.
	await context.clearCookies();
	await at('/sign-in');
	await fill();
	await expect(page.locator('#field-code-error')).toContainText('signs in with a passkey');
	await page.getByLabel('Code', { exact: true }).fill(recovery);
	await withPassword.click();
	await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();

	await at('/account');
	await page.getByRole('button', { name: 'Take away the passkey Site phone' }).click();
	await page.getByLabel('Your password').fill(FIRST);
	await page.getByRole('button', { name: 'Take it away' }).click();
	await expect(page.getByText('None. With a passkey')).toBeVisible();
	await context.clearCookies();
	await at('/sign-in');
	await withPasskey.click();
	await expect(page.getByText('This passkey is not known here').first()).toBeVisible();
	await fill();
	await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();
});

test('a server opened by its number says that it has no passkeys', async ({ browser }) => {
	const { page } = await person(browser, 'planner');
	await page.goto(shared('/account'));
	await expect(page.getByText('passkeys need its name')).toBeVisible();
	await expect(page.getByRole('button', { name: 'Add a passkey' })).toBeHidden();
});
