import type { Browser } from '@playwright/test';
import { closeEnd, fixBoth, fixDish, follow, toBench, type Crews } from './follow';
import { buildBoth, freshHop } from './building';
import { expect, open, person, readFinal, recordOperating, signAcceptance, test } from './people';

const other = (end: 'A' | 'B'): 'A' | 'B' => (end === 'A' ? 'B' : 'A');

async function twoCrews(browser: Browser): Promise<Crews> {
	const a = await person(browser, 'crew-a');
	const b = await person(browser, 'crew-b', { width: 390, height: 844 });
	return { A: a.page, B: b.page };
}

/** Both close their end with the final level of each dish, and an acceptor signs. */
async function closeAndSign(browser: Browser, crews: Crews, hopId: string): Promise<string[]> {
	for (const end of ['A', 'B'] as const) {
		const page = crews[end];
		await open(page, `/hops/${hopId}/${end.toLowerCase()}/accept`);
		for (const dish of [1, 2] as const) await readFinal(page, end, dish);
		await recordOperating(page, end);
		await closeEnd(page, end);
	}
	const acceptor = await person(browser, 'acceptor');
	await open(acceptor.page, `/hops/${hopId}/a/accept`);
	await expect(acceptor.page.locator('[data-verdict=missing]')).toHaveCount(0);
	await expect(acceptor.page.locator('[data-verdict=deviation]')).toHaveCount(0);
	const passed = await acceptor.page
		.getByTestId('judgement')
		.locator('li', { has: acceptor.page.locator('[data-verdict=pass]') })
		.allInnerTexts();
	await signAcceptance(acceptor.page);
	await expect(acceptor.page.getByRole('heading', { name: 'Accepted and signed' })).toBeVisible();
	return passed;
}

test('space diversity from the crate: each second dish is aligned on the far first one, fixed, read and signed for', async ({
	browser
}) => {
	test.setTimeout(900_000);
	const planner = await person(browser, 'planner');
	// Both dishes of A hang beside their main lobe, near enough to hear a side lobe of it.
	const hopId = await freshHop(planner.page, 'Upper Fell to Lantern Reach', 'Two dishes an end', {
		plantedFault: 'side-lobe-a'
	});
	const crews = await twoCrews(browser);
	const built = await buildBoth(crews, hopId);
	for (const key of ['second-dish', 'mount-radio-radio-2', 'tilt-preset-second-dish']) {
		expect(built.B.some((step) => step.includes(key))).toBe(true);
	}
	await toBench(crews, hopId);
	const steps = await follow(crews);
	const first = steps.at(-1)!.startsWith('A') ? 'A' : 'B';
	const second = other(first);
	await fixBoth(crews, hopId, first, 'Go on to the second dish');

	// The end that fixed last holds the baton, and goes on with its second dish.
	const page = crews[second];
	await expect(page).toHaveURL(/align\?dish=2$/);
	await expect(page.getByTestId('senders')).toContainText('sends through the first dish');
	await crews[first].getByRole('link', { name: 'Go on to the second dish' }).click();
	await expect(crews[first].getByTestId('next-step')).toContainText('Hands off the dish');
	expect((await follow(crews)).at(-1)).toBe(`${second} lock`);
	await fixDish(page);
	await page.getByRole('button', { name: `Hand over the baton to ${first}` }).click();
	// The other end’s second dish: the same screen, without the one that is done.
	await expect(crews[first].getByTestId('next-step')).not.toContainText('Hands off the dish');
	await open(page, `/hops/${hopId}/${second.toLowerCase()}/align?dish=2`);
	expect((await follow(crews)).at(-1)).toBe(`${first} lock`);
	await fixDish(crews[first]);
	await crews[first].getByRole('link', { name: 'Go on to accept' }).click();

	const passed = await closeAndSign(browser, crews, hopId);
	for (const end of ['A', 'B']) {
		for (const line of [
			`Main lobe at ${end}, both axes, second dish`,
			`Aim held while fixing ${end}, second dish`,
			`First dish of ${end} stood still beside the second`
		]) {
			expect(passed.some((text) => text.includes(line))).toBe(true);
		}
	}

	// Whoever comes back reads each dish, against what was accepted of it.
	await open(crews.A, `/hops/${hopId}/a/accept`);
	await crews.A.getByLabel('In a few words').fill('A planned look');
	await crews.A.getByRole('button', { name: 'Begin the visit' }).click();
	for (const of of ['', ' of the second dish']) {
		await crews.A.getByRole('button', { name: `Read the level${of} at A` }).click();
		await expect(
			crews.A.getByRole('button', { name: `Read the level${of} at A again` })
		).toBeVisible();
	}
	const lines = crews.A.getByTestId('visit-lines').locator('li');
	for (const line of ['Level received at A', 'Level received at A, second dish']) {
		await expect(lines.filter({ hasText: line }).first()).toHaveAttribute(
			'data-verdict',
			'as-accepted'
		);
	}
	await crews.A.getByLabel('What was found').fill('Both stand as they were left');
	await crews.A.getByRole('button', { name: 'Sign and close the visit' }).click();
	await expect(crews.A.getByRole('button', { name: 'Begin the visit' })).toBeVisible();
});

test('two bands from the crate: the second band is aligned between its own dishes, and signed for', async ({
	browser
}) => {
	test.setTimeout(900_000);
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Kelp Head to Grey Ledge', 'Two bands an end');
	const crews = await twoCrews(browser);
	await buildBoth(crews, hopId);
	await toBench(crews, hopId);
	const first = (await follow(crews)).at(-1)!.startsWith('A') ? 'A' : 'B';
	await fixBoth(crews, hopId, first, 'Go on to the second dish');
	await crews[first].getByRole('link', { name: 'Go on to the second dish' }).click();
	await expect(crews[first].getByTestId('senders')).toContainText('radio 2 sends');
	const steps = await follow(crews);
	expect(steps.some((step) => step.endsWith(' hand-over'))).toBe(true);
	const last = steps.at(-1)!.startsWith('A') ? 'A' : 'B';
	await fixBoth(crews, hopId, last, 'Go on to accept', '?dish=2');
	const passed = await closeAndSign(browser, crews, hopId);
	expect(passed.some((text) => text.includes('Level received at A from B, second dish'))).toBe(
		true
	);
});
