import { randomUUID } from 'node:crypto';
import type { Locator, Page } from '@playwright/test';
import { freshHop } from './building';
import {
	address,
	api,
	expect,
	hopIdOf,
	open,
	PASSWORD,
	person,
	test,
	confirmAlignmentState
} from './people';
import { startServer } from './server';

// What is kept on the device for work without connection is under test here.
test.use({ serviceWorkers: 'allow' });

const HOP = 'Upper Fell to Tern Stack';
const state = (page: Page): Locator => page.getByTestId('record-state');

test('the theme stands before any script of the page has run, and follows the device where that is chosen', async ({
	browser
}) => {
	const { page, context } = await person(browser, 'planner');
	const choose = (name: string): Promise<void> => page.getByRole('button', { name }).click();
	await choose('Use the theme for full sun');
	await choose('Use the night theme');
	// As long as its scripts do not come, a page is what it is at first paint.
	const first = await context.newPage();
	await first.route('**/_app/immutable/**/*.js', () => undefined);
	const paper = async (): Promise<string> => {
		await first.goto(address('/sites'), { waitUntil: 'domcontentloaded' });
		return first.evaluate(() => getComputedStyle(document.documentElement).backgroundColor);
	};
	const night = 'rgb(18, 11, 9)';
	expect(await paper()).toBe(night);
	await page.bringToFront();
	await choose('Use the theme that this device is set to');
	expect(await paper()).not.toBe(night);
	await first.emulateMedia({ colorScheme: 'dark' });
	expect(await paper()).toBe(night);
	// It changes while the page is open, as dusk falls.
	await expect(page.locator('html')).toHaveAttribute('data-theme', 'day');
	await page.emulateMedia({ colorScheme: 'dark' });
	await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
});

test('by night nothing large is bright', async ({ browser }) => {
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	const hopId = await hopIdOf(page, 'Lantern Reach to Hollow Ness');
	await page.evaluate(() => localStorage.setItem('skiaxis-theme', 'night'));
	for (const stage of ['build', 'align', 'accept']) {
		await open(page, `/hops/${hopId}/a/${stage}`);
		const bright = await page.evaluate(() => {
			const light = (colour: string): number => {
				const [r = 0, g = 0, b = 0, a = 1] = (colour.match(/[\d.]+/g) ?? []).map(Number);
				return a * (0.2126 * r + 0.7152 * g + 0.0722 * b);
			};
			return [...document.querySelectorAll<HTMLElement>('body *')]
				.filter((one) => one.offsetWidth * one.offsetHeight > 3000 && one.tagName !== 'IMG')
				.map((one) => [one.className, light(getComputedStyle(one).backgroundColor)] as const)
				.filter(([, luma]) => luma > 80)
				.map(([name]) => name);
		});
		expect(bright, stage).toEqual([]);
	}
});

test('a line that goes silent without being closed is said to be cut, and found again', async ({
	browser
}) => {
	const server = await startServer();
	try {
		const context = await browser.newContext();
		const page = await context.newPage();
		await page.goto(`${server.address}/sign-in`);
		await page.waitForSelector('html[data-alive]');
		await page.getByLabel('Name', { exact: true }).fill('crew-a');
		await page.getByLabel('Password').fill(PASSWORD);
		await page.getByRole('button', { name: 'Sign in' }).click();
		await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();
		const hopId = await hopIdOf(page, HOP);
		await page.goto(`${server.address}/hops/${hopId}/a/align`);
		await expect(state(page)).toContainText('Connected');
		server.fallSilent();
		await expect(state(page)).toContainText('No connection');
		server.speakAgain();
		await expect(state(page)).toContainText('Connected, all sent');
	} finally {
		server.speakAgain();
		await server.kill();
	}
});

test('an ended session says so, sends nothing more, and goes on where it was once signed in again', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Ended ${randomUUID()}`);
	const { page, context } = await person(browser, 'crew-a', { width: 390, height: 844 });
	await open(page, `/hops/${hopId}/a/build`);
	await page.locator('nav button[data-step=parties]').click();
	await expect(state(page)).toContainText('all sent');
	await context.clearCookies();
	await page.getByLabel('Carrier or supplier: name').fill('Ada Reef');
	await page.getByLabel('Crew: name').fill('Bram Tolley');
	const sent: string[] = [];
	page.on('request', (request) => {
		if (request.method() === 'POST') sent.push(request.url());
	});
	await page.getByRole('button', { name: 'Record who is here' }).click();
	const bar = page.getByTestId('session-ended');
	await expect(bar).toContainText('Your session has ended');
	await expect(state(page)).toContainText('Signed out');
	await expect(state(page)).toContainText('1 record waits');
	const tries = sent.length;
	expect(tries).toBe(1);

	// What is recorded meanwhile waits, too; nothing is posted.
	await page.locator('nav button[data-step]').first().click();
	await page.getByRole('button', { name: 'Leave this step out' }).click();
	await page.getByLabel('Cause').fill('Nobody came.');
	await page.getByRole('button', { name: 'Leave it out with this cause' }).click();
	await expect(state(page)).toContainText('2 records wait');
	expect(sent).toHaveLength(tries);

	const [beside] = await Promise.all([
		context.waitForEvent('page'),
		bar.getByRole('link', { name: 'Sign in again' }).click()
	]);
	await beside.waitForSelector('html[data-alive]');
	await beside.getByLabel('Name', { exact: true }).fill('crew-a');
	await beside.getByLabel('Password').fill(PASSWORD);
	await beside.getByRole('button', { name: 'Sign in' }).click();
	await expect(beside.getByRole('heading', { name: 'You are signed in' })).toBeVisible();
	await beside.close();
	await page.bringToFront();
	await page.evaluate(() => dispatchEvent(new Event('focus')));
	await expect(bar).toHaveCount(0);
	await expect(state(page)).toContainText('Connected, all sent');
	const { records: kept } = await api<{ records: { kind: string }[] }>(
		page,
		'GET',
		`/hops/${hopId}/records?limit=2000`
	);
	expect(kept.map(({ kind }) => kind).sort()).toEqual(['parties', 'step-skipped']);
});

test('a hop is kept on this device by one press, marked in the list, and opens without connection', async ({
	browser
}) => {
	const { page, context } = await person(browser, 'crew-a', { width: 390, height: 844 });
	const hopId = await hopIdOf(page, HOP);
	// The list is turned by pages, and other tests add to it.
	const listed = `/?q=${encodeURIComponent(HOP)}`;
	await open(page, listed);
	const row = page.getByRole('listitem').filter({ hasText: HOP }).first();
	await expect(row).not.toContainText('on this device');
	await open(page, `/hops/${hopId}`);
	await page.getByRole('button', { name: 'Keep this hop on this device' }).click();
	await expect(page.getByTestId('on-this-device')).toContainText('Both ends are on this device');
	await open(page, listed);
	await expect(row).toContainText('on this device');

	await context.setOffline(true);
	// A page of the program that was never here: ours, which says what is.
	await page.goto(address('/parts'));
	await expect(page.getByRole('heading', { name: 'On this device' })).toBeVisible();
	const list = page.getByTestId('hops-on-device');
	await expect(list).toContainText(HOP);
	await list.getByRole('link', { name: /B Go to this end/ }).click();
	await expect(page).toHaveURL(/\/b\/align$/);
	await expect(state(page)).toContainText('No connection');
	for (const stage of ['build', 'fix']) {
		await open(page, `/hops/${hopId}/a/${stage}`);
		await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible();
	}
	await context.setOffline(false);

	await open(page, `/hops/${hopId}`);
	await page.getByRole('button', { name: 'Take it off this device' }).click();
	await expect(page.getByRole('button', { name: 'Keep this hop on this device' })).toBeVisible();
	await context.setOffline(true);
	await page.goto(address(`/hops/${hopId}/b/fix`));
	await expect(page.getByRole('heading', { name: 'On this device' })).toBeVisible();
	await expect(page.getByText('No hop is on this device yet.')).toBeVisible();
});

test('the focus is never lost: a new step begins at its title, keys act and can be listed', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Keys ${randomUUID()}`);
	const { page } = await person(browser, 'crew-a');
	await open(page, `/hops/${hopId}/a/build`);
	const focused = (): Promise<string> =>
		page.evaluate(
			() => `${document.activeElement?.tagName} ${document.activeElement?.textContent}`
		);
	await page.keyboard.press('Tab');
	expect(await focused()).toBe('A Skip to the work');
	const steps = page.locator('nav button[data-step]');
	await steps.nth(3).click();
	const title = await page.getByTestId('step').getByRole('heading', { level: 1 }).innerText();
	await expect.poll(focused).toBe(`H1 ${title}`);
	await expect(page.getByRole('heading', { level: 1 })).toBeInViewport();

	// What had the focus goes away: the nearest heading has it.
	await page.getByRole('button', { name: 'Leave this step out' }).focus();
	await page.keyboard.press('Enter');
	await expect.poll(focused).not.toContain('BODY');

	await page.keyboard.press('?');
	const keys = page.getByTestId('keys');
	await expect(keys).toContainText('To the far end');
	await page.keyboard.press('Escape');
	await page.keyboard.press('3');
	await expect(page).toHaveURL(/\/a\/power$/);
	await expect.poll(focused).toBe('H1 Bring A into the alignment state');
	await page.keyboard.press('f');
	await expect(page).toHaveURL(/\/b\/power$/);
	await page.keyboard.press('2');
	await expect(page).toHaveURL(/\/b\/build$/);
	// Typed into a field, a key is typed.
	await page.locator('nav button[data-step=parties]').click();
	await page.getByLabel('Crew: name').fill('');
	await page.getByLabel('Crew: name').press('3');
	await expect(page.getByLabel('Crew: name')).toHaveValue('3');
	await expect(page).toHaveURL(/\/b\/build$/);
	// Switched off, they do nothing; the list can still be opened.
	await page.keyboard.press('Tab');
	await page.getByRole('heading', { level: 1 }).focus();
	await page.keyboard.press('?');
	await page.getByLabel('Single keys act on this device').click();
	await page.keyboard.press('Escape');
	await page.keyboard.press('3');
	await page.keyboard.press('?');
	await expect(keys).toBeVisible();
	await expect(page).toHaveURL(/\/b\/build$/);
});

test('a conflict loses no typing: what somebody else saved is taken over where nothing was typed', async ({
	browser
}) => {
	const one = await person(browser, 'planner');
	const hopId = await freshHop(one.page, 'Hollow Ness to Kelp Head', `Twice ${randomUUID()}`);
	await open(one.page, `/hops/${hopId}/a/prepare?sheet=channel`);
	await expect(one.page.getByRole('tab', { name: 'Channel' })).toHaveAttribute(
		'aria-selected',
		'true'
	);
	const tolerance = one.page.getByLabel('Tolerance');
	await tolerance.fill('1.7');
	// Somebody else changes another field and saves first.
	const { page } = await person(browser, 'planner');
	await open(page, `/hops/${hopId}/a/prepare?sheet=channel`);
	await page.getByLabel('Licensed EIRP').first().fill('61');
	await page.getByRole('button', { name: 'Save the plan' }).click();
	await expect(page.getByText('Saved.', { exact: true })).toBeVisible();

	await one.page.getByRole('button', { name: 'Save the plan' }).click();
	await expect(one.page.getByText(/What you typed stays here/)).toBeVisible();
	await expect(tolerance).toHaveValue('1.7');
	await one.page.getByRole('button', { name: /with my typing on it/ }).click();
	await one.page.waitForSelector('html[data-alive]');
	await expect(one.page.getByTestId('kept-typing')).toContainText(
		'saved by somebody else meanwhile'
	);
	await expect(tolerance).toHaveValue('1.7');
	await expect(one.page.getByLabel('Licensed EIRP').first()).toHaveValue('61');
	// Thrown away it is what is saved; brought back it is what was typed.
	await one.page.getByRole('button', { name: 'Throw it away' }).click();
	await expect(tolerance).not.toHaveValue('1.7');
	await one.page.getByRole('button', { name: 'Bring it back' }).click();
	await expect(tolerance).toHaveValue('1.7');
	await one.page.getByRole('button', { name: 'Save the plan' }).click();
	await expect(one.page.getByText('Saved.', { exact: true })).toBeVisible();
	const saved = await api<{ plan: { toleranceDb: number; eirpLimitDbm: number } }>(
		page,
		'GET',
		`/hops/${hopId}`
	);
	expect([saved.plan.toleranceDb, saved.plan.eirpLimitDbm]).toEqual([1.7, 61]);
});

test('who waits is called: the baton comes with a bar and a pulse, each way can be switched off', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Calls ${randomUUID()}`);
	const phone = { width: 390, height: 844 };
	const a = await person(browser, 'crew-a', phone);
	const b = await person(browser, 'crew-b', phone);
	await b.context.addInitScript(() => {
		const pulses: unknown[] = [];
		Object.assign(globalThis, { pulses });
		Object.defineProperty(navigator, 'vibrate', { value: (what: unknown) => pulses.push(what) });
	});
	const pulses = (): Promise<number> =>
		b.page.evaluate(() => (globalThis as unknown as { pulses: unknown[] }).pulses.length);
	for (const [page, end] of [
		[a.page, 'A'],
		[b.page, 'B']
	] as const) {
		await open(page, `/hops/${hopId}/${end.toLowerCase()}/power`);
		await confirmAlignmentState(page, end);
	}
	await open(b.page, `/hops/${hopId}/b/align`);
	await expect(state(b.page)).toContainText('Connected');
	const give = (end: 'A' | 'B', kind: string, payload: object): Promise<unknown> =>
		api(a.page, 'POST', `/hops/${hopId}/records`, {
			records: [{ id: randomUUID(), end, kind, payload, recordedAt: new Date().toISOString() }]
		});
	const bar = b.page.getByTestId('alert');
	await give('A', 'baton', { to: 'B' });
	await expect(bar).toContainText('Your move: B holds the baton.');
	await expect(bar).toBeInViewport();
	expect(await pulses()).toBe(1);
	await bar.getByRole('button', { name: 'Seen' }).click();
	await expect(bar).toHaveCount(0);

	// What was there before the page opened calls nobody.
	await b.page.reload();
	await b.page.waitForSelector('html[data-alive]');
	await expect(state(b.page)).toContainText('Connected');
	await expect(bar).toHaveCount(0);

	await b.page.getByRole('button', { name: /far end|A −/ }).click();
	await b.page.getByRole('button', { name: 'How this device calls you' }).click();
	const settings = b.page.getByRole('dialog');
	await settings.getByLabel('Vibration').click();
	await settings.getByRole('button', { name: 'Close' }).click();
	await give('A', 'baton-request', {});
	await expect(bar).toContainText('A asks for the baton.');
	expect(await pulses()).toBe(0);
});
