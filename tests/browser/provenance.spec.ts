import { randomUUID } from 'node:crypto';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { Page } from '@playwright/test';
import { address, api, expect, hopIdOf, open, person, test } from './people';

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/** A hop’s archive as somebody makes one up: another hop, accepted by a person who has never seen it. */
async function madeUp(page: Page, name: string): Promise<Buffer> {
	const hopId = await hopIdOf(page, 'Lantern Reach to Hollow Ness');
	const judgement = await api<object>(page, 'GET', `/hops/${hopId}/judgement`);
	const answer = await page.request.get(address(`/api/v1/hops/${hopId}/archive.zip`));
	const document = JSON.parse(strFromU8(unzipSync(await answer.body())['hop.json']!)) as {
		people: { id: string }[];
		sites: { id: string }[];
		hop: { name: string; createdBy: string };
		records: { digest?: string }[];
		photos: unknown[];
		acceptance: object | null;
		acceptances: object[];
	};
	for (const one of document.records) delete one.digest;
	document.photos = [];
	document.hop.name = name;
	document.acceptance = {
		id: randomUUID(),
		revisionNumber: 1,
		lastSeq: document.records.length,
		judgement,
		causes: {},
		signature: { name: 'A Great Name', method: 'typed' },
		signedBy: document.hop.createdBy,
		signedAt: new Date().toISOString()
	};
	document.acceptances = [document.acceptance];
	// People and places are those who are here; all the rest is new.
	const kept = new Set([...document.people, ...document.sites].map(({ id }) => id));
	const anew = new Map<string, string>();
	const text = JSON.stringify(document).replace(UUID, (id) => {
		if (kept.has(id)) return id;
		if (!anew.has(id)) anew.set(id, randomUUID());
		return anew.get(id)!;
	});
	return Buffer.from(zipSync({ 'hop.json': strToU8(text) }));
}

test('a hop from elsewhere says on every screen that nobody here has verified it', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const name = `From elsewhere ${randomUUID().slice(0, 8)}`;
	await open(page, '/exchange');
	await page.locator('input[type=file][accept*=zip]').setInputFiles({
		name: 'hop.zip',
		mimeType: 'application/zip',
		buffer: await madeUp(page, name)
	});
	const note = page.getByTestId('import-note');
	await expect(note).toContainText('an archive without a signature', { timeout: 30_000 });
	await page.getByRole('link', { name: 'Open the hop' }).click();
	await page.waitForURL(/\/hops\//);
	const hopId = /hops\/([^/]+)/.exec(page.url())![1]!;
	await open(page, `/hops/${hopId}/a/accept`);
	await expect(note).toContainText('not verified here');
	await expect(page.getByTestId('acceptance-origin')).toHaveText('Imported, not verified here.');
	await expect(page.getByText('said to be signed in as')).toBeVisible();

	await open(page, `/hops/${hopId}/record`);
	await expect(note).toBeVisible();
	await page.getByRole('button', { name: 'One on', exact: true }).click();
	await expect(page.getByLabel('At this moment', { exact: true })).toContainText(
		'Imported, not verified here'
	);
	await page.getByRole('button', { name: 'Check the record' }).click();
	await expect(page.getByTestId('record-check')).toContainText(/Whole: \d+ entries, last digest/);
});

test('an administrator trusts another installation by its key, and takes it back', async ({
	browser
}) => {
	const { page } = await person(browser, 'admin');
	await open(page, '/');
	await page.getByRole('link', { name: 'Installation' }).click();
	await expect(page.getByTestId('own-key')).toHaveText(/^[\w-]{43}$/);
	const own = await page.getByTestId('own-key').innerText();
	const key = `${own.slice(0, -8)}AAAAAAA${own.at(-1)}`;

	await page.getByLabel('Its name').fill('Coast office');
	await page.getByLabel('Its public key').fill('too short');
	await page.getByRole('button', { name: 'Trust it' }).click();
	await expect(page.getByLabel('Its public key')).toHaveAttribute('aria-invalid', 'true');
	await expect(page.locator('main form')).toContainText('43 letters, digits');
	await page.getByLabel('Its public key').fill(own);
	await page.getByRole('button', { name: 'Trust it' }).click();
	await expect(page.locator('main form')).toContainText('the key of this installation itself');
	await expect(page.getByLabel('Its name')).toHaveValue('Coast office');
	await page.getByLabel('Its public key').fill(` ${key} `);
	await page.getByRole('button', { name: 'Trust it' }).click();
	const row = page.getByRole('listitem').filter({ hasText: 'Coast office' });
	await expect(row).toHaveAttribute('data-trusted', 'true');
	await expect(page.getByLabel('Its public key')).toHaveValue('');
	await row.getByRole('button', { name: 'Trust Coast office no longer' }).click();
	await expect(row).toHaveAttribute('data-trusted', 'false');
	await expect(row).toContainText('No longer trusted since');

	// Nobody else comes here.
	const planner = await person(browser, 'planner');
	await planner.page.goto(address('/installation'));
	await expect(planner.page.getByText('Your role may not manage the installation')).toBeVisible();
});

test('every hop that leaves is signed', async ({ browser }) => {
	const { page } = await person(browser, 'planner');
	const { rows } = await api<{ rows: { id: string }[] }>(page, 'GET', '/hops');
	const archive = await page.request.get(address(`/api/v1/hops/${rows[0]!.id}/archive.zip`));
	const files = unzipSync(await archive.body());
	const signature = JSON.parse(strFromU8(files['signature.json']!)) as { algorithm: string };
	expect(signature.algorithm).toBe('Ed25519');
	expect(strFromU8(files['README.txt']!)).toContain('signature.json');
});
