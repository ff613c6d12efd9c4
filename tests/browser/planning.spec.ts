import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { writeGeoTiff } from '../../scripts/lib/tiffWriter.mjs';
import { api, expect, hopIdOf, issue, open, person, test } from './people';

const PLAN = 'Hollow Ness to Kelp Head';

async function planOf(page: Page, name: string, sheet: string): Promise<string> {
	const hopId = await hopIdOf(page, name);
	await open(page, `/hops/${hopId}/a/prepare`);
	await page.getByRole('tab', { name: sheet }).click();
	return hopId;
}

test('the wrong plan of the demo: the review finds it in six ways and more, each with a way to mend it', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await planOf(page, 'Skerry Light to Tern Stack', 'Review');
	await expect(page.getByTestId('review-verdict')).toContainText('block issuing');
	for (const code of [
		'coupling-band',
		'outside-sub-band',
		'eirp-over-limit',
		'pipe-diameter',
		'supply-too-low',
		'path-blocked'
	]) {
		await expect(page.locator(`[data-finding=${code}]`).first()).toBeVisible();
	}
	await page.getByRole('link', { name: 'Issue and sheets' }).click();
	await issue(page, 'Issue the first revision');
	await expect(page.getByRole('alert').first()).toContainText('The plan has errors');
	await page.getByRole('link', { name: 'Plan', exact: true }).click();
	await page
		.locator('[data-finding=coupling-band]')
		.getByRole('button', { name: 'Mend it' })
		.click();
	await expect(page.getByLabel('Coupling at B')).toBeFocused();
	await page.getByRole('tab', { name: 'Review' }).click();
	await page
		.locator('[data-finding=pipe-diameter]')
		.getByRole('button', { name: 'Mend it' })
		.click();
	await expect(page.getByLabel('Mount at A')).toBeFocused();
});

test('heights follow the keys and the finger on the profile, and a tree shuts the path', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await planOf(page, PLAN, 'Path');
	const antenna = page.getByRole('slider', { name: /Antenna height at A/ });
	await antenna.focus();
	await page.keyboard.press('PageUp');
	await expect(page.getByLabel('Antenna height at A', { exact: false }).last()).toHaveValue('31');
	const box = (await antenna.boundingBox())!;
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 + 14, { steps: 4 });
	await page.mouse.up();
	const lower = Number(await antenna.getAttribute('aria-valuenow'));
	expect(lower).toBeLessThan(31);
	// Both heights at once, on the curve of those that clear the path.
	const both = page.getByRole('slider', { name: 'Antenna heights at A and B together' });
	await both.press('ArrowUp');
	await expect(both).toHaveAttribute('aria-valuetext', /clear$/);
	const dot = (await both.boundingBox())!;
	await page.mouse.move(dot.x + dot.width / 2, dot.y + dot.height / 2);
	await page.mouse.down();
	await page.mouse.move(dot.x + dot.width / 2, dot.y + 500, { steps: 4 });
	await page.mouse.up();
	await expect(both).toHaveAttribute('aria-valuetext', /B 0\.5 m, short$/);
	await page.mouse.move(dot.x + dot.width / 2, dot.y + 600);
	await expect(both).toHaveAttribute('aria-valuetext', /B 0\.5 m, short$/);
	await page.getByRole('button', { name: 'Add an obstacle' }).click();
	await page.getByLabel('Height', { exact: false }).last().fill('400');
	await expect(page.getByTestId('clearance')).toContainText('Obstacle 1');
	// What stands in the room under the ray is drawn in it.
	await expect(page.getByTestId('in-the-room')).not.toHaveCount(0);
	await expect(page.getByTestId('plan-verdict')).toContainText('short');
});

test('what if answers while dragging and can be taken over', async ({ browser }) => {
	const { page } = await person(browser, 'planner');
	await planOf(page, PLAN, 'Availability');
	await page.getByText('What if …').click();
	const power = page.getByRole('slider', { name: /Power at both ends/ });
	for (let step = 0; step < 10; step++) await power.press('ArrowLeft');
	await expect(power).toHaveAttribute('aria-valuetext', '−10 dB');
	await expect(page.getByText(/^Then/)).toContainText('(−');
	await page.getByRole('button', { name: 'Take it over' }).click();
	await page.getByRole('tab', { name: 'Channel' }).click();
	await expect(page.getByLabel('Operating power').first()).toHaveValue('7');
});

test('imperial units are shown and typed, and stored in metric', async ({ browser }) => {
	const { page } = await person(browser, 'planner');
	await planOf(page, PLAN, 'Path');
	await page
		.getByRole('button', { name: /^Units: metric/ })
		.last()
		.click();
	const field = page.locator('#field-plan-ends-A-antennaHeightAglM');
	await expect(field).toHaveValue('85.302');
	await field.fill('100');
	await field.blur();
	await expect(page.getByTestId('plan-verdict')).toContainText('mi');
	await page
		.getByRole('button', { name: /^Units: imperial/ })
		.last()
		.click();
	await expect(field).toHaveValue('30.48');
});

test('the map: reached by keyboard, picked, and a raster taken in or refused', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await open(page, '/map');
	await expect(page.getByTestId('map')).toHaveAttribute('data-ready', 'true', { timeout: 40_000 });
	await expect(page.getByRole('link', { name: 'Tern Stack', exact: true })).toBeVisible();
	await page.getByRole('button', { name: 'Show Tern Stack on the map' }).press('Enter');
	const box = (await page.getByTestId('map').boundingBox())!;
	await expect(page.getByTestId('map')).toHaveAttribute('data-moving', 'false');
	await page.mouse.click(box.x + 60, box.y + box.height - 120);
	await expect(page.getByTestId('picked')).toContainText('°');
	const bytes = writeGeoTiff({
		columns: 20,
		rows: 20,
		value: () => 9,
		stepDeg: 0.01,
		westDeg: 5,
		northDeg: 5
	});
	const input = page.locator('input[type=file]');
	await input.setInputFiles({ name: 'Distant tile.tif', mimeType: 'image/tiff', buffer: bytes });
	await expect(page.locator('strong', { hasText: 'Distant tile' })).toBeVisible();
	await input.setInputFiles({
		name: 'bad.tif',
		mimeType: 'image/tiff',
		buffer: Buffer.from('not one')
	});
	await expect(page.getByRole('alert')).toContainText('no GeoTIFF');
	await page.getByRole('button', { name: 'Remove Distant tile' }).click();
	await expect(page.locator('strong', { hasText: 'Distant tile' })).toHaveCount(0);
});

test('a landmark is picked on the map even where the hop itself is drawn', async ({ browser }) => {
	const { page } = await person(browser, 'planner');
	await planOf(page, PLAN, 'Pointing');
	const before = await page.getByLabel('Latitude').count();
	await page.getByText('Pick one on the map').click();
	const map = page.getByTestId('map');
	await expect(map).toHaveAttribute('data-ready', 'true', { timeout: 40_000 });
	await map.scrollIntoViewIfNeeded();
	await expect(map).toHaveAttribute('data-moving', 'false');
	// The view is fitted to both ends, so its middle lies on the line of the hop.
	await map.click();
	await expect(page.getByLabel('Latitude')).toHaveCount(before + 1);
	await expect(page).toHaveURL(/prepare/);
});

test('a file of sites is looked at first; its bad row is named; the good ones come in on request', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await open(page, '/exchange');
	const csv =
		'name,latitude_deg,longitude_deg,ground_amsl_m\nOuter Rock,-46.4,-118.6,4\nNowhere,95,0,1\n';
	await page
		.getByText('Choose a file')
		.locator('input[type=file]')
		.setInputFiles({ name: 'rocks.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
	await expect(page.getByTestId('import-look')).toContainText('1 good, 1 bad');
	await expect(page.getByText('latitude_deg: Latitude must be at most 90.')).toBeVisible();
	await page.getByRole('button', { name: 'Import only the good row' }).click();
	await expect(page.getByTestId('import-work')).toContainText('1 row was imported.');
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('link', { name: 'GeoJSON' }).first().click()
	]);
	const out = JSON.parse(readFileSync(await download.path(), 'utf8')) as {
		features: { properties: { name: string } }[];
	};
	expect(out.features.map((f) => f.properties.name)).toContain('Outer Rock');
});

test('a long file goes in beside the page: it can be left, and tells how it went on coming back', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await open(page, '/exchange');
	const tag = `Zeta ${randomUUID().slice(0, 6)}`;
	const rows = Array.from(
		{ length: 300 },
		(_, i) => `${tag} ${i},${(-46.45 + i / 1e4).toFixed(4)},-118.62,3`
	);
	const csv = ['name,latitude_deg,longitude_deg,ground_amsl_m', ...rows].join('\n');
	await page
		.getByText('Choose a file')
		.locator('input[type=file]')
		.setInputFiles({ name: 'long.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
	await expect(page.getByTestId('import-look')).toContainText('300 good, 0 bad');
	await page.getByRole('button', { name: 'Import all 300' }).click();
	await expect(page.getByTestId('import-work')).toBeVisible();
	await open(page, '/sites');
	await open(page, '/exchange');
	await expect(page.getByTestId('import-work')).toContainText('300 rows were imported.', {
		timeout: 30_000
	});
	const { count } = await api<{ count: number }>(
		page,
		'GET',
		`/sites?q=${encodeURIComponent(tag)}`
	);
	expect(count).toBe(300);
	// What was begun before is told late, after the next file was chosen: the file stays.
	let tell: () => void = () => undefined;
	const told = new Promise<void>((resolve) => (tell = resolve));
	await page.route('**/api/v1/jobs', async (route) => {
		await told;
		await route.continue();
	});
	await open(page, '/exchange');
	await page
		.getByText('Choose a file')
		.locator('input[type=file]')
		.setInputFiles({
			name: 'next.csv',
			mimeType: 'text/csv',
			buffer: Buffer.from(`${csv.split('\n', 1)[0]}\n${tag} next,-46.7,-118.1,4\n`)
		});
	await expect(page.getByTestId('import-look')).toContainText('1 good, 0 bad');
	const late = page.waitForResponse((response) => response.url().endsWith('/api/v1/jobs'));
	tell();
	await (await late).finished();
	await expect(page.getByRole('button', { name: 'Import it' })).toBeVisible();
	await page.getByRole('button', { name: 'Import it' }).click();
	await expect(page.getByTestId('import-work')).toContainText('1 row was imported.');
});

test('every hop is planned again with a bar that fills', async ({ browser }) => {
	const { page } = await person(browser, 'planner');
	await open(page, '/replan');
	await page.getByRole('button', { name: 'Plan them again' }).click();
	await expect(page.getByTestId('replan')).toContainText('planned', { timeout: 40_000 });
	await expect(page.getByText(/with errors/)).toBeVisible();
	await expect(page.getByRole('link', { name: 'Skerry Light to Tern Stack' })).toBeVisible();
});

test('who works on a hop is ticked, stays in place when unticked, and is saved', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const hopId = await planOf(page, PLAN, 'Path');
	await page.getByRole('link', { name: 'People', exact: true }).click();
	const names = page.locator('section[aria-labelledby="members-title"] li');
	const before = await names.allInnerTexts();
	const trainee = page.getByRole('checkbox', { name: /Edo Quill/ });
	const was = await trainee.isChecked();
	await trainee.click();
	await expect(trainee).toBeChecked({ checked: !was });
	expect(await names.allInnerTexts()).toEqual(before);
	await page.getByRole('button', { name: 'Save who works on it' }).click();
	const isMember = async (): Promise<boolean> => {
		const members = await api<{ displayName: string }[]>(page, 'GET', `/hops/${hopId}/members`);
		return members.some(({ displayName }) => displayName === 'Edo Quill');
	};
	await expect.poll(isMember).toBe(!was);
	await trainee.click();
	await page.getByRole('button', { name: 'Save who works on it' }).click();
	await expect.poll(isMember).toBe(was);
});
