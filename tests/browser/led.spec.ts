import { randomUUID } from 'node:crypto';
import { SHEETS } from '../../src/lib/ui/plan/sheets';
import { freshHop } from './building';
import { expect, hopIdOf, open, person, test } from './people';

const HOP = 'Lantern Reach to Hollow Ness';

test('every sheet of a plan begins high on a laptop, below the figures that it gives', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const hopId = await hopIdOf(page, HOP);
	for (const { id, label } of SHEETS) {
		await open(page, `/hops/${hopId}/a/prepare?sheet=${id}`);
		await expect(page.getByRole('tab', { name: label })).toHaveAttribute('aria-selected', 'true');
		await expect(page.getByTestId('plan-verdict')).toContainText('dBm');
		await expect(page.getByTestId('plan-verdict')).toBeInViewport();
		const sheet = await page.getByRole('tabpanel').boundingBox();
		expect(sheet!.y, label).toBeLessThan(400);
	}
});

test('levels are drawn along the hop in both directions, and the time out as areas of one scale', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const hopId = await hopIdOf(page, HOP);
	await open(page, `/hops/${hopId}/a/prepare?sheet=levels`);
	const drawn = page.getByTestId('level-diagram').getByRole('figure');
	await expect(drawn).toHaveCount(2);
	for (const [i, way] of ['A to B', 'B to A'].entries()) {
		await expect(drawn.nth(i)).toContainText(way);
		await expect(drawn.nth(i)).toContainText(/threshold 256 QAM\s+−\d+\.\d/);
		await expect(drawn.nth(i)).toContainText(/overload −\d+\.\d/);
		await expect(drawn.nth(i)).toContainText(/free space −1\d\d\.\d/);
	}
	// What arrives by the drawing is what the plan says.
	const planned = await page.getByTestId('plan-verdict').innerText();
	const [atA, atB] = [...planned.matchAll(/−\d+\.\d dBm/g)].map(([level]) => level);
	await expect(drawn.nth(0)).toContainText(`${atB!} received`);
	await expect(drawn.nth(1)).toContainText(`${atA!} received`);

	await page.getByRole('tab', { name: 'Availability' }).click();
	const areas = page.getByTestId('outage-areas');
	await expect(areas).toContainText('A to B');
	await expect(areas).toContainText(/rain \d+\.\d\d min/);
	// More is asked for: the frame is smaller, and what is out keeps its figures.
	const causes = await areas.getByText(/^rain /).allInnerTexts();
	await page.getByLabel('Asked for').fill('99.999');
	await expect(areas).toContainText('5.26 min');
	expect(await areas.getByText(/^rain /).allInnerTexts()).toEqual(causes);
});

test('a term explains itself on a tap, and the glossary finds it', async ({ browser }) => {
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	const hopId = await hopIdOf(page, HOP);
	await open(page, `/hops/${hopId}/a/polarize`);
	await page.getByRole('button', { name: 'XPD: what is it?' }).click();
	await expect(page.getByText('XPD: cross-polar discrimination')).toBeInViewport();
	await page.getByRole('link', { name: 'All terms' }).click();
	await expect(page).toHaveURL(/\/glossary#XPD$/);
	await expect(page.locator('#XPD')).toBeInViewport();
	await page.getByLabel('Search the glossary').fill('hot standby');
	await expect(page.getByRole('term')).toHaveText([/HSB/]);
	await page.getByLabel('Search the glossary').fill('zzz');
	await expect(page.getByText('No term has “zzz” in it.')).toBeVisible();
});

test('a moment stands in the reader’s own time and manner, with UTC beside it', async ({
	browser
}) => {
	const { page } = await person(
		browser,
		'planner',
		{ width: 1280, height: 800 },
		{ timezoneId: 'Asia/Kolkata', locale: 'en-GB' }
	);
	// The list is turned by pages, and other tests add to it.
	await open(page, `/?q=${encodeURIComponent(HOP)}`);
	const row = page.getByRole('listitem').filter({ hasText: HOP }).first();
	// Five hours and a half ahead, all year.
	await expect(row).toContainText(/\d{1,2}:\d\d GMT\+5:30 \(.*\d\d:\d\d UTC\)/);
	const text = await row.innerText();
	const [, hour, minute] = /(\d{1,2}):(\d\d) GMT/.exec(text)!;
	const [, utcHour, utcMinute] = /(\d\d):(\d\d) UTC/.exec(text)!;
	const ahead =
		(Number(hour) * 60 + Number(minute) - Number(utcHour) * 60 - Number(utcMinute) + 1440) % 1440;
	expect(ahead).toBe(330);
});

test('a new hop with nothing in it is refused at its first field, which has the focus until it is mended', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await open(page, '/hops/new');
	await page.getByRole('tab', { name: 'Channel' }).click();
	await page.getByRole('button', { name: 'Save the new hop' }).click();
	const name = page.getByLabel('Name of the hop');
	await expect(name).toBeFocused();
	await expect(name).toBeInViewport();
	await expect(name).toHaveAttribute('aria-invalid', 'true');
	await name.fill(`Mended ${randomUUID()}`);
	await expect(name).toHaveAttribute('aria-invalid', 'false');
});

test('what was read off plates and ticked of a radio is there after a reload', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Plates ${randomUUID()}`);
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	const reload = async (): Promise<void> => {
		await page.reload();
		await page.waitForSelector('html[data-alive]');
	};
	await open(page, `/hops/${hopId}/a/build`);
	const hoist = page.locator('nav button[data-step=hoist]');
	await hoist.click();
	await page.getByLabel('Rope breaks at').fill('2400');
	await page.getByLabel('Pulley rated').fill('500');
	await page.getByLabel('Sling rated').fill('800');
	await expect(page.getByText('It holds.')).toBeVisible();
	await reload();
	await hoist.click();
	await expect(page.getByLabel('Rope breaks at')).toHaveValue('2400');
	await expect(page.getByText('It holds.')).toBeVisible();
	const kept = page.getByTestId('kept-typing');
	await kept.getByRole('button', { name: 'Throw it away' }).click();
	await expect(page.getByLabel('Rope breaks at')).toHaveValue('');
	await kept.getByRole('button', { name: 'Bring it back' }).click();
	await expect(page.getByLabel('Rope breaks at')).toHaveValue('2400');

	await open(page, `/hops/${hopId}/a/power`);
	const ticks = page.getByTestId('radio-settings').getByRole('checkbox');
	await ticks.first().click();
	await reload();
	await expect(ticks.first()).toBeChecked();
	await expect(ticks.nth(1)).not.toBeChecked();
	await expect(page.getByRole('button', { name: 'A is in the alignment state' })).toBeDisabled();
});

test('whoever is new is told how to begin, in the way of their role, until it is put away', async ({
	browser
}) => {
	const firstOf = {
		planner: 'Bring in the sites',
		'crew-a': 'Open your hop while you have a connection',
		acceptor: 'Open a hop that is under way',
		trainee: 'Take a practice hop',
		admin: 'Make accounts for the others'
	};
	for (const [name, first] of Object.entries(firstOf)) {
		const { page, context } = await person(browser, name, { width: 390, height: 844 });
		await expect(page.getByTestId('first-steps')).toHaveCount(0);
		await context.clearCookies({ name: /^skiaxis-began/ });
		await open(page, '/');
		const steps = page.getByTestId('first-steps');
		await expect(steps.getByRole('listitem').first()).toContainText(first);
		// Every way that it names is there for this person.
		for (const link of await steps.getByRole('link').all()) {
			const there = await page.request.get(
				new URL((await link.getAttribute('href'))!, page.url()).href
			);
			expect([await link.innerText(), there.status()]).toEqual([await link.innerText(), 200]);
		}
		await steps.getByRole('button', { name: 'Put this away' }).click();
		await expect(steps).toHaveCount(0);
		await open(page, '/');
		await expect(steps).toHaveCount(0);
		await page.getByRole('button', { name: 'How to begin here' }).click();
		await expect(steps).toBeVisible();
	}
});

test('a file says that it is being made, or why it could not be; a place is copied as a navigator takes it', async ({
	browser
}) => {
	const { page, context } = await person(browser, 'crew-a');
	const hopId = await hopIdOf(page, HOP);
	await open(page, `/hops/${hopId}/a/accept`);
	const pack = page.getByRole('link', { name: /^Acceptance pack as PDF/ });
	let goOn: () => void = () => undefined;
	const held = new Promise<void>((resolve) => (goOn = resolve));
	await page.route('**/pack.pdf*', async (route) => {
		await held;
		await route.continue();
	});
	const file = page.waitForEvent('download');
	await pack.click();
	await expect(pack).toHaveText('Acceptance pack as PDF: being made …');
	goOn();
	expect((await file).suggestedFilename()).toBe('acceptance-pack.pdf');
	await expect(pack).toHaveText('Acceptance pack as PDF');
	await page.unroute('**/pack.pdf*');
	await page.route('**/pack.pdf*', (route) => route.abort());
	await pack.click();
	await expect(page.getByRole('alert')).toContainText('No connection to the server.');

	await context.grantPermissions(['clipboard-read', 'clipboard-write']);
	await open(page, `/hops/${hopId}/a/sheet`);
	await page.getByRole('button', { name: 'Copy position (wgs 84)' }).click();
	await expect(page.getByText('copied')).toBeVisible();
	expect(await page.evaluate(() => navigator.clipboard.readText())).toMatch(
		/^-?\d+\.\d{6}, -?\d+\.\d{6}$/
	);
});

test('paper is white in the night theme, has nothing to press and shows what is folded', async ({
	browser
}) => {
	const { page } = await person(browser, 'crew-a', { width: 790, height: 1100 });
	const hopId = await hopIdOf(page, HOP);
	await page.evaluate(() => localStorage.setItem('skiaxis-theme', 'night'));
	for (const path of ['a/accept', 'record']) {
		await open(page, `/hops/${hopId}/${path}`);
		const held = page.locator('#lines-that-hold li').first();
		if (path === 'a/accept') {
			await page.getByRole('button', { name: /lines hold$/ }).click();
			await expect(held).toBeHidden();
		}
		await page.emulateMedia({ media: 'print' });
		expect(
			await page.evaluate(() => getComputedStyle(document.documentElement).backgroundColor)
		).toBe('rgb(255, 255, 255)');
		await expect(page.locator('.btn:visible')).toHaveCount(0);
		if (path === 'a/accept') await expect(held).toBeVisible();
		const beyond = await page.evaluate(
			() =>
				[...document.querySelectorAll('main *')].filter(
					(one) => one.getBoundingClientRect().right > document.documentElement.clientWidth + 1
				).length
		);
		expect(beyond).toBe(0);
		await page.emulateMedia({ media: 'screen' });
	}
});
