import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { api, confirmAlignmentState, expect, hopIdOf, open, person, signIn, test } from './people';

const HOP = 'Upper Fell to Tern Stack';
const POSTS = '**/api/v1/hops/*/records';

interface Kept {
	records: { kind: string; recordedBy: string; payload: { volts?: number } }[];
}

async function typeVolts(page: Page, volts: string): Promise<void> {
	await page.getByRole('button', { name: 'Type a reading' }).click();
	const dialog = page.getByRole('dialog');
	for (const key of volts) {
		const name = key === '.' ? 'Decimal point' : key;
		await dialog.getByRole('button', { name, exact: true }).click();
	}
	await dialog.getByRole('button', { name: /Keep/ }).click();
}

async function signOut(page: Page): Promise<void> {
	await open(page, '/');
	await page.getByRole('button', { name: 'Sign out' }).click();
	await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
}

const readings = async (page: Page, hopId: string): Promise<Kept['records']> =>
	(await api<Kept>(page, 'GET', `/hops/${hopId}/records?limit=2000`)).records.filter(
		({ kind, payload }) => kind === 'reading' && payload.volts === 1.23
	);

test.describe.configure({ mode: 'serial' });

test('what one person recorded on a shared tablet waits for them, whoever signs in meanwhile', async ({
	browser
}) => {
	const { page: far } = await person(browser, 'crew-b');
	const hopId = await hopIdOf(far, HOP);
	await open(far, `/hops/${hopId}/b/power`);
	await confirmAlignmentState(far, 'B');
	const { page: mine, context } = await person(browser, 'crew-a');
	await open(mine, `/hops/${hopId}/a/power`);
	await confirmAlignmentState(mine, 'A');
	await mine.getByRole('link', { name: 'Go on to align' }).click();

	// No record gets through: it waits on the device.
	await mine.route(POSTS, (route) =>
		route.request().method() === 'POST' ? route.abort() : route.continue()
	);
	await typeVolts(mine, '1.23');
	await expect(mine.getByTestId('record-state')).toContainText('1 record waits');

	// Somebody else signs in on the same device, in another tab.
	const other = await context.newPage();
	await signOut(other);
	await signIn(other, 'acceptor');
	await expect(other.getByTestId('waiting-here')).toContainText(
		/of\s+Bram Tolley\s+waits on this device/
	);
	await open(other, `/hops/${hopId}/a/align`);
	await expect(other.getByTestId('others-waiting')).toContainText('waits on this device');

	// The first tab can send again, and does not: the session is another person's.
	await mine.unroute(POSTS);
	await mine.evaluate(() => dispatchEvent(new Event('focus')));
	await expect(mine.getByText(/is signed in on this device by now/)).toBeVisible();
	await expect(mine.getByTestId('session-ended')).toHaveCount(0);
	expect(await readings(other, hopId)).toEqual([]);

	// Its owner comes back: it goes out in their name, once.
	await mine.getByRole('button', { name: 'Sign out, then sign in again' }).click();
	await expect(mine.getByRole('button', { name: 'Sign in' })).toBeVisible();
	await signIn(other, 'crew-a');
	await expect(other.getByTestId('waiting-here')).toContainText(/of\s+yours\s+waits/);
	await other.getByRole('link', { name: 'Open the hop and send' }).click();
	await expect.poll(async () => (await readings(other, hopId)).length).toBe(1);
	const [sent] = await readings(other, hopId);
	const owner = await api<{ displayName: string }>(other, 'GET', '/me');
	expect(sent!.recordedBy).toBe(owner.displayName);
	await open(other, '/');
	await expect(other.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();
	await expect(other.getByTestId('waiting-here')).toHaveCount(0);
});

test('what the server will not take stays on the device until its owner has saved it', async ({
	browser
}) => {
	const { page } = await person(browser, 'crew-b');
	const hopId = await hopIdOf(page, HOP);
	await open(page, `/hops/${hopId}/b/align`);
	const refusal = {
		code: 'forbidden',
		message: 'Your role may not record on this hop.',
		fields: []
	};
	await page.route(POSTS, (route) =>
		route.request().method() === 'POST'
			? route.fulfill({ status: 403, json: { error: refusal } })
			: route.continue()
	);
	await typeVolts(page, '1.23');
	await expect(page.getByTestId('refused')).toContainText('Your role may not record');

	// A page opened anew has it still, and so has one after that.
	await page.reload();
	await expect(page.getByTestId('refused')).toContainText('Your role may not record');
	await expect(page.getByRole('button', { name: /take off this device/ })).toHaveCount(0);
	const saving = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Save as a file' }).click();
	const file = JSON.parse(readFileSync(await (await saving).path(), 'utf8')) as {
		format: string;
		records: { payload: { volts: number } }[];
	};
	expect([file.format, file.records.map(({ payload }) => payload.volts)]).toEqual([
		'skiaxis-unsent',
		[1.23]
	]);

	// Once the reason is gone it is sent after all.
	await page.unroute(POSTS);
	await page.getByRole('button', { name: 'Try again' }).click();
	await expect.poll(async () => (await readings(page, hopId)).length).toBeGreaterThan(0);
	await expect(page.getByTestId('refused')).toHaveCount(0);
});
