import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import type { HubRecordKind, HubRecordPayloads } from '../../src/core/bringup/hubRecords';
import { directGeodesic, type GeoPoint } from '../../src/core/geodesy/geodesic';
import { answerCard, api, expect, open, person, test } from './people';

// What is kept on the device for work without connection is under test here.
test.use({ serviceWorkers: 'allow' });

const PHONE = { width: 390, height: 844 };
const SITE = 'Oar Haven';

interface Site extends GeoPoint {
	id: string;
	groundAmslM: number;
}
async function siteOf(page: Page): Promise<Site> {
	const { rows } = await api<{ rows: Site[] }>(
		...([page, 'GET', `/sites?q=${encodeURIComponent(SITE)}`] as const)
	);
	return rows[0]!;
}

/** A hub for practice with one unit looking east and some terminals before it, issued. */
async function practiceHub(planner: Page, planted: Record<string, string>): Promise<string> {
	const site = await siteOf(planner);
	const terminals = Object.keys(planted).map((name, i) => ({
		...{ id: `t${i + 1}`, name, partCode: 'TM-60-S', how: 'pole', poleMm: 48, heightAglM: 8 },
		...directGeodesic(site, 70 + 15 * i, 200 + 30 * i),
		...{ groundAmslM: site.groundAmslM, downMbitS: 50, upMbitS: 10 }
	}));
	const hub = await api<{ id: string; version: number }>(planner, 'POST', '/hubs', {
		...{ name: `Hub ${randomUUID()}`, siteId: site.id },
		...{ channelWidthMhz: 1080, eirpLimitDbm: 40, limitSource: 'Made-up rule' },
		units: [
			{
				...{ id: 'u1', name: 'Sector 1', partCode: 'HS-60-90', how: 'pole', poleMm: 60 },
				...{ heightAglM: 9, frequencyGhz: 60.48, headingDeg: 90, tiltDeg: 0 }
			}
		],
		terminals
	});
	await api(planner, 'PUT', `/hubs/${hub.id}/practice`, {
		practice: true,
		planted: terminals.flatMap(({ id, name }) =>
			planted[name] ? [{ terminal: id, cause: planted[name] }] : []
		)
	});
	await open(planner, `/hubs/${hub.id}`);
	await planner.getByRole('button', { name: 'Issue the plan' }).click();
	await expect(planner.getByTestId('hub-issue')).toContainText('Plan revision 1');
	return hub.id;
}

const EXPECTED = /Expected (?:at least )?(−?[\d.]+)(?: to (−?[\d.]+))?/;

/** Does the step that the screen shows, by what it says. */
async function doStationStep(page: Page): Promise<void> {
	const step = page.getByTestId('step');
	const key = (await step.getAttribute('data-step'))!;
	for (const card of ['climb', 'transmit'] as const) {
		const open = page.getByTestId(`stop-card-${card}`);
		if ((await open.count()) && (await open.getByRole('listitem').count())) {
			await answerCard(page, card);
			await expect(open.getByText('Answered, go.')).toBeVisible();
		}
	}
	const hint = page.locator('#field-step-value-hint');
	if (await hint.count()) {
		const [, from, to] = EXPECTED.exec(await hint.innerText())!.map((text) =>
			Number((text || '').replace('−', '-'))
		);
		const value = to ? (from! + to) / 2 : from!;
		await page.locator('#field-step-value').fill(String(value));
	}
	const watts = page.locator('#field-source-watts');
	if (await watts.count()) {
		const said = /Takes (\d+) W at (\d+) to \d+ V from a (standard|passive)/.exec(
			await step.innerText()
		)!;
		await page.getByLabel('Source').click();
		const kind = said[3] === 'standard' ? 'Standard Ethernet port' : 'Passive injector';
		await page.getByRole('option', { name: kind }).click();
		await page.locator('#field-source-volts').fill(String(Number(said[2]) + 4));
		await watts.fill(String(Number(said[1]) + 5));
	}
	await step.locator('form .btn-main').click();
	await expect(page.locator(`[data-testid=step][data-step="${key}"]`)).toHaveCount(0);
}

/** Follows a station by its main button until it is done, or waits for somebody else; what stages it went through. */
async function bringUp(page: Page): Promise<string[]> {
	const stage = page.getByTestId('station-stage');
	const been: string[] = [];
	for (let i = 0; i < 60; i++) {
		const now = (await stage.getAttribute('data-stage'))!;
		if (been.at(-1) !== now) been.push(now);
		if (now === 'done' || now === 'waits') return been;
		if (await page.getByTestId('step').count()) {
			await doStationStep(page);
			continue;
		}
		const before = await page.locator('main').innerText();
		await page.locator('main .btn-main').first().click();
		await expect
			.poll(async () => (await page.locator('main').innerText()) !== before, { timeout: 10_000 })
			.toBe(true);
		await expect(page.getByRole('button', { name: /Looking …|Reading …/ })).toHaveCount(0);
	}
	throw new Error(`not brought up: ${been.join(', ')}`);
}

test('two crews bring up a hub against what stands in for it: three planted troubles are found and set right', async ({
	browser
}) => {
	test.setTimeout(240_000);
	const { page: planner } = await person(browser, 'planner');
	const { page: atHub } = await person(browser, 'crew-a', PHONE);
	const { page: atRoofs } = await person(browser, 'crew-b', PHONE);
	const hubId = await practiceHub(planner, {
		...{ 'Net loft': 'channel', 'Ice house': 'cable', 'Slip house': 'unit-off' }
	});
	const work = `/hubs/${hubId}/work`;

	// The hub first; meanwhile the second crew puts up a roof, and waits for the hub.
	await open(atRoofs, `${work}?at=t1`);
	expect(await bringUp(atRoofs)).toEqual(['building', 'waits']);
	await open(atHub, work);
	await atHub.getByRole('link', { name: 'Go on at Sector 1' }).click();
	expect(await bringUp(atHub)).toEqual(['building', 'look', 'close', 'done']);

	// It stops waiting by itself; the lamp shows no link, the tests lead to the cause, and then it links.
	await expect(atRoofs.getByTestId('station-stage')).toHaveAttribute('data-stage', 'look');
	const been: string[] = [];
	for (const id of ['t1', 't2', 't3']) {
		await open(atRoofs, `${work}?at=${id}`);
		for (let i = 0; i < 3; i++) {
			been.push(...(await bringUp(atRoofs)));
			if (been.at(-1) === 'done') break;
			// The unit is what it waits for: its crew looks at the lamp there.
			await open(atHub, `${work}?at=u1`);
			await bringUp(atHub);
			await expect(atRoofs.getByTestId('station-stage')).not.toHaveAttribute('data-stage', 'waits');
		}
		await expect(atRoofs.getByTestId('station-stage')).toHaveAttribute('data-stage', 'done');
	}

	expect(been).toContain('no-link');

	// Each board shows the same, as it is recorded.
	await open(atHub, work);
	await expect(atHub.getByTestId('board-verdict')).toContainText(/of 3\s+terminals linked/);
	const { records } = await api<{ records: { kind: HubRecordKind; payload: object }[] }>(
		...([atHub, 'GET', `/hubs/${hubId}/records?limit=2000`] as const)
	);
	const remedies = records
		.filter(({ kind }) => kind === 'link-remedy')
		.map(({ payload }) => (payload as HubRecordPayloads['link-remedy']).cause);
	expect(new Set(remedies)).toEqual(new Set(['channel', 'cable', 'unit-off']));
});

test('a small link goes from “is it possible” to its acceptance, on a phone', async ({
	browser
}) => {
	test.setTimeout(240_000);
	const { page } = await person(browser, 'planner', PHONE);
	const quay = await siteOf(page);
	const from = directGeodesic(quay, 200, 20 + Math.random() * 60);
	const typed = ({ latitudeDeg, longitudeDeg }: GeoPoint): string =>
		`${latitudeDeg.toFixed(6)}, ${longitudeDeg.toFixed(6)}`;
	await open(page, '/possible');
	await page.getByLabel('Place A').fill(typed(from));
	await page.getByLabel('Place B').fill(typed(directGeodesic(from, 35, 600)));
	await page.getByLabel('Height at A').fill('20');
	await page.getByLabel('Height at B').fill('20');
	await page.getByLabel('EIRP limit there').fill('36');
	await page.getByLabel('Radio at both').click();
	await page.getByRole('option', { name: /5\.8 GHz, dish/ }).click();
	await expect(page.getByTestId('possible-answer').getByRole('heading').first()).toHaveText('Yes');
	await page.getByRole('button', { name: 'Make it a link' }).click();
	const form = page.getByTestId('make-link');
	await form.getByRole('button', { name: 'Make it a link' }).click();
	await expect(form.getByText('A name of two letters or more.')).toHaveCount(3);
	const name = randomUUID().slice(0, 8);
	await form.getByLabel('Name of the link').fill(`Cottage link ${name}`);
	await form.getByLabel('What place A is called').fill(SITE);
	await form.getByLabel('What place B is called').fill('Cottage');
	await form.getByRole('button', { name: 'Make it a link' }).click();
	// The name of the site is taken: said at that field, and what was typed stays.
	await expect(form.getByText('Another site has this name.').first()).toBeVisible();
	await form.getByLabel('What place A is called').fill(`Boat shed ${name}`);
	await form.getByRole('button', { name: 'Make it a link' }).click();
	await expect(page.getByRole('heading', { level: 1 })).toHaveText(`Cottage link ${name}`);

	await page.getByRole('button', { name: 'For practice' }).click();
	const practice = page.getByTestId('hub-practice');
	await practice.getByRole('checkbox').click();
	await practice.getByRole('button', { name: 'Save what it is for' }).click();
	await expect(practice.getByRole('button', { name: 'Save what it is for' })).toBeDisabled();
	await page.getByRole('button', { name: 'Issue the plan' }).click();
	await page.getByRole('link', { name: 'The work at this hub' }).click();
	await page.waitForURL(/\/work$/);
	const hubId = new URL(page.url()).pathname.split('/')[2]!;

	// Wrong input first: a source that would burn it is refused, and nothing is kept of it.
	await page.getByRole('link', { name: `Go on at Boat shed ${name}` }).click();
	for (;;) {
		if ((await page.getByTestId('step').getAttribute('data-step')) === 'station-power') break;
		await doStationStep(page);
	}
	await answerCard(page, 'transmit');
	await page.getByLabel('Source').click();
	await page.getByRole('option', { name: 'DC supply' }).click();
	await page.locator('#field-source-volts').fill('48');
	await page.locator('#field-source-watts').fill('60');
	await page.getByTestId('step').locator('form .btn-main').click();
	await expect(page.locator('p[role=alert]')).toContainText('may be destroyed');
	await page.reload();
	await page.waitForSelector('html[data-alive]');
	// Typed plates survive the reload.
	await expect(page.locator('#field-source-volts')).toHaveValue('48');
	await bringUp(page);
	await page.getByRole('link', { name: 'Go on at Cottage' }).click();
	expect((await bringUp(page)).at(-1)).toBe('done');
	const advice = page.getByTestId('pointing-advice');
	await expect(advice).toHaveAttribute('data-kind', /turn|set|stays/);

	// Both ends are pointed by their bars; then lamp and level are read anew.
	for (const at of ['a', 'b']) {
		await open(page, `/hubs/${hubId}/work?at=${at}`);
		for (let i = 0; i < 20; i++) {
			if ((await advice.getAttribute('data-kind')) === 'stays') break;
			const looks = await page.getByTestId('pointing').getByRole('listitem').count();
			await page.getByRole('button', { name: 'Turn it there and look' }).click();
			await expect(page.getByTestId('pointing').getByRole('listitem')).toHaveCount(looks + 1);
		}
		await expect(advice).toHaveAttribute('data-kind', 'stays');
	}
	await open(page, `/hubs/${hubId}/work?at=a`);
	await bringUp(page);
	await open(page, `/hubs/${hubId}/work?at=b`);
	expect((await bringUp(page)).at(-1)).toBe('done');
	await expect(page.getByTestId('terminal-acceptance')).toHaveAttribute('data-verdict', 'good');

	const { page: acceptor } = await person(browser, 'acceptor', PHONE);
	await open(acceptor, `/hubs/${hubId}/work?at=b`);
	await acceptor.getByRole('button', { name: 'Sign the acceptance' }).click();
	const accepted = acceptor.getByTestId('terminal-acceptance');
	await expect(accepted).toHaveAttribute('data-verdict', 'signed');
	await expect(accepted.getByRole('button', { name: 'Print this page' })).toBeVisible();
	await open(page, `/hubs/${hubId}/work`);
	await expect(page.getByTestId('board-verdict')).toContainText(/1\s+accepted/);
});

test('a crew works at a hub without connection: nothing is lost, and all of it is sent once', async ({
	browser
}) => {
	const { page: planner } = await person(browser, 'planner');
	const { page, context } = await person(browser, 'crew-a', PHONE);
	const hubId = await practiceHub(planner, { 'Net loft': '', 'Ice house': '' });
	await open(page, `/hubs/${hubId}/work`);
	const state = page.getByTestId('record-state');
	await expect(state).toContainText('This hub is on this device.', { timeout: 60_000 });
	await context.setOffline(true);
	await page.reload();
	await page.waitForSelector('html[data-alive]');
	await expect(state).toContainText('No connection');
	// A station that was never opened is there, too.
	await page.getByRole('link', { name: /Ice house/ }).click();
	for (let i = 0; i < 3; i++) await doStationStep(page);
	await page.close();
	const second = await context.newPage();
	await open(second, `/hubs/${hubId}/work?at=t2`);
	await expect(second.getByTestId('station-stage')).toContainText('3 of 14 steps');
	await expect(second.getByTestId('record-state')).toContainText(/4\s+records wait/);
	await context.setOffline(false);
	await expect(second.getByTestId('record-state')).toContainText('all sent', { timeout: 60_000 });
	await doStationStep(second);
	const stored = async (): Promise<{ id: string; kind: string; station: string }[]> =>
		(
			await api<{ records: { id: string; kind: string; station: string }[] }>(
				...([second, 'GET', `/hubs/${hubId}/records`] as const)
			)
		).records;
	await expect.poll(async () => (await stored()).length).toBe(5);
	const records = await stored();
	// The card before the climb, three steps without connection, one with it.
	expect(records.map(({ kind, station }) => `${station} ${kind}`).sort()).toEqual([
		...Array.from({ length: 4 }, () => 't2 build-step'),
		't2 stop-card'
	]);
	expect(new Set(records.map(({ id }) => id)).size).toBe(5);
});
