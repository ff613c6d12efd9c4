import { randomUUID } from 'node:crypto';
import { freshHop } from './building';
import { confirmAlignmentState, expect, open, person, test } from './people';

// What is kept on the device for work without connection is waited for here.
test.use({ serviceWorkers: 'allow' });

declare global {
	interface Window {
		seenAt: number[];
	}
}

test('what is pressed next stays under the thumb while a record goes out', async ({ browser }) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Steady ${randomUUID()}`);
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	await open(page, `/hops/${hopId}/a/power`);
	await expect(page.getByText('This hop is on this device.')).toBeVisible({ timeout: 60_000 });
	await page.evaluate(() => {
		window.seenAt = [];
		const look = (): void => {
			const next = [...document.querySelectorAll('a')].find(
				(link) => link.textContent.trim() === 'Go on to align'
			);
			if (next) window.seenAt.push(Math.round(next.getBoundingClientRect().top + scrollY));
			requestAnimationFrame(look);
		};
		look();
	});
	await confirmAlignmentState(page, 'A');
	await expect(page.getByRole('link', { name: 'Go on to align' })).toBeVisible();
	await expect(page.getByTestId('record-state')).toContainText('all sent');
	await expect(page.getByText(/confirmed .* by Bram Tolley/)).toBeVisible();
	// It was seen while the record waited and after it was sent, in one place.
	expect(await page.evaluate(() => new Set(window.seenAt).size)).toBe(1);
});
