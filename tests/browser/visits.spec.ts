import { randomUUID } from 'node:crypto';
import type { Locator, Page } from '@playwright/test';
import { freshHop } from './building';
import {
	choose,
	confirmAlignmentState,
	expect,
	open,
	person,
	signAcceptance,
	test
} from './people';

// What is kept on the device for work without connection is under test here.
test.use({ serviceWorkers: 'allow' });

const PICTURE = 'static/icon-192.png';

/** Brings a practice hop to a signed acceptance through the API, with causes for what deviates. */
async function acceptHop(crew: Page, acceptor: Page, hopId: string): Promise<void> {
	for (const end of ['A', 'B'] as const) {
		await open(crew, `/hops/${hopId}/${end.toLowerCase()}/power`);
		await confirmAlignmentState(crew, end);
	}
	await crew.evaluate(async (id) => {
		const post = async (path: string, body: object): Promise<void> => {
			const answer = await fetch(`/api/v1/hops/${id}/${path}`, {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify(body)
			});
			if (!answer.ok) throw new Error(await answer.text());
		};
		const add = (end: string, kind: string, payload: object): Promise<void> =>
			post('records', {
				records: [
					{
						id: crypto.randomUUID(),
						end,
						kind,
						payload,
						recordedAt: new Date().toISOString()
					}
				]
			});
		const { input } = (
			(await (await fetch(`/api/v1/hops/${id}/as-built.json`)).json()) as {
				planRevision: {
					input: { ends: Record<string, { mount: { fasteners: object[] } }> };
				};
			}
		).planRevision;
		for (const end of ['A', 'B']) {
			if (end === 'B') await add('A', 'baton', { to: 'B', how: 'handed' });
			for (const [i] of input.ends[end]!.mount.fasteners.entries()) {
				await post('simulator', {
					end,
					action: 'tighten',
					fastenerIndex: i,
					id: crypto.randomUUID(),
					readingId: crypto.randomUUID()
				});
			}
		}
		for (const end of ['A', 'B']) {
			for (const sent of ['vertical', 'horizontal']) {
				await add(end, 'discrimination', {
					sent,
					turned: end,
					feedDeg: 0,
					coDbm: -50,
					crossDbm: -90,
					source: 'hand'
				});
			}
			await post('simulator', {
				end,
				action: 'read',
				purpose: 'final',
				id: crypto.randomUUID(),
				readingId: crypto.randomUUID()
			});
		}
		const yes = ['meter-off', 'lamps', 'drains', 'tools', 'labels', 'seals', 'photos', 'site'];
		for (const end of ['A', 'B']) {
			await add(end, 'operating-state', {
				powerControlAsPlanned: true,
				adaptiveModulationAsPlanned: true,
				licensedPower: true,
				radios: ['radio-1', 'radio-2'].map((radio) => ({
					radio,
					powerControlAsPlanned: true,
					adaptiveModulationAsPlanned: true,
					licensedPower: true
				}))
			});
			await add(end, 'closing-check', {
				answers: Object.fromEntries(yes.map((key) => [key, 'yes'])),
				note: ''
			});
			await add(end, 'crew-signature', { name: 'Bram Tolley', method: 'typed' });
		}
		await add('A', 'snag', {
			snagId: crypto.randomUUID(),
			text: 'Label of the cable is missing',
			owner: 'Bram Tolley',
			due: '2027-02-01',
			photoIds: []
		});
	}, hopId);
	await open(acceptor, `/hops/${hopId}/a/accept`);
	await expect(acceptor.locator('[data-verdict=missing]')).toHaveCount(0);
	for (const cause of await acceptor.getByLabel('Cause of this deviation').all()) {
		if ((await cause.inputValue()) === '') await cause.fill('Agreed on site.');
	}
	await signAcceptance(acceptor);
	await expect(acceptor.getByRole('heading', { name: 'Accepted and signed' })).toBeVisible();
}

test('a crew visits an accepted hop after a storm and closes a snag without connection; the baseline stays', async ({
	browser
}) => {
	test.setTimeout(360_000);
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Storm ${randomUUID()}`);
	const { page, context } = await person(browser, 'crew-a', { width: 390, height: 844 });
	const acceptor = await person(browser, 'acceptor');
	await acceptHop(page, acceptor.page, hopId);

	// Nothing is recorded on an accepted hop without a visit.
	await open(page, `/hops/${hopId}/a/accept`);
	await expect(page.getByRole('button', { name: 'It is done' })).toHaveCount(0);
	await page.getByLabel('In a few words').fill('x');
	await page.getByRole('button', { name: 'Begin the visit' }).click();
	await expect(page.getByText('Say in a few words why you came.')).toBeVisible();
	await page.getByLabel('In a few words').fill('Gale on Tuesday');
	await page.getByRole('button', { name: 'Begin the visit' }).click();
	const visit = page.getByTestId('visit');
	await expect(visit).toContainText('Check after a storm, going on');
	// Never "as it was" of what nobody read.
	await expect(visit.locator('li[data-verdict=not-read]')).toHaveCount(2);
	await visit.getByRole('button', { name: 'Read the level at A' }).click();
	await expect(visit.locator('li[data-verdict=not-read]')).toHaveCount(1);

	await context.setOffline(true);
	await page.getByRole('button', { name: 'It is done' }).click();
	const closing = page.getByRole('form', { name: 'Close this snag' });
	await closing.getByRole('button', { name: 'Close this snag' }).click();
	await expect(closing).toContainText('A photo shows that it is done');
	await closing.getByLabel('What was done').fill('New label tied on');
	await closing.getByLabel('Closed by').fill('Bram Tolley');
	await closing.locator('input[type=file]').setInputFiles(PICTURE);
	await expect(closing.locator('img')).toHaveCount(1);
	await closing.getByRole('button', { name: 'Close this snag' }).click();
	await expect(page.getByTestId('snags')).toContainText('closed by Bram Tolley: New label tied on');
	await expect(page.getByTestId('record-state')).toContainText('records wait to be sent');
	await context.setOffline(false);
	await expect(page.getByTestId('record-state')).toContainText('all sent', { timeout: 30_000 });

	await visit.getByLabel('What was found').fill('All stands, one label renewed');
	await visit.getByRole('button', { name: 'Sign and close the visit' }).click();
	await expect(page.getByTestId('visit-open')).toBeVisible();
	// What was accepted reads as before, for everyone.
	await open(acceptor.page, `/hops/${hopId}/a/accept`);
	await expect(acceptor.page.getByRole('heading', { name: 'Accepted and signed' })).toBeVisible();
	await expect(
		acceptor.page.getByTestId('judgement').locator('li', { hasText: 'Snags at A' })
	).toContainText('1 open of 1');
	await open(acceptor.page, `/hops/${hopId}/record`);
	await expect(acceptor.page.getByLabel('Visits')).toContainText('All stands, one label renewed');
	const changes = acceptor.page.getByTestId('visit-changes');
	await expect(changes).toContainText('Not read in this visit');

	// A third visit: any two are compared.
	await page.getByLabel('In a few words').fill('Planned look');
	await page.getByRole('button', { name: 'Begin the visit' }).click();
	await visit.getByRole('button', { name: 'Read the level at A' }).click();
	await expect(visit.locator('li[data-verdict=not-read]')).toHaveCount(1);
	await expect(page.getByTestId('record-state')).toContainText('all sent', { timeout: 30_000 });
	await acceptor.page.reload();
	await acceptor.page.waitForSelector('html[data-alive]');
	await expect(acceptor.page.getByRole('heading', { name: '3 visits' })).toBeVisible();
	const levels = (row: 'A' | 'B'): Locator =>
		changes.getByRole('listitem').filter({ has: acceptor.page.getByText(row, { exact: true }) });
	await expect(levels('A')).toContainText('dBm');
	await choose(acceptor.page, 'Visit to compare', 'Check after a storm');
	await acceptor.page.getByLabel('Visit to compare it with').click();
	// What was before the earlier one is not offered.
	await expect(acceptor.page.getByRole('option')).toHaveCount(1);
	await acceptor.page.keyboard.press('Escape');
	await expect(levels('B')).toContainText('now not read');
	await expect(levels('A')).not.toContainText('not read');
});
