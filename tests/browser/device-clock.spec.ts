import { randomUUID } from 'node:crypto';
import { doStep, freshHop } from './building';
import { expect, open, person, test } from './people';

test('a clock that is wrong is said at once, and what was recorded by it is marked for good', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Clock ${randomUUID()}`);
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	await page.clock.setSystemTime(new Date(Date.now() + 11 * 60_000));
	await open(page, `/hops/${hopId}/a/build`);
	await page.locator('nav button[data-step=centre-azimuth]').click();
	await doStep(page);
	await expect(page.getByTestId('clock-off')).toContainText('11 min ahead');
	await open(planner.page, `/hops/${hopId}/record`);
	await planner.page.getByRole('button', { name: 'One on', exact: true }).click();
	const moment = planner.page.getByRole('region', { name: 'At this moment', exact: true });
	await expect(moment).toContainText('by a clock that was 11 min ahead');
	// Set right, nothing is said any more.
	await page.clock.setSystemTime(new Date());
	await page.locator('nav button[data-step=centre-tilt]').click();
	await doStep(page);
	await expect(page.getByTestId('clock-off')).toHaveCount(0);
});
