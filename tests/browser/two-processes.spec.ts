import { startServer, type RunningServer } from './server';
import { expect, hopIdOf, open, person, PASSWORD, test } from './people';
import type { Browser, Page } from '@playwright/test';

const HOP = 'Tern Stack to Kelp Head';

/** A person who reaches the application at an address of its own. */
async function personAt(browser: Browser, address: string, name: string): Promise<Page> {
	const page = await (await browser.newContext()).newPage();
	await page.goto(`${address}/sign-in`);
	await page.waitForSelector('html[data-alive]');
	await page.getByLabel('Name', { exact: true }).fill(name);
	await page.getByLabel('Password').fill(PASSWORD);
	await page.getByRole('button', { name: 'Sign in' }).click();
	await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();
	return page;
}

test('the level goes from one end to the other across two server processes and a restart, none lost, none twice', async ({
	browser
}) => {
	test.setTimeout(360_000);
	const a = await person(browser, 'crew-a');
	const hopId = await hopIdOf(a.page, HOP);
	let second: RunningServer = await startServer();
	try {
		const b = await personAt(browser, second.address, 'crew-b');
		// A's own bench would read its simulated meter meanwhile: it stays at the list.
		await open(a.page, '/');
		await b.goto(`${second.address}/hops/${hopId}/b/align`);
		await b.waitForSelector('html[data-alive]');
		const levels = [-61.25, -60.5, -59.75, -59.25];
		const send = async (level: number): Promise<void> => {
			const status = await a.page.evaluate(
				async ([id, levelDbm]) =>
					(
						await fetch(`/api/v1/hops/${id}/records`, {
							method: 'POST',
							headers: { 'content-type': 'application/json' },
							body: JSON.stringify({
								records: [
									{
										id: crypto.randomUUID(),
										end: 'A',
										kind: 'reading',
										payload: { volts: null, levelDbm, source: 'hand', purpose: 'watch' },
										recordedAt: new Date().toISOString()
									}
								]
							})
						})
					).status,
				[hopId, level] as const
			);
			expect(status).toBe(200);
		};
		const seen = b.getByTestId('far-reading');
		await send(levels[0]!);
		await expect(seen).toContainText('A RSL −61.3 dBm');

		// B's process dies amid it, A reads on at the other one, B's comes back at the same address.
		await second.kill();
		await send(levels[1]!);
		await send(levels[2]!);
		second = await startServer(second.port);
		await expect(seen).toContainText('A RSL −59.8 dBm', { timeout: 30_000 });
		await send(levels[3]!);
		await expect(seen).toContainText('A RSL −59.3 dBm');

		// The restarted process has every reading once, in order.
		const kept = await b.evaluate(async (id) => {
			const answer = await fetch(`/api/v1/hops/${id}/records?limit=2000`);
			const { records } = (await answer.json()) as {
				records: { seq: number; kind: string; payload: { levelDbm?: number; source?: string } }[];
			};
			return {
				seqs: records.map((record) => record.seq),
				levels: records
					.filter((record) => record.kind === 'reading' && record.payload.source === 'hand')
					.map((record) => record.payload.levelDbm)
			};
		}, hopId);
		expect(kept.seqs).toEqual(kept.seqs.map((_, i) => i + 1));
		expect(kept.levels).toEqual(levels);
	} finally {
		await second.kill();
	}
});
