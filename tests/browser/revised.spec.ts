import { randomUUID } from 'node:crypto';
import { doStep, freshHop, reissue } from './building';
import { api, expect, open, person, test } from './people';

test('a plan revised while a crew was without connection is asked about before anything is sent', async ({
	browser
}) => {
	test.setTimeout(120_000);
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Rev ${randomUUID()}`);
	const { page, context } = await person(browser, 'crew-a', { width: 390, height: 844 });
	await open(page, `/hops/${hopId}/a/build`);
	await expect(page.getByText('This hop is on this device.')).toBeVisible({ timeout: 30_000 });
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
	await page.getByRole('button', { name: 'Keep them against the older plan' }).click();
	await expect(page.getByTestId('record-state')).toContainText('all sent', { timeout: 20_000 });
	const { records } = await api<{ records: { kind: string; revisionNumber: number }[] }>(
		page,
		'GET',
		`/hops/${hopId}/records`
	);
	const kept = records.map((record) => `${record.kind} ${record.revisionNumber}`);
	expect(kept).toEqual(['build-step 1']);
});
