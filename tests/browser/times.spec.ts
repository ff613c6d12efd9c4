import { readFileSync } from 'node:fs';
import { expect, open, person, test } from './people';

test('times of work are said, read from a file and downloaded; what is wrong is told at its field', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await open(page, '/crews');
	await page.getByRole('link', { name: 'Work times' }).click();
	const hoist = page.locator('[data-kind=hoist]');
	await expect(hoist).toContainText('planned');
	const usual = (await hoist.innerText()).match(/[\d.]+ \/ [\d.]+ \/ [\d.]+/)![0];

	// One box alone is no spread: the focus goes to what is missing, and typing is kept over a reload.
	await hoist.getByLabel('Hoist, short, min').fill('30');
	await page.getByRole('button', { name: 'Save the times' }).click();
	await expect(hoist).toContainText('All three, or none.');
	await expect(hoist.getByLabel('Hoist, usual, min')).toBeFocused();
	await page.reload();
	await page.waitForSelector('html[data-alive]');
	await expect(hoist.getByLabel('Hoist, short, min')).toHaveValue('30');
	await hoist.getByLabel('Hoist, usual, min').fill('61');
	await hoist.getByLabel('Hoist, long, min').fill('122');
	await page.getByRole('button', { name: 'Save the times' }).click();
	await expect(hoist).toContainText('30 / 61 / 122');
	await expect(page.getByRole('button', { name: 'Save the times' })).toHaveCount(0);

	const file = (text: string): Promise<void> =>
		page
			.getByText('From a CSV file')
			.locator('input')
			.setInputFiles({ name: 'times.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
	const columns = 'kind,low_min,likely_min,high_min';
	await file(`${columns}\nhoist,9,8,7\n`);
	await expect(page.getByText('Line 2, likely_min: Not below the low one.')).toBeVisible();
	await expect(hoist.getByLabel('Hoist, usual, min')).toHaveValue('61');
	// Three empty ones make it as usual again.
	await file(`${columns}\nhoist,,,\n`);
	await page.getByRole('button', { name: 'Save the times' }).click();
	await expect(hoist).toContainText(usual);
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'As CSV' }).click()
	]);
	expect(readFileSync(await download.path(), 'utf8')).toContain(`${columns}\nconfigure,`);

	// A crew reads them, and changes nothing.
	const { page: crew } = await person(browser, 'crew-a');
	await open(crew, '/durations');
	await expect(crew.locator('[data-kind=hoist]')).toContainText('planned');
	await expect(crew.getByLabel('Hoist, short, min')).toHaveCount(0);
});
