import { randomUUID } from 'node:crypto';
import {
	test as base,
	expect,
	type Browser,
	type BrowserContext,
	type BrowserContextOptions,
	type Page
} from '@playwright/test';

import { STOP_CARD_WORDS } from '#core/safety/stopCards';
import { ROLES } from '../../src/lib/server/auth/roles';
import { firstStepsCookie } from '../../src/lib/ui/words/firstSteps';

/** What went wrong in the scripts of the pages of this test. */
const scriptErrors: string[] = [];

function watch(context: BrowserContext): void {
	context.on('weberror', (problem) => {
		scriptErrors.push(`${problem.page()?.url() ?? ''}: ${String(problem.error().stack)}`);
	});
}

/** What each page shows, so that a failure tells where its people were. */
async function whatPagesShow(browser: Browser): Promise<string> {
	const pages = browser.contexts().flatMap((context) => context.pages());
	const shown = await Promise.all(
		pages.map(async (page) => {
			const text = await page
				.locator('body')
				.innerText({ timeout: 2000 })
				.catch((reason: unknown) => String(reason));
			return `— ${page.url()}\n${text.slice(0, 3000)}`;
		})
	);
	return shown.join('\n\n');
}

/**
 * Every browser context of a test is closed after it: a page left open would go on watching. An
 * error that no script of ours has caught fails the test, whatever the screen said.
 */
export const test = base.extend<{ closing: undefined }>({
	closing: [
		async ({ browser }, use, info) => {
			scriptErrors.length = 0;
			await use(undefined);
			if (info.status !== info.expectedStatus) {
				process.stdout.write(`${await whatPagesShow(browser)}\n`);
			}
			await Promise.all(browser.contexts().map((context) => context.close()));
			expect(scriptErrors, 'uncaught errors in the pages').toEqual([]);
		},
		{ auto: true }
	]
});

export { expect };

export const PASSWORD = 'salt-wind-and-rope';

export const address = (path = ''): string => `${process.env.SKIAXIS_TEST_ADDRESS}${path}`;

/** A page is alive once its scripts run; before that a click would be lost. */
export async function open(page: Page, path: string): Promise<void> {
	await page.goto(address(path));
	await page.waitForSelector('html[data-alive]');
}

export async function signIn(page: Page, name: string): Promise<void> {
	await open(page, '/sign-in');
	await page.getByLabel('Name', { exact: true }).fill(name);
	await page.getByLabel('Password').fill(PASSWORD);
	await page.getByRole('button', { name: 'Sign in' }).click();
	// A password is slow to check, and slower where both cores are busy.
	await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible({
		timeout: 60_000
	});
}

/** What a browser of this worker holds of somebody once signed in: signing in is slow, and tested. */
const signedIn = new Map<string, Awaited<ReturnType<BrowserContext['cookies']>>>();

/** As signing in, but by a session this worker has of the person already, as long as it lasts. */
async function comeIn(page: Page, name: string): Promise<void> {
	const held = signedIn.get(name);
	if (held) {
		await page.context().addCookies(held);
		await open(page, '/home');
		if (!new URL(page.url()).pathname.startsWith('/sign-in')) return;
	}
	await signIn(page, name);
	signedIn.set(name, await page.context().cookies());
}

/** A person in a browser of their own. */
export async function person(
	browser: Browser,
	name: string,
	viewport = { width: 1280, height: 800 },
	from: Pick<BrowserContextOptions, 'timezoneId' | 'locale'> = {}
): Promise<{ page: Page; context: BrowserContext }> {
	const context = await browser.newContext({ viewport, acceptDownloads: true, ...from });
	watch(context);
	// Whoever works here has begun long ago; a test of the first steps forgets it.
	await context.addCookies(
		ROLES.map((role) => ({ name: firstStepsCookie(role), value: 'seen', url: address('/') }))
	);
	const page = await context.newPage();
	await comeIn(page, name);
	return { page, context };
}

export async function hopIdOf(page: Page, name: string): Promise<string> {
	return page.evaluate(async (q) => {
		const answer = await fetch(`/api/v1/hops?q=${encodeURIComponent(q)}`);
		const { rows } = (await answer.json()) as { rows: { id: string; name: string }[] };
		// A hop of other sites by these words may be newer.
		return (rows.find((row) => row.name === q) ?? rows[0]!).id;
	}, name);
}

/** Answers every question of the stop card shown, all safe, and records it. */
export async function answerCard(page: Page, card: 'climb' | 'lift' | 'transmit'): Promise<void> {
	const section = page.getByTestId(`stop-card-${card}`);
	for (const yes of await section.getByRole('button', { name: 'Yes', exact: true }).all()) {
		await yes.click();
	}
	await section.getByRole('button', { name: 'Record it: go' }).click();
}

/** An end that only aligns: the building left out with a cause, then the alignment state confirmed. */
export async function confirmAlignmentState(page: Page, end: 'A' | 'B'): Promise<void> {
	const left = page.getByTestId('left-to-build');
	if (await left.isVisible()) {
		await left.getByLabel('Or leave them out, with the cause').fill('Built on an earlier visit.');
		await left.getByLabel('On whose word').fill('Ada Reef, rigging foreman');
		await left.getByRole('button', { name: 'Leave the building out' }).click();
		await expect(left).toHaveCount(0);
	}
	if (await page.getByTestId('stop-card-transmit').getByRole('listitem').count()) {
		await answerCard(page, 'transmit');
	}
	// Of several radios one after the other is asked.
	const done = page.getByRole('button', { name: `${end} is in the alignment state` });
	const open = page.getByRole('checkbox', { checked: false });
	while (await open.count()) await open.first().click();
	await done.click();
	await readyToClimb(page, end);
}

/** Takes up a step of an end’s closing, where the screen does not lead to it by itself. */
export async function atClosing(page: Page, key: string): Promise<void> {
	const row = page.locator(`[data-closing=${key}]`);
	await expect(row).toBeVisible();
	if ((await row.getAttribute('aria-current')) !== 'step') await row.click();
	await expect(page.getByTestId('next-step')).toHaveAttribute('data-step', key);
}

/** Reads the final level of a dish of an end, at a practice hop. */
export async function readFinal(page: Page, end: 'A' | 'B', dish: 1 | 2 = 1): Promise<void> {
	const key = dish === 2 ? 'final-level-second' : 'final-level';
	await atClosing(page, key);
	const name = `Read the final level${dish === 2 ? ' of the second dish' : ''} at ${end}`;
	await page.getByRole('button', { name, exact: true }).click();
	await expect(page.locator(`[data-closing=${key}]`)).not.toHaveAttribute('data-state', 'open');
}

/** Every service of the plan proved at an end, where it names any. */
export async function proveServices(page: Page): Promise<void> {
	if (!(await page.locator('[data-closing=services]').count())) return;
	await atClosing(page, 'services');
	const form = page.getByTestId('service-check');
	for (const yes of await form.getByRole('button', { name: 'Yes', exact: true }).all()) {
		await yes.click();
	}
	await form.getByRole('button', { name: 'Record the services' }).click();
	await expect(page.locator('[data-closing=services]')).toHaveAttribute('data-state', 'done');
}

/** An end back in operation, of each radio as planned but for what the questions in `not` ask. */
export async function recordOperating(page: Page, end: 'A' | 'B', not?: RegExp): Promise<void> {
	await atClosing(page, 'operating');
	const form = page.getByTestId('operating-form');
	for (const asked of await form.getByRole('group').all()) {
		const ask = (await asked.getAttribute('aria-label'))!;
		await asked.getByRole('button', { name: not?.test(ask) ? 'No' : 'Yes', exact: true }).click();
	}
	await form.getByRole('button', { name: `Record the state of ${end}` }).click();
	await expect(page.locator('[data-closing=operating]')).toHaveAttribute(
		'data-state',
		not ? 'off' : 'done'
	);
}

/** The card before anyone climbs, answered at an end: asked on the screen too, where it was not. */
export async function readyToClimb(page: Page, end: 'A' | 'B'): Promise<void> {
	const hopId = new URL(page.url()).pathname.split('/')[2]!;
	const { title, questions } = STOP_CARD_WORDS.climb;
	const answers = Object.fromEntries(questions.map(({ key }) => [key, 'yes']));
	const payload = { card: 'climb', answers, note: title };
	const record = { id: randomUUID(), end, kind: 'stop-card', payload };
	await api(page, 'POST', `/hops/${hopId}/records`, {
		records: [{ ...record, recordedAt: new Date().toISOString() }]
	});
}

/** Chooses from a list by what stands in it. */
export async function choose(
	page: Page,
	label: string | RegExp,
	option: string | RegExp
): Promise<void> {
	await page.getByLabel(label, { exact: true }).click();
	await page.getByRole('option').filter({ hasText: option }).first().click();
	await expect(page.getByRole('listbox')).toHaveCount(0);
}

/** Issues the plan, and says once more that it is to be frozen. */
export async function issue(page: Page, button: string): Promise<void> {
	await page.getByRole('button', { name: button }).click();
	await page.getByTestId('ask-first').getByRole('button', { name: 'Issue it' }).click();
}

/** Signs the acceptance, and says once more that the record is to be frozen. */
export async function signAcceptance(page: Page): Promise<void> {
	await page.getByRole('button', { name: 'Sign the acceptance' }).click();
	await page.getByTestId('ask-first').getByRole('button', { name: 'Sign it' }).click();
}

/** Calls the API as the person of this page; throws with its words where it refuses. */
export function api<T>(
	page: Page,
	method: 'GET' | 'POST' | 'PUT' | 'DELETE',
	path: string,
	body?: object
): Promise<T> {
	return page.evaluate(
		async ([verb, address, content]) => {
			const answer = await fetch(`/api/v1${address}`, {
				method: verb,
				...(content
					? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(content) }
					: {})
			});
			const text = await answer.text();
			if (!answer.ok) throw new Error(text);
			return (text ? JSON.parse(text) : undefined) as never;
		},
		[method, path, body] as const
	);
}
