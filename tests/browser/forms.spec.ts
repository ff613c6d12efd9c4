import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { freshHop } from './building';
import {
	address,
	api,
	atClosing,
	expect,
	hopIdOf,
	issue,
	open,
	person,
	readyToClimb,
	test
} from './people';

test('a site form says what is wrong at its field, keeps the typing through a reload, then saves', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await open(page, '/sites/new');
	await page.getByRole('button', { name: 'Save the site' }).click();
	await expect(page.getByText('Name is empty.')).toBeVisible();
	await page.getByLabel('Name').fill('Test Rock');
	await page.getByLabel('Latitude').fill('91');
	await page.getByLabel('Longitude').fill('far west');
	await page.getByLabel('Ground height').fill('1e309');
	await page.getByRole('button', { name: 'Save the site' }).click();
	await expect(page.getByText('Latitude must be at most 90.')).toBeVisible();
	await expect(page.getByText('Longitude must be a number.')).toBeVisible();
	await expect(page.getByText('Ground height is too large to be a number.')).toBeVisible();
	await expect(page.getByLabel('Latitude')).toHaveAttribute('aria-invalid', 'true');
	await page.reload();
	await page.waitForSelector('html[data-alive]');
	await expect(page.getByText('was put back')).toBeVisible();
	await expect(page.getByLabel('Longitude')).toHaveValue('far west');
	await page.getByLabel('Latitude').fill('46° 6′ 36″ S');
	await expect(page.getByText('read as −46.110000°')).toBeVisible();
	await page.getByLabel('Longitude').fill('-118.2');
	await page.getByLabel('Ground height').fill('12');
	await page.getByRole('button', { name: 'Save the site' }).click();
	await page.waitForURL('**/sites');
	// Other tests make sites too: it may be on another page of the list.
	await page.getByLabel('Search sites').fill('Test Rock');
	await page.getByRole('button', { name: 'Search' }).click();
	await expect(page.getByRole('link', { name: 'Test Rock' })).toBeVisible();
	await page.getByLabel('Search sites').fill('zzz nothing');
	await page.getByRole('button', { name: 'Search' }).click();
	await expect(page.getByText('No site is named like')).toBeVisible();
});

/** Follows the review: a mount that fits, heights that clear, the rest accepted in writing. */
async function mendAndAccept(page: Page): Promise<void> {
	await page.getByRole('tab', { name: 'Sites and parts' }).click();
	// The pipe at Skerry Light is 140 mm; a hop from there needs a site with another pipe.
	await page.getByLabel('Site A').click();
	await page.getByLabel('Site A').fill('Tern');
	await page.getByRole('option', { name: 'Tern Stack' }).click();
	await page.getByRole('tab', { name: 'Path' }).click();
	await page.getByRole('button', { name: 'Take the profile again' }).click();
	await expect(page.getByText('points from Archipelago')).toBeVisible();
	await page.getByRole('tab', { name: 'Channel' }).click();
	// Tern Stack sends low on another channel than its other hop, so that both stand there in peace.
	await page.getByLabel('Sends on').first().fill('7.455');
	await page.getByLabel('Sends on').last().fill('7.651');
	await page.getByRole('button', { name: 'Take the units that fit' }).click();
	await page.getByRole('tab', { name: 'Review' }).click();
	for (const box of await page.getByRole('textbox', { name: 'Accepted in writing' }).all()) {
		await box.fill('Looked at on site.');
	}
	await expect(page.getByTestId('review-verdict')).toContainText('may be issued');
}

test('a new hop is planned from nothing: figures at once, the wrong frequency at its field', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await open(page, '/hops/new');
	await expect(page.getByText('Choose both sites.')).toBeVisible();
	await page.getByLabel('Name of the hop').fill('Skerry Light to Kelp Head');
	for (const [label, name] of [
		['Site A', 'Skerry Light'],
		['Site B', 'Kelp Head']
	] as const) {
		await page.getByLabel(label).click();
		await page.getByLabel(label).fill(name.slice(0, 5));
		await page.getByRole('option', { name, exact: true }).click();
	}
	await expect(page.getByTestId('plan-verdict')).toContainText('dBm');
	await page.getByRole('tab', { name: 'Channel' }).click();
	await page.getByLabel('Sends on').first().fill('31');
	await expect(page.getByText('31 GHz is outside the range of RU-07').first()).toBeVisible();
	await page.getByLabel('Sends on').first().fill('7.155');
	await page.getByRole('tab', { name: 'Path' }).click();
	await page.getByRole('button', { name: 'Take the profile' }).click();
	await expect(page.getByTestId('clearance')).toContainText('F1');
	await page.getByRole('button', { name: 'Save the new hop' }).click();
	await page.waitForURL('**/a/prepare');
	// Issued as it is, it is refused with what is open; the main button leads there, and on from there.
	await page.getByRole('link', { name: 'Issue and sheets' }).click();
	await issue(page, 'Issue the first revision');
	await expect(page.getByRole('alert').first()).toContainText(/mend them/);
	await page.getByRole('link', { name: 'Plan', exact: true }).click();
	await page.getByRole('button', { name: 'See what is open' }).click();
	await expect(page.getByTestId('review-verdict')).toContainText('blocks');
	await expect(page).toHaveURL(/sheet=review/);
	await mendAndAccept(page);
	await page.getByRole('button', { name: 'Save the plan' }).click();
	await expect(page.getByText('Saved.', { exact: true })).toBeVisible();
	await page.getByRole('link', { name: 'Go on: issue it' }).click();
	await issue(page, 'Issue the first revision');
	await expect(page.getByText('Site sheets, plan revision 1')).toBeVisible();
});

test('without a session one is sent to sign in and then where one wanted to go', async ({
	page
}) => {
	await open(page, '/sites');
	await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
	await page.getByLabel('Name', { exact: true }).fill('planner');
	await page.getByLabel('Password').fill('not it');
	await page.getByRole('button', { name: 'Sign in' }).click();
	await expect(page.getByRole('alert')).toContainText('Name or password is wrong.');
	await page.getByRole('button', { name: /Ilse Marrow/ }).click();
	await page.getByRole('button', { name: 'Sign in' }).click();
	await expect(page.getByRole('heading', { name: 'Sites' })).toBeVisible();
	const cookies = await page.context().cookies();
	const session = cookies.find((cookie) => cookie.name === 'skiaxis_session')!;
	expect([session.httpOnly, session.sameSite]).toEqual([true, 'Lax']);
	await page.getByRole('button', { name: 'Sign out' }).click();
	await page.goto(address('/sites'));
	await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
});

test('opened by another name of the machine, the sign-in page says where to go', async ({
	page
}) => {
	const elsewhere = address('/sign-in').replace('127.0.0.1', 'localhost');
	await page.goto(elsewhere);
	const link = page.getByRole('link', { name: address() });
	await expect(link).toBeVisible();
	await link.click();
	await page.waitForURL(address('/sign-in'));
	await expect(page.getByText('takes nothing from the address')).toHaveCount(0);
});

test('a stranger’s hop, a wrong end and a wrong stage give a page that says so', async ({
	browser
}) => {
	const admin = await person(browser, 'admin');
	const planner = await person(browser, 'planner');
	const hopId = await hopIdOf(planner.page, 'Tern Stack to Kelp Head');
	await open(admin.page, '/people');
	await admin.page.getByLabel('Sign-in name').fill('stranger');
	await admin.page.getByLabel('Name shown').fill('A Stranger');
	await admin.page.getByLabel('Password').fill('salt-wind-and-rope');
	await admin.page.getByRole('button', { name: 'Make the account' }).click();
	await expect(admin.page.getByRole('cell', { name: 'stranger', exact: true })).toBeVisible();
	const stranger = await person(browser, 'stranger');
	for (const path of [
		`/hops/${hopId}/a/align`,
		`/hops/${hopId}/c/align`,
		`/hops/${hopId}/a/dance`
	]) {
		await open(stranger.page, path);
		await expect(stranger.page.getByText('404')).toBeVisible();
	}
	await open(stranger.page, '/people');
	await expect(stranger.page.getByText('403')).toBeVisible();
});

test('the sheet prints on A4 with nothing beyond the paper', async ({ browser }) => {
	const { page } = await person(browser, 'crew-a');
	const hopId = await hopIdOf(page, 'Tern Stack to Kelp Head');
	await open(page, `/hops/${hopId}/a/sheet`);
	await page.emulateMedia({ media: 'print' });
	// A4 less the margins of 12 mm, at 96 dots an inch.
	await page.setViewportSize({ width: Math.round(((210 - 24) / 25.4) * 96), height: 1000 });
	const beyond = await page.evaluate(
		() =>
			[...document.querySelectorAll('.sheet *')].filter(
				(element) =>
					element.getBoundingClientRect().right > document.documentElement.clientWidth + 1
			).length
	);
	expect(beyond).toBe(0);
	const pdf = await page.pdf({ format: 'A4' });
	expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');

	// Whoever reads feet has them on the page and on the paper, the metric figure behind.
	await page.emulateMedia({ media: 'screen' });
	const sheet = page.locator('.sheet');
	await expect(sheet).not.toContainText(/ ft \(/);
	await page.evaluate(() => localStorage.setItem('skiaxis-units', 'imperial'));
	await page.reload();
	await expect(sheet).toContainText(/\d ft \(\d+\.\d m\) above ground/);
	const link = page.getByRole('link', { name: 'PDF' });
	await expect(link).toHaveAttribute('href', /units=imperial$/);
	const answer = (units: string): Promise<number> =>
		link.evaluate(
			async (element: HTMLAnchorElement, wanted) =>
				(await fetch(element.href.replace('imperial', wanted))).status,
			units
		);
	expect(await answer('imperial')).toBe(200);
	expect(await answer('cubits')).toBe(422);
});

test('what a crew has typed or read at an end is there after a reload, and thrown away by one press', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const name = `Typing ${randomUUID()}`;
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', name, { practice: false });
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	const reload = async (): Promise<void> => {
		await page.reload();
		await page.waitForSelector('html[data-alive]');
	};
	const step = async (key: string): Promise<void> => {
		await page.locator(`nav button[data-step=${key}]`).click();
		await expect(page.getByTestId('step')).toHaveAttribute('data-step', key);
	};

	// A count of a step, and somebody's name in the next form.
	await open(page, `/hops/${hopId}/a/build`);
	await page.locator('#field-step-value').fill('5');
	await step('parties');
	await expect(page.getByTestId('kept-typing')).toHaveCount(0);
	await page.getByLabel('Crew: name').fill('Bram Tolley');
	await reload();
	await expect(page.locator('#field-step-value')).toHaveValue('5');
	await page.getByTestId('kept-typing').getByRole('button', { name: 'Throw it away' }).click();
	await expect(page.locator('#field-step-value')).toHaveValue('');
	await step('parties');
	await expect(page.getByLabel('Crew: name')).toHaveValue('Bram Tolley');
	await page.getByLabel('Carrier or supplier: name').fill('Odo Fell');
	await page.getByRole('button', { name: 'Record who is here' }).click();
	await reload();
	// Recorded, it is typed no more; what was thrown away stays away.
	await expect(page.locator('#field-step-value')).toHaveValue('');
	await step('labels');
	const label = page.getByTestId('step').locator('form', { hasText: 'Record this label' });
	await page
		.getByTestId('step')
		.getByRole('button', { name: /Radio 2/ })
		.click();
	await label.getByLabel('Serial number').fill('S-77');
	await reload();
	await step('labels');
	await expect(label.getByRole('heading')).toContainText('radio 2');
	await expect(label.getByLabel('Serial number')).toHaveValue('S-77');

	// An answer of the closing, and the level before a fastener.
	await open(page, `/hops/${hopId}/a/accept`);
	const asked = page.getByTestId('operating-form').getByRole('group').first();
	await atClosing(page, 'operating');
	await asked.getByRole('button', { name: 'No' }).click();
	await reload();
	await atClosing(page, 'operating');
	await expect(asked.getByRole('button', { name: 'No' })).toHaveAttribute('aria-pressed', 'true');
	await atClosing(page, 'signature');
	await page.getByLabel('Name of the signer').fill('Bram Tolley');
	await reload();
	await atClosing(page, 'signature');
	await expect(page.getByLabel('Name of the signer')).toHaveValue('Bram Tolley');
	await readyToClimb(page, 'A');
	// The wrench first: it is kept while it is typed, and may be left out by who says so.
	await open(page, `/hops/${hopId}/a/fix`);
	await page.getByLabel('Torque tool, serial number').fill('TW-5');
	await page.getByRole('button', { name: 'Record the tool' }).click();
	await expect(page.getByText('The day on its label.')).toBeVisible();
	await reload();
	await expect(page.getByLabel('Torque tool, serial number')).toHaveValue('TW-5');
	await page.getByRole('button', { name: 'Go on without' }).click();
	await page.getByRole('button', { name: 'Read the level before' }).click();
	const dialog = page.getByRole('dialog');
	for (const key of ['1', 'Decimal point', '5']) {
		await dialog.getByRole('button', { name: key, exact: true }).click();
	}
	await dialog.getByRole('button', { name: 'Keep it' }).click();
	const current = page.locator('ol li[aria-current=step]');
	await expect(current).toContainText('before −');
	const before = await current.innerText();
	await reload();
	await expect(current).toHaveText(before, { useInnerText: true });
	await page.getByRole('button', { name: 'Go on without' }).click();
	await expect(page.getByRole('button', { name: 'Tightened: read the level after' })).toBeVisible();
	// What changes a level makes it void: it is read anew.
	const mended = { cause: 'film-left-in' };
	await api(page, 'POST', `/hops/${hopId}/records`, {
		records: [
			{
				...{ id: randomUUID(), end: 'B', kind: 'remedy', payload: mended },
				recordedAt: new Date().toISOString()
			}
		]
	});
	await expect(page.getByRole('button', { name: 'Read the level before' })).toBeVisible();
});

test('a serial number is read from its code by the camera, where the browser can read codes', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const name = `Codes ${randomUUID()}`;
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', name, { practice: false });
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	const serial = page.getByRole('textbox', { name: 'Serial number' });
	const labels = async (): Promise<void> => {
		await open(page, `/hops/${hopId}/a/build`);
		await page.locator('nav button[data-step=labels]').click();
		await expect(serial).toBeVisible();
	};
	const read = page.getByRole('button', { name: 'Read its code' });
	// This browser cannot: nothing is offered that would do nothing.
	await labels();
	await expect(read).toHaveCount(0);

	// One that can, and a camera: a code is there at the third look.
	await page.addInitScript(() => {
		const camera = { stopped: 0, refused: false };
		const stream = (): MediaStream => {
			const canvas = document.createElement('canvas');
			canvas.getContext('2d')!.fillRect(0, 0, 8, 8);
			const made = canvas.captureStream(5);
			const [track] = made.getTracks();
			const stop = track!.stop.bind(track);
			track!.stop = () => {
				camera.stopped += 1;
				stop();
			};
			return made;
		};
		Object.defineProperty(navigator, 'mediaDevices', {
			value: {
				getUserMedia: () =>
					camera.refused ? Promise.reject(new Error('refused')) : Promise.resolve(stream())
			}
		});
		let looks = 0;
		const found = (): { rawValue: string }[] => (++looks < 3 ? [] : [{ rawValue: ' SN-4711 ' }]);
		Object.assign(globalThis, {
			camera,
			BarcodeDetector: class {
				readonly detect = (): Promise<{ rawValue: string }[]> => Promise.resolve(found());
			}
		});
	});
	await labels();
	await read.click();
	await expect(page.getByRole('dialog')).toHaveCount(0);
	await expect(serial).toHaveValue('SN-4711');
	const camera = <T>(of: (camera: { stopped: number; refused: boolean }) => T): Promise<T> =>
		page.evaluate(`(${of.toString()})(globalThis.camera)`);
	expect(await camera((one) => one.stopped)).toBe(1);

	// Refused, it says so, and the field is typed as before.
	await camera((one) => (one.refused = true));
	await read.click();
	await expect(page.getByRole('alert')).toContainText('type it in');
	await page.keyboard.press('Escape');
	await serial.fill('SN-4712');
});
