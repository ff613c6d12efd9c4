import type { Page } from '@playwright/test';
import { confirmAlignmentState, expect, open } from './people';

export type Crews = Record<'A' | 'B', Page>;

const other = (end: 'A' | 'B'): 'A' | 'B' => (end === 'A' ? 'B' : 'A');

/** Both crews confirm the alignment state and come to the bench. */
export async function toBench(crews: Crews, hopId: string): Promise<void> {
	for (const end of ['A', 'B'] as const) {
		const page = crews[end];
		await open(page, `/hops/${hopId}/${end.toLowerCase()}/power`);
		await confirmAlignmentState(page, end);
		await page.getByRole('link', { name: 'Go on to align' }).click();
		await expect(page.getByTestId('next-step')).toBeVisible();
	}
	// Each has heard of the other before anyone presses what its screen says.
	for (const page of Object.values(crews)) {
		await expect(page.getByTestId('next-step')).not.toHaveAttribute('data-step', 'confirm-state', {
			timeout: 40_000
		});
	}
}

/** Where closing the alignment leads. */
const GONE_ON = /\/(polarize|fix)(\?dish=2)?$/;

/** The kind of step that a screen shows, once it has stopped sweeping, weighing and working. */
async function settledStep(page: Page): Promise<string> {
	const panel = page.getByTestId('next-step');
	await expect(panel).not.toHaveAttribute('data-step', /^(sweeping|thinking)$/, {
		timeout: 90_000
	});
	await expect(page.getByText('Weighing what was recorded …')).toHaveCount(0, { timeout: 40_000 });
	await expect(panel.getByRole('button', { name: 'Working …' })).toHaveCount(0, {
		timeout: 40_000
	});
	return (await panel.getAttribute('data-step'))!;
}

/** What the diagnosis asks is looked at; what it names is set right. */
async function lookIntoIt(crews: Crews, end: 'A' | 'B'): Promise<string> {
	for (const page of [crews[other(end)], crews[end]]) {
		await page
			.getByTestId('next-step')
			.getByRole('button', { name: /Read the meter/ })
			.first()
			.click();
	}
	const panel = crews[end].getByTestId('diagnosis');
	await expect(panel.locator('[data-cause]').first()).toBeVisible();
	for (let asked = 0; asked < 14; asked++) {
		await expect(panel).toHaveAttribute('aria-busy', 'false');
		const look = panel.getByRole('button', { name: 'Send somebody to look' });
		if ((await look.count()) === 0) break;
		const question = await panel.innerText();
		await look.click();
		await expect(panel).not.toHaveText(question, { useInnerText: true, timeout: 40_000 });
	}
	const first = panel.locator('[data-cause]').first();
	const cause = (await first.getAttribute('data-cause'))!;
	await first.getByRole('button', { name: 'It is set right now' }).click();
	await expect(crews[end].getByTestId('next-step')).not.toHaveAttribute('data-step', 'check');
	return cause;
}

/**
 * Two people who do only what their screens say, until these say that both ends stand.
 *
 * @returns the steps, with the causes that were set right
 */
export async function follow(crews: Crews): Promise<string[]> {
	const done: string[] = [];
	let end: 'A' | 'B' = 'A';
	for (let i = 0; i < 140; i++) {
		const page = crews[end];
		const panel = page.getByTestId('next-step');
		if (GONE_ON.test(page.url())) return done;
		const kind = await settledStep(page);
		if (kind === 'wait') {
			end = other(end);
			continue;
		}
		done.push(`${end} ${kind}`);
		if (kind === 'lock') {
			// The press before may have met this step already, where a watched meter answered first.
			await Promise.any([
				panel.getByRole('button', { name: /on (the|its) main lobe: go on to/ }).click(),
				page.waitForURL(GONE_ON)
			]);
			await page.waitForURL(GONE_ON);
			return done;
		}
		if (kind === 'check') {
			done.push(`set right: ${await lookIntoIt(crews, end)}`);
			continue;
		}
		if (kind === 'ask-far') {
			await crews[other(end)]
				.getByTestId('next-step')
				.getByRole('button', { name: 'Read the meter' })
				.click();
			await expect(panel).not.toHaveAttribute('data-step', 'ask-far');
			continue;
		}
		const before = (await panel.getAttribute('data-about'))!;
		try {
			await panel.locator('.btn-main').click({ timeout: 5000 });
		} catch (error) {
			// The watched meter may have answered a step that asked for a reading, or changed the step.
			const same = (await panel.getAttribute('data-step')) === kind;
			if (same && kind !== 'read') throw error;
			if (!same) continue;
		}
		await expect(panel).not.toHaveAttribute('data-about', before, { timeout: 90_000 });
	}
	throw new Error(`not aligned after ${done.length} steps: ${done.join(', ')}`);
}

/** Every fastener of a dish to torque, by what the screen says. */
export async function fixDish(page: Page): Promise<void> {
	const tighten = page.getByRole('button', { name: 'Tighten it and read' });
	const fasteners = page.locator('ol li', { hasText: 'locks the' });
	// What a fastener drew along by chance is loosened and done again, as a crew does.
	const again = page.getByRole('button', { name: 'Loosened, start again' });
	await expect(fasteners.first()).toBeVisible();
	for (let i = 0, left = 2; i < (await fasteners.count()); i++) {
		await expect(page.locator('ol li[aria-current=step]')).toContainText(String(i + 1));
		await expect(tighten.or(again)).toBeVisible();
		if (left > 0 && (await again.isVisible())) {
			left--;
			await again.click();
			await expect(page.locator('ol li strong')).toHaveCount(0);
			i = -1;
			continue;
		}
		await tighten.click();
		await expect(page.locator('ol li strong')).toHaveCount(i + 1);
	}
	await expect(page.getByTestId('drift-verdict')).toContainText('The aim held');
}

/** Fixes the dish of one end, hands over, and fixes that of the other, which then goes on. */
export async function fixBoth(
	crews: Crews,
	hopId: string,
	first: 'A' | 'B',
	onward: string,
	dish = ''
): Promise<void> {
	const second = other(first);
	await expect(crews[first].getByRole('heading', { name: /^Fix / })).toBeVisible();
	await open(crews[second], `/hops/${hopId}/${second.toLowerCase()}/fix${dish}`);
	await expect(crews[second].getByText('Hands off the dish')).toBeVisible();
	for (const end of [first, second] as const) {
		const page = crews[end];
		await fixDish(page);
		if (end === first) {
			await page.getByRole('button', { name: `Hand over the baton to ${second}` }).click();
		} else await page.getByRole('link', { name: onward }).click();
	}
}

/** Final look, an error test and the crew's signature at one end, as its screen leads through them. */
export async function closeEnd(page: Page, end: 'A' | 'B'): Promise<void> {
	const panel = page.getByTestId('next-step');
	const justDone = page.getByTestId('just-done');
	await expect(panel).toHaveAttribute('data-step', 'look');
	const look = page.getByTestId('closing-look');
	for (const yes of await look.getByRole('button', { name: 'Yes', exact: true }).all()) {
		await yes.click();
	}
	await look.getByRole('button', { name: 'Record the final look' }).click();
	await expect(justDone).toContainText('Nothing left open.');
	if (end === 'A') {
		await expect(panel).toHaveAttribute('data-step', 'test');
		const test = page.getByTestId('error-test');
		await test.getByLabel('It ran for').fill('30');
		await test.getByLabel('Errored seconds').fill('4000');
		await test.getByRole('button', { name: 'Record the test' }).click();
		await expect(test.getByText('More than the test lasted.')).toBeVisible();
		await test.getByLabel('Errored seconds').fill('0');
		await test.getByRole('button', { name: 'Record the test' }).click();
		await expect(justDone).toContainText('Free of errors.');
	}
	await expect(panel).toHaveAttribute('data-step', 'signature');
	const signature = page.getByTestId('crew-signature');
	await signature.getByRole('button', { name: 'Sign for the crew' }).click();
	await expect(signature.getByText('The name is missing.')).toBeVisible();
	await signature.getByLabel('Name of the signer').fill(`Crew of ${end}`);
	await signature.getByRole('button', { name: 'Sign for the crew' }).click();
	await expect(justDone).toContainText(`Crew of ${end}`);
	await expect(page.getByRole('heading', { name: `${end} owes nothing more` })).toBeVisible();
}
