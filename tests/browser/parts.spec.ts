import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { freshHop } from './building';
import { choose, expect, issue, open, person, test } from './people';

/** Copies a part of the demo under a code of one's own, as a planner does. */
async function copyPart(page: Page, kind: string, from: string, code: string): Promise<void> {
	await open(page, `/parts?kind=${kind}&q=${from}`);
	await page.getByRole('link', { name: from, exact: true }).click();
	await page.getByRole('link', { name: 'Copy it' }).click();
	await expect(page.getByRole('heading', { name: /^Add a/ })).toContainText(`as ${from}`);
	await page.getByLabel('Type code').fill(code);
	await page.getByLabel('Name', { exact: true }).first().fill(`Own ${kind}`);
	await page.getByRole('button', { name: `Add this ${kind}` }).click();
	await expect(page.getByRole('heading', { name: code })).toBeVisible();
}

test('a planner adds a radio, a dish and a mount of their own, plans with them, issues, and changes the radio: the revision keeps the old one', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const own = randomUUID().slice(0, 5).toUpperCase();
	const codes = { radio: `RX-${own}`, dish: `DX-${own}`, mount: `MX-${own}` };

	// What is wrong is said at its field, which has the focus; the typing survives a reload.
	await open(page, '/parts/new?kind=cable');
	await page.getByLabel('Type code').fill('ct 1');
	await page.getByLabel('Name', { exact: true }).first().fill('Cable of the test');
	await page.getByRole('button', { name: 'Add this cable' }).click();
	await expect(page.locator('[name="data.code"]')).toBeFocused();
	await expect(page.locator('#field-data-code-error')).toContainText('2 to 20 capitals');
	await page.getByLabel('Type code').fill(`CT-${own}`);
	await expect(page.locator('#field-data-code-error')).toHaveCount(0);
	await page.locator('[name="data.conductorMm2"]').fill('2,5');
	await page.locator('[name="data.ohmPerKm"]').fill('3');
	await expect(page.locator('[data-doubt="data.ohmPerKm"]')).toContainText('Copper of 2.50 mm²');
	await page.reload();
	await expect(page.getByText('typed here before was put back')).toBeVisible();
	await expect(page.locator('[name="data.conductorMm2"]')).toHaveValue('2,5');
	await page.getByRole('button', { name: 'Throw it away' }).click();
	await expect(page.locator('[name="data.conductorMm2"]')).toHaveValue('');

	await copyPart(page, 'radio', 'RU-18', codes.radio);
	await copyPart(page, 'dish', 'DP-090-18', codes.dish);
	await copyPart(page, 'mount', 'MB-M', codes.mount);

	const hopId = await freshHop(page, 'Hollow Ness to Kelp Head', `Own parts ${own}`);
	await open(page, `/hops/${hopId}/a/prepare`);
	await page.getByRole('tab', { name: 'Sites and parts' }).click();
	for (const end of ['A', 'B']) {
		await choose(page, `Radio at ${end}`, codes.radio);
		await choose(page, `Dish at ${end}`, codes.dish);
		await choose(page, `Mount at ${end}`, codes.mount);
	}
	await page.getByRole('button', { name: 'Save the plan' }).click();
	await page.getByRole('link', { name: 'Go on: issue it' }).click();
	await expect(page.getByRole('button', { name: 'Issue a new revision' })).toBeEnabled();
	await page.getByLabel('What is new in it').fill('Our own parts.');
	await issue(page, 'Issue a new revision');
	await expect(page.getByText('Site sheets, plan revision 2')).toBeVisible();

	await open(page, `/parts?q=${codes.radio}`);
	await page.getByRole('link', { name: codes.radio }).click();
	const noise = page.getByLabel('Noise figure');
	await expect(page.getByTestId('level-curve')).toContainText('with the level');
	// Its line is drawn in the ink of the theme, and anew when the theme changes.
	const stroke = (): Promise<string | null> =>
		page
			.getByTestId('level-curve')
			.locator('svg path[stroke-width="2"]')
			.first()
			.getAttribute('stroke');
	await expect.poll(stroke).not.toBeNull();
	const before = await stroke();
	const theme = page.getByRole('button', { name: /theme/ });
	await theme.click();
	await theme.click();
	await expect.poll(stroke).not.toBe(before);
	await theme.click();
	await expect.poll(stroke).toBe(before);
	await expect(page.getByTestId('thresholds')).toContainText('MHz');
	await noise.fill('9');
	await page.getByLabel('What was changed').fill('Measured on the bench.');
	await page.getByRole('button', { name: 'Save as version 2' }).click();
	await expect(page.getByText('Saved as version 2.')).toBeVisible();
	await expect(page.getByTestId('versions')).toContainText('Measured on the bench.');

	// The revision has the first version, and the page says that there is a newer one.
	const frozen = await page.evaluate(async (id) => {
		const answer = await fetch(`/api/v1/hops/${id}/as-built.json`);
		const { planRevision } = (await answer.json()) as {
			planRevision: {
				number: number;
				input: { ends: { A: { radio: { code: string; version: number; noiseFigureDb: number } } } };
			};
		};
		return { number: planRevision.number, ...planRevision.input.ends.A.radio };
	}, hopId);
	expect(frozen).toMatchObject({ number: 2, code: codes.radio, version: 1 });
	expect(frozen.noiseFigureDb).not.toBe(9);
	await open(page, `/hops/${hopId}/a/prepare?view=issue`);
	await expect(page.getByTestId('newer-parts')).toContainText(
		`${codes.radio} at A: version 1 is planned, version 2 is in the parts now`
	);
});

test('parts go out and in as files, what is wrong named by line and column', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await open(page, '/parts/import');
	const [file] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('link', { name: 'All parts as JSON' }).click()
	]);
	expect(file.suggestedFilename()).toBe('parts.json');
	const code = `CI-${randomUUID().slice(0, 5).toUpperCase()}`;
	const parts = [
		{
			part: 'power-source',
			code,
			name: 'Own',
			kind: 'dc',
			outputV: 48,
			powerW: 90,
			backupHours: 0,
			weightKg: 2
		},
		{
			part: 'power-source',
			code: `${code}2`,
			name: 'Odd',
			kind: 'dc',
			outputV: 900,
			powerW: 90,
			backupHours: 0,
			weightKg: 2
		}
	];
	const text = JSON.stringify({ format: 'skiaxis-parts', version: 1, parts }, null, 1);
	await page.getByLabel('Choose a file, JSON or CSV').setInputFiles({
		name: 'own.json',
		mimeType: 'application/json',
		buffer: Buffer.from(text)
	});
	const answer = page.getByTestId('import-answer');
	await expect(answer).toContainText('1 good, 1 wrong');
	const line = text.split('\n').findIndex((row) => row.includes('900')) + 1;
	await expect(answer).toContainText(`line ${line}, column`);
	await answer.getByRole('button', { name: 'Import the 1 good ones' }).click();
	await expect(answer).toContainText('1 added');
	await open(page, `/parts?q=${code}`);
	await expect(page.getByRole('link', { name: code, exact: true })).toBeVisible();
});
