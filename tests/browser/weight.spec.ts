import { randomUUID } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { STAGES } from '#core/stage/stages';
import { freshHop } from './building';
import { address, expect, person, test } from './people';

/** The script a page runs when it is opened, by file, kB as it travels (gzip). */
async function scriptsOf(page: Page, path: string): Promise<Map<string, number>> {
	const scripts = new Map<string, number>();
	const coming: Promise<void>[] = [];
	page.on('response', (response) => {
		const { pathname } = new URL(response.url());
		if (!pathname.endsWith('.js')) return;
		coming.push(
			response.body().then((body) => void scripts.set(pathname, gzipSync(body).length / 1024))
		);
	});
	await page.goto(address(path), { waitUntil: 'networkidle' });
	await Promise.all(coming);
	page.removeAllListeners('response');
	return scripts;
}

/**
 * What the script of a page may weigh, kB: the shell of the program is 115 of it. The library of the charts, as
 * much again, follows once there is something to draw: the hop is one of which nothing is recorded.
 */
const LIMIT_KB = 200;

test('no page of a crew needs more script than a phone on a mast can fetch', async ({
	browser
}) => {
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	const planner = await person(browser, 'planner');
	const name = `Weight ${randomUUID()}`;
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', name);
	const stages = STAGES.map((stage) => `/hops/${hopId}/a/${stage}`);
	for (const path of ['/', `/hops/${hopId}`, `/hops/${hopId}/record`, ...stages]) {
		const scripts = await scriptsOf(page, path);
		const totalKb = [...scripts.values()].reduce((sum, own) => sum + own, 0);
		// A page that brought none would be no page of ours.
		expect(totalKb, path).toBeGreaterThan(50);
		expect.soft(totalKb, `script of ${path}, kB`).toBeLessThanOrEqual(LIMIT_KB);
	}
});
