import { writeFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { api, confirmAlignmentState, expect, hopIdOf, open, person, test } from './people';

// What is kept on the device for work without connection is under test here.
test.use({ serviceWorkers: 'allow' });

const HOP = 'Kelp Head to Saltbeck Quay';

async function confirmState(page: Page, hopId: string, end: 'a' | 'b'): Promise<void> {
	await open(page, `/hops/${hopId}/${end}/power`);
	await confirmAlignmentState(page, end === 'a' ? 'A' : 'B');
	await page.getByRole('link', { name: 'Go on to align' }).click();
}

async function typeReadings(page: Page): Promise<void> {
	await page.getByRole('button', { name: 'Meter: simulated' }).click();
	await page.getByRole('dialog').getByRole('button', { name: 'Type readings' }).click();
	await expect(page.getByRole('button', { name: 'Meter: typed' })).toBeVisible();
}

async function typeReading(page: Page, volts: string): Promise<void> {
	const dialog = page.getByRole('dialog');
	for (const key of volts) {
		await dialog
			.getByRole('button', { name: key === '.' ? 'Decimal point' : key, exact: true })
			.click();
	}
	await dialog.getByRole('button', { name: /Keep/ }).click();
}

test.describe.serial('two ends in two browsers', () => {
	test('see each other’s level and baton without reloading, also after a lost connection', async ({
		browser
	}) => {
		const a = await person(browser, 'crew-a');
		const b = await person(browser, 'crew-b');
		const hopId = await hopIdOf(a.page, HOP);
		await confirmState(a.page, hopId, 'a');
		await confirmState(b.page, hopId, 'b');
		await expect(a.page.getByTestId('next-step')).toHaveAttribute('data-step', 'read');
		await typeReadings(a.page);

		await a.page.getByRole('button', { name: 'Type a reading' }).click();
		await typeReading(a.page, '1.250');
		const seenAtB = b.page.getByTestId('far-reading');
		await expect(seenAtB).toContainText('A RSL −57.6 dBm');

		// B loses its connection, A reads on, B comes back: nothing lost, nothing doubled.
		await b.context.setOffline(true);
		await b.page.evaluate(() => dispatchEvent(new Event('offline')));
		for (const volts of ['1.310', '1.370', '1.430']) {
			await a.page.getByRole('button', { name: 'Type a reading' }).click();
			await typeReading(a.page, volts);
		}
		await b.context.setOffline(false);
		await expect(seenAtB).toContainText('A RSL −52.9 dBm', { timeout: 40_000 });
		const seqs = await b.page.evaluate(
			async (id) =>
				(
					(await (await fetch(`/api/v1/hops/${id}/records`)).json()) as {
						records: { seq: number }[];
					}
				).records.map((r) => r.seq),
			hopId
		);
		expect(seqs).toEqual(seqs.map((_, i) => i + 1));

		await a.page.getByRole('button', { name: 'Hand over the baton to B' }).click();
		await expect(a.page.getByText('Hands off the dish')).toBeVisible();
		await expect(b.page.getByText('Your move · you hold the baton')).toBeVisible();
		await expect(a.page.getByRole('button', { name: 'Set the azimuth' })).toBeDisabled();

		// Who waits asks for a level by a press; it is called for, read and told at both ends.
		await a.page.getByRole('button', { name: 'Ask B for its level' }).click();
		await expect(a.page.getByRole('button', { name: 'B was asked for its level' })).toBeDisabled();
		await expect(b.page.getByTestId('alert')).toContainText('A asks for the level at B.');
		await b.page.getByRole('button', { name: 'Read it for A' }).click();
		await expect(b.page.getByTestId('level-wanted')).toHaveCount(0);
		await expect(a.page.getByRole('button', { name: 'Ask B for its level' })).toBeEnabled();
	});

	test('a reading made without a connection waits on the device, survives a reload, and is sent once', async ({
		browser
	}) => {
		const b = await person(browser, 'crew-b', { width: 390, height: 844 });
		const hopId = await hopIdOf(b.page, HOP);
		await open(b.page, `/hops/${hopId}/b/align`);
		await typeReadings(b.page);
		type Kept = { kind: string; payload: { volts?: number } };
		// Only this reading: what else goes out meanwhile is not asked here.
		const count = async (): Promise<number> => {
			const { records } = await api<{ records: Kept[] }>(
				b.page,
				'GET',
				`/hops/${hopId}/records?limit=2000`
			);
			return records.filter(({ kind, payload }) => kind === 'reading' && payload.volts === 0.98)
				.length;
		};
		const before = await count();
		// The server refuses nothing and gets nothing: every post is cut.
		await b.page.route('**/records', (route) =>
			route.request().method() === 'POST' ? route.abort() : route.continue()
		);
		await b.page.getByRole('button', { name: 'Type a reading' }).first().click();
		await typeReading(b.page, '0.98');
		await expect(b.page.getByTestId('record-state')).toContainText('1 record waits to be sent');
		await b.page.reload();
		await b.page.waitForSelector('html[data-alive]');
		await expect(b.page.getByTestId('record-state')).toContainText('1 record waits to be sent');
		await b.page.unroute('**/records');
		await expect(b.page.getByTestId('record-state')).toContainText('all sent', {
			timeout: 40_000
		});
		expect(await count()).toBe(before + 1);
	});

	test('an impossible voltage is called pick-up, and a sweep from a file is read', async ({
		browser
	}) => {
		const b = await person(browser, 'crew-b');
		const hopId = await hopIdOf(b.page, HOP);
		await open(b.page, `/hops/${hopId}/b/align`);
		await typeReadings(b.page);
		await b.page.getByRole('button', { name: 'Type a reading' }).first().click();
		await typeReading(b.page, '4.2');
		await expect(b.page.getByText('This port cannot give that: pick-up')).toBeVisible();
		await expect(b.page.getByTestId('next-step')).toHaveAttribute('data-step', 'check');

		await b.page.getByRole('button', { name: 'Import a sweep' }).click();
		const file = b.page.getByLabel('File', { exact: true });
		const csv = (text: string): { name: string; mimeType: string; buffer: Buffer } => ({
			name: 'sweep.csv',
			mimeType: 'text/csv',
			buffer: Buffer.from(text)
		});
		await file.setInputFiles(csv('elapsed_s,position_deg\n1,2\n'));
		await expect(b.page.getByText('no column level_v')).toBeVisible();
		await file.setInputFiles(
			csv('elapsed_s,position_deg,level_v\n1,2,1\n2,3,x\n3,4,1\n4,5,1\n5,6,1\n')
		);
		await expect(b.page.getByText('Line 3, column level_v')).toBeVisible();
		const big = test.info().outputPath('big.csv');
		writeFileSync(big, Buffer.alloc(49_000_000));
		await file.setInputFiles(big);
		await expect(b.page.getByText('49 MB')).toBeVisible();
		await expect(b.page.getByRole('button', { name: /Take it as a sweep/ })).toBeDisabled();
		// A bell of one beam (0.9°) about +0.6°, in volts of the bent port.
		const rows = Array.from({ length: 60 }, (_, i) => {
			const x = -3 + i / 10;
			const level = Math.max(-86, -46 - 12 * ((x - 0.6) / 0.93) ** 2);
			const points = [
				[-95, 0.28],
				[-75, 0.66],
				[-55, 1.34],
				[-35, 2.18]
			] as const;
			const k = points.findIndex(([l]) => l > level);
			const [l0, v0] = points[k - 1]!;
			const [l1, v1] = points[k]!;
			return `${i},${x.toFixed(3)},${(v0 + ((level - l0) / (l1 - l0)) * (v1 - v0)).toFixed(3)}`;
		});
		await file.setInputFiles(csv(`elapsed_s,position_deg,level_v\n${rows.join('\n')}\n`));
		await b.page.getByRole('button', { name: 'Take it as a sweep of azimuth' }).click();
		await expect(b.page.getByTestId('sweep-verdict')).toContainText('main lobe', {
			timeout: 40_000
		});

		// The sky map says how sure it is, and the diagnosis asks for a test and keeps its result.
		await b.page.getByRole('button', { name: 'Type a reading' }).first().click();
		await typeReading(b.page, '0.98');
		await expect(b.page.getByTestId('sky-sure')).toContainText('% in one beam', {
			timeout: 40_000
		});
		const diagnosis = b.page.getByTestId('diagnosis');
		const fold = diagnosis.getByRole('button', { name: 'What may be wrong' });
		if ((await fold.getAttribute('aria-expanded')) === 'false') await fold.click();
		await expect(diagnosis.locator('[data-cause]').first()).toBeVisible();
		await diagnosis.getByRole('button').nth(1).click();
		await expect(diagnosis.getByText('Tested:')).toBeVisible();
	});
});
