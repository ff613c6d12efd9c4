import { randomUUID } from 'node:crypto';
import { doStep, freshHop, reissue } from './building';
import { api, choose, expect, open, person, test } from './people';

// What is kept on the device for work without connection is under test here.
test.use({ serviceWorkers: 'allow' });

test('a plan revised while a crew was without connection is asked about before anything is sent', async ({
	browser
}) => {
	test.setTimeout(360_000);
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Rev ${randomUUID()}`);
	const { page, context } = await person(browser, 'crew-a', { width: 390, height: 844 });
	await open(page, `/hops/${hopId}/a/build`);
	await expect(page.getByText('This hop is on this device.')).toBeVisible({ timeout: 60_000 });
	await context.setOffline(true);
	await page.locator('nav button[data-step=centre-azimuth]').click();
	await doStep(page);

	await reissue(planner.page, hopId, { toleranceDb: 2.5 });

	await context.setOffline(false);
	await expect(page.getByText(/Plan revision 2 was issued meanwhile/)).toBeVisible({
		timeout: 30_000
	});
	await expect(page.getByText('Nothing is lost: 1 record waits on this device.')).toBeVisible();
	// Shown the new plan first, the record still waits and is asked about again.
	await page.getByRole('button', { name: 'Show the new plan' }).click();
	await page.waitForSelector('html[data-alive]');
	await expect(page.getByText(/Plan revision 2 was issued meanwhile/)).toBeVisible({
		timeout: 30_000
	});
	// It is being tried once more, without the answer, while the answer is given: the answer holds.
	let letGo = (): void => undefined;
	const answered = new Promise<void>((done) => (letGo = done));
	await page.route('**/records', (route) => answered.then(() => route.continue()), { times: 1 });
	const asked = page.waitForRequest('**/records');
	await page.evaluate(() => dispatchEvent(new Event('online')));
	await asked;
	await page.getByRole('button', { name: 'Keep them against the older plan' }).click();
	letGo();
	await expect(page.getByTestId('record-state')).toContainText('all sent', { timeout: 40_000 });
	const { records } = await api<{ records: { kind: string; revisionNumber: number }[] }>(
		page,
		'GET',
		`/hops/${hopId}/records`
	);
	const kept = records.map((record) => `${record.kind} ${record.revisionNumber}`);
	expect(kept).toEqual(['build-step 1']);
});

test('the revisions of a hop are turned a page at a time, and any two are compared in words', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const hopId = await freshHop(page, 'Hollow Ness to Kelp Head', `Many ${randomUUID()}`);
	for (let i = 1; i <= 20; i++) await reissue(page, hopId, { toleranceDb: 1 + i / 10 });
	await open(page, `/hops/${hopId}/a/prepare?view=issue`);
	const list = page.getByRole('region', { name: 'Revisions' });
	await expect(list.locator('li')).toHaveCount(20);
	await expect(list.locator('li').first()).toContainText('21');
	await list.getByRole('button', { name: 'Older' }).click();
	await expect(list.locator('li')).toHaveText([/^1 .*For building$/]);
	await expect(list.getByRole('button', { name: 'Older' })).toBeDisabled();
	// The oldest can be compared though its row is on another page.
	await list.getByRole('button', { name: 'Newer' }).click();
	await expect(list.locator('li')).toHaveCount(20);
	await choose(page, 'Revision to compare', /^1$/);
	await choose(page, 'Revision to compare it with', /^20$/);
	await list.getByRole('button', { name: 'Show' }).click();
	await expect(list.getByRole('row', { name: 'Tolerance, dB' })).toHaveText(/2\s*2\.9/);
	await expect(list.getByRole('row', { name: 'Planned level at A, dBm' })).toContainText('0.0');
});
