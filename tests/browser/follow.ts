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
const GONE_ON = /\/(polarize|fix)$/;

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
				panel.getByRole('button', { name: /^Both ends stand: go on to/ }).click(),
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
