import { randomUUID } from 'node:crypto';
import type { Browser, Page } from '@playwright/test';
import { Secret, TOTP } from 'otpauth';
import { address, api, choose, expect, open, person, test } from './people';

const FIRST = 'gravel under the window';
const SECOND = 'lamp oil on a ladder';

async function fillSignIn(page: Page, name: string, password: string): Promise<void> {
	await open(page, '/sign-in');
	await page.getByLabel('Name', { exact: true }).fill(name);
	await page.getByLabel('Password').fill(password);
	await page.getByRole('button', { name: 'Sign in' }).click();
}
/** Somebody new, and a page of theirs that is signed in. */
async function newPerson(
	browser: Browser,
	admin: Page,
	viewport = { width: 390, height: 844 }
): Promise<{ page: Page; name: string; shown: string; id: string }> {
	const name = `hand-${randomUUID().slice(0, 8)}`;
	const shown = `Hand ${name.slice(5)}`;
	const { id } = await api<{ id: string }>(admin, 'POST', '/people', {
		signInName: name,
		displayName: shown,
		role: 'trainee',
		password: FIRST
	});
	const page = await (await browser.newContext({ viewport })).newPage();
	await fillSignIn(page, name, FIRST);
	await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();
	return { page, name, shown, id };
}
const codeOf = (secret: string): string =>
	new TOTP({ secret: Secret.fromBase32(secret) }).generate();

test('somebody changes their own password; who forgot it gets a code from an administrator', async ({
	browser
}) => {
	const admin = await person(browser, 'admin');
	const { page, name, shown } = await newPerson(browser, admin.page);
	await page.getByRole('link', { name: shown }).click();
	await page.getByLabel('Present password').fill(FIRST);
	await page.getByLabel('New password').fill('password1234');
	await page.getByRole('button', { name: 'Change the password' }).click();
	await expect(page.locator('#field-password-error')).toContainText('easily guessed');
	// What was typed is kept.
	await expect(page.getByLabel('Present password')).toHaveValue(FIRST);
	await page.getByLabel('New password').fill(SECOND);
	await page.getByRole('button', { name: 'Change the password' }).click();
	await expect(page.getByText('It is changed.')).toBeVisible();

	await open(admin.page, `/people?q=${name}`);
	await admin.page.getByRole('button', { name: `Change ${shown}` }).click();
	await admin.page.getByRole('button', { name: 'Code for a new password' }).click();
	const code = await admin.page.getByTestId('reset-code').innerText();

	await page.context().clearCookies();
	await open(page, '/sign-in');
	await page.getByRole('link', { name: 'I have a code for a new password' }).click();
	await page.getByLabel('Name').fill(name);
	await page.getByLabel('Code').fill('AAAA-BBBB-CCCC-DDDD');
	await page.getByLabel('New password').fill(FIRST);
	await page.getByRole('button', { name: 'Set it' }).click();
	await expect(page.locator('#field-code-error')).toContainText('no such code');
	await page.getByLabel('Code').fill(code.toLowerCase());
	await page.getByRole('button', { name: 'Set it' }).click();
	await expect(page.getByText('The new password is set.')).toBeVisible();
	await page.getByLabel('Name', { exact: true }).fill(name);
	await page.getByLabel('Password').fill(FIRST);
	await page.getByRole('button', { name: 'Sign in' }).click();
	await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();
});

test('a role that asks for a second factor is led to set it up, and signs in with it from then on', async ({
	browser
}) => {
	const admin = await person(browser, 'admin');
	const { page, name, shown } = await newPerson(browser, admin.page);
	await open(admin.page, `/people?q=${name}`);
	const rule = admin.page.getByRole('checkbox', { name: 'trainee' });
	await rule.check();
	await expect(rule).toBeChecked();
	try {
		await page.goto(address('/'));
		await page.waitForURL(/\/account$/);
		await page.waitForSelector('html[data-alive]');
		await expect(page.getByText('Your role signs in with a second factor')).toBeVisible();
		await page.getByRole('button', { name: 'Set it up' }).click();
		const secret = await page.getByTestId('factor-secret').innerText();
		await page.getByLabel('Code it shows').fill('000000');
		await page.getByLabel('Your password').fill(FIRST);
		await page.getByRole('button', { name: 'Turn it on' }).click();
		await expect(page.locator('#field-code-error')).toContainText('wrong, or its time is over');
		await page.getByLabel('Code it shows').fill(codeOf(secret));
		await page.getByRole('button', { name: 'Turn it on' }).click();
		await expect(page.getByTestId('recovery-codes').getByRole('listitem')).toHaveCount(10);
		const recovery = await page
			.getByTestId('recovery-codes')
			.getByRole('listitem')
			.first()
			.innerText();
		await expect(page.getByText('it stays on')).toBeVisible();
		await page.getByRole('link', { name: 'Hops' }).click();
		await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();

		await page.context().clearCookies();
		await fillSignIn(page, name, FIRST);
		await expect(page.locator('#field-code-error')).toContainText('Type the code');
		await page.getByLabel('Code', { exact: true }).fill('123456');
		await page.getByRole('button', { name: 'Sign in' }).click();
		await expect(page.locator('#field-code-error')).toContainText('wrong');
		await page.getByLabel('Code', { exact: true }).fill(recovery);
		await page.getByRole('button', { name: 'Sign in' }).click();
		await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();
		await open(page, '/account');
		await expect(page.getByText('9 recovery codes are left')).toBeVisible();
	} finally {
		await rule.uncheck();
		await expect(rule).not.toBeChecked();
	}
	// The role becomes another, and with it the page that was open ends.
	await admin.page.getByRole('button', { name: `Change ${shown}` }).click();
	await choose(admin.page, `Role of ${shown}`, 'technician');
	await admin.page.getByRole('button', { name: 'Change the role' }).click();
	await expect(admin.page.getByText('they are signed out everywhere')).toBeVisible();
	await expect(admin.page.getByRole('row', { name: `${shown} ${name}` })).toContainText(
		'technician'
	);
	await page.goto(address('/'));
	await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
});
