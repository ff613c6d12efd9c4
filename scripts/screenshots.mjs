/**
 * `node scripts/screenshots.mjs [--out folder] [name …]`: pictures of the main views of a running demo
 * (`npm run demo`), by default into docs/screenshots.
 */
import { chromium } from '@playwright/test';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './lib/setup.mjs';

const args = process.argv.slice(2);
const outAt = args.indexOf('--out');
const folder = (outAt >= 0 && args.splice(outAt, 2)[1]) || join(ROOT, 'docs', 'screenshots');
const address = process.env.SKIAXIS_ADDRESS ?? 'http://127.0.0.1:8640';
mkdirSync(folder, { recursive: true });

const DESK = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };
const ALIGN = 'Tern Stack to Kelp Head';
const PLAN = 'Lantern Reach to Saltbeck Quay';
const WRONG = 'Skerry Light to Tern Stack';
const FOUR = 'Lantern Reach to Kelp Head';
const DONE = 'Lantern Reach to Hollow Ness';
const DUAL = 'Hollow Ness to Kelp Head';

/** Follows the screen until a sweep is read and the next move is known. */
async function untilMove(page) {
	const panel = page.getByTestId('next-step');
	for (let i = 0; i < 6; i++) {
		if ((await panel.getAttribute('data-step')) === 'move') return;
		await panel.locator('.btn-main').click();
		await page.waitForTimeout(1500);
		await page.waitForFunction(
			() =>
				document.querySelector('[data-testid=next-step]')?.getAttribute('data-step') !== 'sweeping',
			undefined,
			{ timeout: 60_000 }
		);
		await page.waitForTimeout(1500);
	}
}

/** Opens a sheet of the plan and brings it to the top. */
const toSheet = (name) => async (page) => {
	await page.getByRole('tab', { name }).click();
	await page.waitForTimeout(900);
	await page.getByTestId('plan-verdict').evaluate((element) => element.scrollIntoView());
};

/**
 * Name of the picture, who looks, where, and what is done before it is taken.
 * @typedef {import('@playwright/test').Page} Page
 * @typedef {{ theme?: string, full?: boolean, act?: (page: Page) => Promise<void> }} Options
 * @typedef {[name: string, who: string | undefined, viewport: { width: number, height: number },
 *   pathOf: (hop: (name: string) => string) => string, options?: Options]} Shot
 * @type {Shot[]}
 */
const SHOTS = [
	['sign-in', undefined, DESK, () => '/sign-in'],
	['hops', 'planner', DESK, () => '/'],
	[
		'hub-desk',
		'planner',
		DESK,
		() => '/hubs',
		{
			act: async (page) => {
				await page.getByRole('link', { name: /Oar Haven harbour/ }).click();
				await page
					.getByTestId('terminal-list')
					.getByRole('button', { name: /Ice house/ })
					.click();
				await page.evaluate(() => scrollTo(0, 0));
				await page.waitForTimeout(600);
			}
		}
	],
	[
		'hub-board',
		'crew-a',
		DESK,
		() => '/hubs',
		{
			act: async (page) => {
				await page.getByRole('link', { name: /Oar Haven harbour/ }).click();
				await page.getByRole('link', { name: 'The work at this hub' }).click();
				await page.getByText('This hub is on this device.').waitFor();
			}
		}
	],
	['sites', 'planner', DESK, () => '/sites'],
	[
		'plan-desk',
		'planner',
		DESK,
		(hop) => `/hops/${hop(PLAN)}/a/prepare`,
		{ act: toSheet('Sites and parts') }
	],
	['plan-path', 'planner', DESK, (hop) => `/hops/${hop(PLAN)}/a/prepare`, { act: toSheet('Path') }],
	[
		'plan-availability',
		'planner',
		DESK,
		(hop) => `/hops/${hop(PLAN)}/a/prepare`,
		{ act: toSheet('Availability') }
	],
	[
		'plan-review',
		'planner',
		DESK,
		(hop) => `/hops/${hop(WRONG)}/a/prepare`,
		{ act: toSheet('Review') }
	],
	[
		'plan-path-phone',
		'planner',
		PHONE,
		(hop) => `/hops/${hop(PLAN)}/a/prepare`,
		{ act: toSheet('Path') }
	],
	[
		'plan-channel',
		'planner',
		DESK,
		(hop) => `/hops/${hop(FOUR)}/a/prepare`,
		{ act: toSheet('Channel') }
	],
	[
		'plan-levels',
		'planner',
		DESK,
		(hop) => `/hops/${hop(FOUR)}/a/prepare`,
		{ act: toSheet('Levels') }
	],
	[
		'plan-pointing',
		'planner',
		DESK,
		(hop) => `/hops/${hop(PLAN)}/a/prepare`,
		{ act: toSheet('Pointing') }
	],
	[
		'plan-looks',
		'planner',
		DESK,
		(hop) => `/hops/${hop(PLAN)}/a/prepare`,
		{ act: toSheet('First looks') }
	],
	[
		'plan-parts',
		'planner',
		DESK,
		(hop) => `/hops/${hop(FOUR)}/a/prepare`,
		{ act: toSheet('Parts list') }
	],
	['map', 'planner', DESK, () => '/map', { act: (page) => page.waitForTimeout(3500) }],
	[
		'site',
		'planner',
		DESK,
		() => '/sites',
		{
			act: async (page) => {
				await page.getByRole('link', { name: 'Tern Stack' }).click();
				await page.waitForTimeout(800);
			}
		}
	],
	[
		'build-desk',
		'crew-a',
		DESK,
		(hop) => `/hops/${hop(DUAL)}/a/build`,
		{
			act: async (page) => {
				await page.locator('button[data-step=chain-mounted]').click();
				for (const [joint, i] of [
					['radio-1', 0],
					['radio-2', 1],
					['port-1', 0],
					['coupling', 1]
				]) {
					await page.locator(`[data-joint=${joint}] button`).nth(Number(i)).click();
				}
				await page.evaluate(() => scrollTo(0, 140));
			}
		}
	],
	[
		'build-phone',
		'crew-a',
		PHONE,
		(hop) => `/hops/${hop(DUAL)}/a/build`,
		{
			act: async (page) => {
				await page.locator('button[data-step=dish-bolts]').click();
				await page.locator('#field-step-value').fill('7');
			}
		}
	],
	[
		'stop-phone',
		'crew-a',
		PHONE,
		(hop) => `/hops/${hop(DUAL)}/a/build`,
		{
			act: async (page) => {
				await page.locator('button[data-step=pipe]').click();
				const card = page.getByTestId('stop-card-climb');
				for (const i of [0, 1]) await card.getByRole('button', { name: 'Yes' }).nth(i).click();
			}
		}
	],
	[
		'polarize-desk',
		'crew-b',
		DESK,
		(hop) => `/hops/${hop(DONE)}/b/polarize`,
		{
			act: async (page) => {
				await page.getByRole('button', { name: /^Read both here/ }).click();
				await page.waitForTimeout(900);
			}
		}
	],
	['sheet', 'crew-a', DESK, (hop) => `/hops/${hop(ALIGN)}/a/sheet`],
	['power-phone', 'crew-b', PHONE, (hop) => `/hops/${hop('Kelp Head to Saltbeck Quay')}/b/power`],
	['align-desk', 'crew-a', DESK, (hop) => `/hops/${hop(ALIGN)}/a/align`, { act: untilMove }],
	['align-phone', 'crew-a', PHONE, (hop) => `/hops/${hop(ALIGN)}/a/align`],
	['align-night', 'crew-a', DESK, (hop) => `/hops/${hop(ALIGN)}/a/align`, { theme: 'night' }],
	['align-sun-phone', 'crew-a', PHONE, (hop) => `/hops/${hop(ALIGN)}/a/align`, { theme: 'sun' }],
	[
		'large-phone',
		'crew-a',
		PHONE,
		(hop) => `/hops/${hop(ALIGN)}/a/align`,
		{ act: (page) => page.getByRole('button', { name: 'Large' }).click() }
	],
	[
		'record',
		'planner',
		DESK,
		(hop) => `/hops/${hop(DONE)}/record`,
		{
			act: async (page) => {
				const slider = page.getByRole('slider');
				await slider.press('End');
				for (let back = 0; back < 40; back++) await slider.press('ArrowLeft');
				await page.waitForTimeout(1500);
			}
		}
	],
	['align-far-phone', 'crew-b', PHONE, (hop) => `/hops/${hop(ALIGN)}/b/align`],
	[
		'keypad-phone',
		'crew-a',
		PHONE,
		(hop) => `/hops/${hop(ALIGN)}/a/align`,
		{
			act: async (page) => {
				await page.getByRole('button', { name: 'Meter: simulated' }).click();
				await page.getByRole('button', { name: 'Type readings' }).click();
				await page.getByRole('button', { name: 'Type a reading' }).first().click();
				for (const key of ['2', 'Decimal point', '1', '4']) {
					await page.getByRole('dialog').getByRole('button', { name: key, exact: true }).click();
				}
			}
		}
	],
	['fix-desk', 'crew-a', DESK, (hop) => `/hops/${hop(DONE)}/a/fix`],
	['accept-desk', 'acceptor', DESK, (hop) => `/hops/${hop(DONE)}/a/accept`],
	['accept-phone', 'acceptor', PHONE, (hop) => `/hops/${hop(DONE)}/a/accept`],
	[
		'timetable',
		'planner',
		DESK,
		(hop) => `/hops/${hop('Lantern Reach to Saltbeck Quay')}/a/timetable`,
		{ act: async (page) => page.getByTestId('time-rails').waitFor() }
	],
	[
		'board',
		'planner',
		DESK,
		() => '/board',
		{ act: async (page) => page.getByTestId('board').waitFor() }
	],
	['my-work', 'crew-a', PHONE, () => '/my-work'],
	[
		'project',
		'planner',
		DESK,
		() => '/projects',
		{
			act: async (page) => {
				await page.getByRole('link', { name: /Sound crossing/ }).click();
				await page.getByRole('button', { name: /^Work it out/ }).click();
				await page.getByRole('button', { name: 'Stop' }).waitFor();
				await page.getByRole('button', { name: 'Work it out again' }).waitFor({ timeout: 60_000 });
				await page.getByTestId('wall').waitFor({ timeout: 60_000 });
				await page.evaluate(() => document.getElementById('schedule-title')?.scrollIntoView());
			}
		}
	],
	// Signs the hop first: the last of all.
	[
		'visit-desk',
		'crew-a',
		DESK,
		(hop) => `/hops/${hop(DONE)}/a/accept`,
		{
			act: async (page) => {
				await signed(page);
				await page.reload();
				await page.getByLabel('In a few words').fill('Gale on Tuesday night');
				await page.getByRole('button', { name: 'Begin the visit' }).click();
				await page.getByRole('button', { name: 'Read the level at A' }).click();
				await page.getByRole('button', { name: 'Read the level at A again' }).waitFor();
				await page.getByTestId('visit').scrollIntoViewIfNeeded();
				await page.evaluate(() =>
					document.querySelector('[data-testid=visit]')?.scrollIntoView({ block: 'start' })
				);
				await page.waitForTimeout(500);
			}
		}
	]
];

/** Signs the hop of the page as its acceptor, through the API. */
async function signed(page) {
	await page.evaluate(async () => {
		const api = async (method, path, body, token) => {
			const answer = await fetch(`/api/v1${path}`, {
				method,
				headers: {
					'content-type': 'application/json',
					...(token ? { authorization: `Bearer ${token}` } : {})
				},
				...(body ? { body: JSON.stringify(body) } : {})
			});
			return answer.json();
		};
		const id = location.pathname.split('/')[2];
		const { token } = await api('POST', '/tokens', {
			signInName: 'acceptor',
			password: 'salt-wind-and-rope'
		});
		const judgement = await api('GET', `/hops/${id}/judgement`);
		const { records } = await api('GET', `/hops/${id}/records?limit=1000`);
		await api(
			'POST',
			`/hops/${id}/acceptance`,
			{
				id: crypto.randomUUID(),
				lastSeq: records.at(-1).seq,
				causes: Object.fromEntries(
					judgement.lines
						.filter(({ verdict }) => verdict === 'deviation')
						.map(({ code }) => [code, 'Agreed on site.'])
				),
				signature: { name: 'Noor Haverly', method: 'typed' }
			},
			token
		);
	});
}

const wanted = SHOTS.filter(([name]) => args.length === 0 || args.includes(name));
const browser = await chromium.launch({
	executablePath: '/usr/bin/chromium',
	args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run']
});
try {
	for (const [name, who, viewport, pathOf, { theme = 'day', act, full = false } = {}] of wanted) {
		const context = await browser.newContext({ viewport });
		// As somebody sees it who has put the first steps away.
		await context.addCookies(
			['planner', 'technician', 'acceptor', 'trainee', 'administrator'].map((role) => ({
				name: `skiaxis-began-${role}`,
				value: 'seen',
				url: address
			}))
		);
		const page = await context.newPage();
		const open = async (path) => {
			await page.goto(address + path);
			await page.waitForSelector('html[data-alive]');
		};
		const ids = new Map();
		if (who) {
			await open('/sign-in');
			await page.evaluate((t) => localStorage.setItem('skiaxis-theme', t), theme);
			await page.getByLabel('Name', { exact: true }).fill(who);
			await page.getByLabel('Password').fill('salt-wind-and-rope');
			await page.getByRole('button', { name: 'Sign in' }).click();
			await page.getByRole('heading', { name: /^(Hops|My work)$/ }).waitFor();
			const { rows } = await page.evaluate(async () => (await fetch('/api/v1/hops')).json());
			for (const row of rows) ids.set(row.name, row.id);
		}
		await open(pathOf((hop) => ids.get(hop)));
		await page.waitForTimeout(900);
		await act?.(page);
		await page.waitForTimeout(300);
		await page.screenshot({ path: join(folder, `${name}.png`), fullPage: full });
		console.log(name);
		await context.close();
	}
} finally {
	await browser.close();
}
