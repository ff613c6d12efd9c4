import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { directGeodesic } from '../../src/core/geodesy/geodesic';
import { api, expect, open, person, test } from './people';

const SITE = 'Oar Haven';

/** Twelve roofs about the harbour, as a planner gets them from a survey: the last one far across the water. */
async function surveyed(page: Page): Promise<string> {
	const { rows } = await api<{ rows: { latitudeDeg: number; longitudeDeg: number }[] }>(
		page,
		'GET',
		`/sites?q=${encodeURIComponent(SITE)}`
	);
	const line = (name: string, bearingDeg: number, distanceM: number): string => {
		const { latitudeDeg, longitudeDeg } = directGeodesic(rows[0]!, bearingDeg, distanceM);
		return [name, latitudeDeg.toFixed(6), longitudeDeg.toFixed(6), 12, 8, 'TM-60-S', 40, 10].join();
	};
	return [
		'name,latitude_deg,longitude_deg,ground_amsl_m,height_agl_m,part_code,down_mbit_s,up_mbit_s',
		...Array.from({ length: 11 }, (_, i) => line(`Roof ${i + 1}`, 20 + 13 * i, 120 + 12 * i)),
		line('Across the water', 200, 1800)
	].join('\n');
}

const heading = (page: Page, unit: string): Promise<number> =>
	page
		.getByRole('slider', { name: `Heading of ${unit}` })
		.getAttribute('aria-valuenow')
		.then(Number);

test('a planner designs a hub of twelve terminals: one cannot be reached, and why is said', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const name = `Hub ${randomUUID()}`;
	await open(page, '/hubs');
	await page.getByRole('link', { name: 'Plan a hub' }).click();
	await page.getByLabel('Name of the hub').fill(name);
	await page.getByLabel('Site', { exact: true }).fill(SITE);
	await page.getByRole('option', { name: SITE }).click();
	await page.getByLabel('EIRP limit there').fill('40');

	await page.getByRole('button', { name: 'Files' }).click();
	await page.getByLabel('Take terminals from a file').setInputFiles({
		name: 'survey.csv',
		mimeType: 'text/csv',
		buffer: Buffer.from(await surveyed(page))
	});
	await expect(page.getByTestId('file-said')).toContainText('12 added, 0 changed');
	const verdict = page.getByTestId('hub-verdict');
	await expect(verdict).toContainText('of 12 terminals served');
	await page.getByRole('button', { name: 'Take 12 profiles from the terrain' }).click();
	await expect(page.getByRole('button', { name: /from the terrain|to go/ })).toHaveCount(0);

	// One unit cannot hold 130°; the program says how many it takes.
	await page.getByRole('button', { name: 'How many units?' }).click();
	await page.getByRole('button', { name: 'Try one to four' }).click();
	const choices = page.getByTestId('unit-choices').getByRole('listitem');
	await expect(choices.nth(0)).toHaveText(/1\s+unit: \d+ in no window/);
	await expect(choices.nth(1)).toHaveText(/2\s+units: all inside by \d+\.\d°/);
	await page.getByRole('button', { name: 'Add a unit' }).click();
	await page.getByLabel('Middle of its channel').fill('62.64');
	await page.getByRole('button', { name: 'Aim the units' }).click();
	await expect(page.getByTestId('aimed')).toContainText('No other aim does better.');
	await expect(verdict).toContainText('11 of 12 terminals served');
	const findings = page.getByTestId('hub-findings');
	await expect(findings).toContainText(/Across the water: Too weak: \d+\.\d dB are missing/);

	// Turned by keys, the levels change at once; what is out of the window is named.
	await page.getByRole('button', { name: 'All units' }).click();
	const before = await heading(page, 'Sector 1');
	await page.getByRole('slider', { name: 'Heading of Sector 1' }).focus();
	for (let i = 0; i < 4; i++) await page.keyboard.press('PageUp');
	await expect.poll(() => heading(page, 'Sector 1')).toBeCloseTo((before + 40) % 360, 5);
	await expect(findings).toContainText(/Outside every window: \d+\.\d° beyond that of/);
	await page.getByRole('button', { name: 'Aim the units' }).click();
	await expect(verdict).toContainText('11 of 12 terminals served');

	// A reload in the middle keeps all of it; saved, it is there for a crew, who changes nothing.
	await page.reload();
	await page.waitForSelector('html[data-alive]');
	await expect(verdict).toContainText('11 of 12 terminals served');
	await page.getByRole('button', { name: 'Save the new hub' }).click();
	await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
	const address = new URL(page.url()).pathname;

	const crew = await person(browser, 'crew-a', { width: 390, height: 844 });
	await open(crew.page, address);
	await expect(crew.page.getByTestId('hub-verdict')).toContainText('11 of 12 terminals served');
	await expect(crew.page.getByRole('button', { name: 'Save' })).toHaveCount(0);
	await crew.page
		.getByTestId('terminal-list')
		.getByRole('button', { name: /Roof 3/ })
		.click();
	await expect(crew.page.getByLabel('What is chosen')).toContainText('Oxygen');
	await expect(crew.page.getByTestId('terminal-profile')).toBeVisible();
	await expect(crew.page.getByLabel('What is chosen')).toContainText(/Place\s*−?\d+\.\d{6}/);
	await crew.page.getByRole('button', { name: 'All units' }).click();
	await crew.page
		.getByRole('button', { name: /Sector 2/ })
		.first()
		.click();
	await expect(crew.page.getByLabel('What is chosen')).toContainText(/Heading, tilt\s*\d+\.\d°/);
});

test('what is wrong with a hub is said at its field, and a change says whom it slows down', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const sites = await api<{ rows: { id: string; latitudeDeg: number; longitudeDeg: number }[] }>(
		page,
		'GET',
		`/sites?q=${encodeURIComponent(SITE)}`
	);
	const [site] = sites.rows;
	const terminal = (id: string, bearingDeg: number): object => ({
		...{ id, name: `Shed ${id}`, partCode: 'TM-60-S', how: 'pole', heightAglM: 8, groundAmslM: 12 },
		...directGeodesic(site!, bearingDeg, 200),
		...{ downMbitS: 900, upMbitS: 200 }
	});
	const hub = await api<{ id: string }>(page, 'POST', '/hubs', {
		name: `Hub ${randomUUID()}`,
		siteId: site!.id,
		channelWidthMhz: 1080,
		units: [
			{
				...{ id: 'u1', name: 'Sector 1', partCode: 'HS-60-90', how: 'pole', heightAglM: 8 },
				...{ frequencyGhz: 60.48, headingDeg: 90 }
			}
		],
		terminals: [terminal('one', 85)]
	});
	await open(page, `/hubs/${hub.id}`);
	await expect(page.getByTestId('hub-verdict')).toContainText('1 of 1 terminals served');
	// A finding leads to its field, also where that is folded away.
	await page.getByRole('button', { name: /Nobody has said what may be radiated there/ }).click();
	await expect(page.getByLabel('EIRP limit there')).toBeFocused();
	await page.getByLabel('EIRP limit there').fill('40');
	await expect(page.getByTestId('hub-findings')).not.toContainText('may be radiated');
	// The same trouble of both units is said of both.
	await page.getByLabel('Channel width').fill('100');
	await page.getByRole('button', { name: 'Add a unit' }).click();
	await expect(page.getByTestId('hub-findings')).toContainText('Sector 2 takes channels of');
	await page.getByRole('button', { name: 'Take it away' }).click();
	await page.getByLabel('Channel width').fill('1080');
	await expect(page.getByTestId('hub-verdict')).toContainText('1 of 1 terminals served');
	await page.getByRole('button', { name: 'Add a terminal' }).click();
	await page.getByTestId('hub-above').click({ position: { x: 420, y: 300 } });
	await expect(page.getByTestId('hub-verdict')).toContainText('2 of 2 terminals served');
	await expect(page.getByTestId('slowed')).toContainText(
		/Shed one gets \d+ % of its promise when all want theirs at once/
	);
	// A wall faces somewhere, or nobody knows where the terminal looks.
	await page.getByLabel('Mounted on').click();
	await page.getByRole('option', { name: 'a wall' }).click();
	await expect(page.getByText('Type its bearing.').first()).toBeVisible();
	await page.getByLabel('Wall faces').fill('north');
	await page.getByRole('button', { name: 'Save', exact: true }).click();
	await expect(page.getByLabel('Wall faces')).toBeFocused();
	await expect(page.getByLabel('Wall faces')).toHaveAttribute('aria-invalid', 'true');
	// Away from the hub, its own window does not hold it.
	await page.getByLabel('Wall faces').fill('90');
	await expect(page.getByTestId('hub-findings')).toContainText('does not let it look at the hub');
	await page.getByRole('button', { name: 'Take it away' }).click();
	await page.getByRole('button', { name: 'Add a unit' }).click();
	await page.getByLabel('Name', { exact: true }).fill('Sector 1');
	await page.getByRole('button', { name: 'Save', exact: true }).click();
	await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
	const kept = await api<{ plan: { units: object[] } }>(page, 'GET', `/hubs/${hub.id}`);
	expect(kept.plan.units).toHaveLength(1);
});

test('a hub that was deleted comes back from its archive, and one that is here is not taken in twice', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const name = `Hub ${randomUUID()}`;
	const site = (
		await api<{ rows: { id: string }[] }>(page, 'GET', `/sites?q=${encodeURIComponent(SITE)}`)
	).rows[0]!;
	const unit = {
		...{ id: 'u1', name: 'Sector 1', partCode: 'HS-60-90', how: 'pole', heightAglM: 12 },
		...{ frequencyGhz: 60.48, headingDeg: 90, tiltDeg: 0 }
	};
	const made = await api<{ id: string }>(page, 'POST', '/hubs', {
		...{ name, siteId: site.id, channelWidthMhz: 1080, eirpLimitDbm: 40 },
		...{ units: [unit], terminals: [] }
	});
	await open(page, `/hubs/${made.id}`);
	await page.getByRole('button', { name: 'Files' }).click();
	const saved = page.waitForEvent('download');
	await page.getByRole('link', { name: 'Archive with all records' }).click();
	const archive = await (await saved).path();

	const give = async (): Promise<void> => {
		await open(page, '/exchange');
		await page.locator('input[type=file][accept*=zip]').setInputFiles(archive);
	};
	await give();
	await expect(page.getByRole('main')).toContainText('This hub is here already', {
		timeout: 30_000
	});
	await api(page, 'DELETE', `/hubs/${made.id}`);
	await give();
	await expect(page.getByRole('main')).toContainText('Imported: 0 records, 0 acceptances', {
		timeout: 30_000
	});
	await page.getByRole('link', { name: 'Open the hub' }).click();
	await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
	// It came from here, signed by this installation, whose key nobody needs to trust to itself.
	await expect(page.getByTestId('import-note')).toContainText('came with an import');
	await expect(page.getByRole('slider', { name: 'Heading of Sector 1' })).toBeVisible();
});
