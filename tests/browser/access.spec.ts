import axe from 'axe-core';
import type { Page } from '@playwright/test';
import { PART_KIND_NAMES } from '../../src/core/catalogue/partKinds';
import { SHEETS } from '../../src/lib/ui/plan/sheets';
import { api, expect, hopIdOf, open, person, test } from './people';

declare global {
	interface Window {
		axe: typeof axe;
	}
}

const PART_FORMS = PART_KIND_NAMES.map((kind) => `/parts/new?kind=${kind}`);
const SIZES = [
	{ width: 1280, height: 800 },
	{ width: 390, height: 844 }
];

/** One step of every kind of form and sheet. */
const STEPS = [
	'configure',
	'parties',
	'packing',
	'labels',
	'both-planes',
	'films',
	'pipe',
	'hoist',
	'chain-mounted',
	'strip',
	'gland'
];

const THEMES = ['day', 'sun', 'night'] as const;

/** Every rule by day; in the other themes only what a theme can change: contrast. */
async function expectSound(page: Page, what: string): Promise<void> {
	const wide = await page.evaluate(
		() => document.documentElement.scrollWidth - document.documentElement.clientWidth
	);
	expect(wide, `${what}: nothing runs off the side`).toBeLessThanOrEqual(0);
	if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
	for (const theme of THEMES) {
		const found = await page.evaluate(
			async ([shown, day]) => {
				document.documentElement.dataset.theme = shown;
				const { violations } = await window.axe.run({
					runOnly: day
						? ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice']
						: { type: 'rule', values: ['color-contrast'] },
					resultTypes: ['violations']
				});
				return violations.map(
					({ id, nodes }) =>
						`${id}: ${nodes
							.map(({ target }) => target.join(' '))
							.slice(0, 3)
							.join(' | ')}`
				);
			},
			[theme, theme === 'day'] as const
		);
		expect.soft(found, `${what}, ${theme}`).toEqual([]);
	}
}

/** The timetable with its form open and a task looked at. */
async function expectTimetableSound(page: Page, hopId: string): Promise<void> {
	await open(page, `/hops/${hopId}/a/timetable`);
	await expect(page.getByTestId('time-rails')).toBeVisible();
	await page.getByRole('button', { name: 'Days, crews and ways' }).click();
	await page.getByRole('button', { name: 'Limits of wind and rain, and the weather' }).click();
	await page.getByRole('button', { name: /^A: Raise, / }).click();
	await expect(page.getByTestId('task-panel')).toBeVisible();
	await expectSound(page, 'the timetable');
}

for (const size of SIZES) {
	test(`main views are readable at ${size.width} px, in each theme`, async ({ browser }) => {
		test.setTimeout(900_000);
		const { page } = await person(browser, 'planner', size);
		// Colours that glide from one theme to the next would be measured on their way.
		await page.emulateMedia({ reducedMotion: 'reduce' });
		const done = await hopIdOf(page, 'Lantern Reach to Hollow Ness');
		for (const path of [
			'/',
			'/my-work',
			'/board',
			'/crews',
			'/crews/new',
			'/durations',
			'/projects',
			'/projects/new',
			'/sites',
			'/sites/new',
			'/parts',
			'/parts/new',
			'/parts/import',
			...PART_FORMS,
			'/hops/new',
			'/hubs',
			'/hubs/new',
			'/possible',
			'/map',
			'/exchange',
			'/replan',
			'/account',
			`/hops/${done}`,
			`/hops/${done}/record`,
			...['prepare', 'build', 'power', 'align', 'polarize', 'fix', 'accept'].map(
				(stage) => `/hops/${done}/a/${stage}`
			),
			`/hops/${done}/b/sheet`
		]) {
			await open(page, path);
			await expect(page.locator('h1, h2').filter({ visible: true }).first()).toBeVisible();
			await expectSound(page, path);
		}
		const { rows: hubs } = await api<{ rows: { id: string }[] }>(
			page,
			'GET',
			'/hubs?q=Oar%20Haven'
		);
		await open(page, `/hubs/${hubs[0]!.id}`);
		await page.getByTestId('terminal-list').getByRole('button').first().click();
		await expect(page.getByLabel('What is chosen')).toContainText('Free space');
		await expectSound(page, 'a terminal of a hub');
		const work = `/hubs/${hubs[0]!.id}/work`;
		await open(page, work);
		await expect(page.getByTestId('board-verdict')).toContainText('terminals linked');
		await expectSound(page, 'the work at a hub');
		for (const [name, seen] of [
			['Sector 2', 'step'],
			['Fish hall', 'link-trouble'],
			['Sail maker', 'terminal-acceptance']
		] as const) {
			await open(page, work);
			await page.locator('[data-station]').filter({ hasText: name }).click();
			await expect(page.getByTestId(seen)).toBeVisible();
			await expectSound(page, `${name} at a hub`);
		}
		const open1 = await hopIdOf(page, 'Hollow Ness to Kelp Head');
		await expectTimetableSound(page, open1);
		for (const view of ['issue', 'people']) {
			await open(page, `/hops/${open1}/a/prepare?view=${view}`);
			await expectSound(page, `prepare, ${view}`);
		}
		await open(page, `/hops/${open1}/a/prepare`);
		for (const name of SHEETS.map((sheet) => sheet.label)) {
			const tab = page.getByRole('tab', { name });
			await tab.click();
			await expect(tab).toHaveAttribute('aria-selected', 'true');
			await expect(page.getByRole('tabpanel')).not.toBeEmpty();
			await expectSound(page, `sheet ${name}`);
		}
		await open(page, `/hops/${open1}/a/build`);
		for (const step of STEPS) {
			await page.locator(`nav button[data-step=${step}]`).click();
			await expect(page.getByTestId('step')).toHaveAttribute('data-step', step);
			await expectSound(page, `step ${step}`);
		}
	});

	test(`accounts and installation are readable at ${size.width} px, in each theme`, async ({
		browser
	}) => {
		test.setTimeout(360_000);
		const { page } = await person(browser, 'admin', size);
		await page.emulateMedia({ reducedMotion: 'reduce' });
		await open(page, '/installation');
		await expectSound(page, '/installation');
		await open(page, '/people');
		await page.getByRole('button', { name: 'Change Edo Quill' }).click();
		await expect(page.getByLabel('Role of Edo Quill')).toBeVisible();
		await expectSound(page, '/people, somebody opened');
		await open(page, '/account');
		await page.getByRole('button', { name: 'Set it up' }).click();
		await expect(page.getByTestId('factor-secret')).toBeVisible();
		await expectSound(page, '/account, a second factor offered');
		await page.context().clearCookies();
		for (const path of ['/sign-in', '/sign-in/reset']) {
			await open(page, path);
			await expectSound(page, path);
		}
	});
}

/** Words of the controls that are lower than a gloved finger needs. */
const smallControls = (page: Page): Promise<string[]> =>
	page.evaluate(() =>
		// A term within a sentence is as high as its line; around it more can be tapped than is seen.
		[...document.querySelectorAll('button:not([data-term]), .btn, nav a')]
			.filter((element) => element.getClientRects().length > 0)
			// A box to tick is pressed anywhere in its line.
			.map((element) => element.closest('label') ?? element)
			.filter((element) => element.getBoundingClientRect().height < 48)
			.map((element) => element.textContent.trim())
	);

test('controls of the alignment and of every kind of step are large enough for a gloved hand on a phone', async ({
	browser
}) => {
	const { page } = await person(browser, 'crew-a', SIZES[1]);
	await open(page, `/hops/${await hopIdOf(page, 'Tern Stack to Kelp Head')}/a/align`);
	await expect(page.getByTestId('next-step')).toBeVisible();
	expect(await smallControls(page)).toEqual([]);
	for (const bay of await page
		.getByRole('navigation', { name: 'Stages of end A' })
		.getByRole('link')
		.all()) {
		if (!(await bay.isVisible())) continue;
		const { width, height } = (await bay.boundingBox())!;
		expect(Math.min(width, height)).toBeGreaterThanOrEqual(44);
	}
	await open(page, `/hops/${await hopIdOf(page, 'Hollow Ness to Kelp Head')}/a/build`);
	for (const step of STEPS) {
		await page.locator(`nav button[data-step=${step}]`).click();
		await expect(page.getByTestId('step')).toHaveAttribute('data-step', step);
		expect([step, await smallControls(page)]).toEqual([step, []]);
	}
});

test('the forms and the alignment can be reached with the keyboard alone', async ({ browser }) => {
	const { page } = await person(browser, 'crew-a');
	const hopId = await hopIdOf(page, 'Tern Stack to Kelp Head');
	await open(page, `/hops/${hopId}/a/align`);
	const reached: string[] = [];
	for (let i = 0; i < 40; i++) {
		await page.keyboard.press('Tab');
		reached.push(await page.evaluate(() => document.activeElement?.textContent.trim() ?? ''));
	}
	expect(reached.some((text) => text.startsWith('Read the meter'))).toBe(true);
	expect(reached.some((text) => text.startsWith('Align'))).toBe(true);
	expect(reached.some((text) => text.includes('Import a sweep'))).toBe(true);
});
