import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { freshHop } from './building';
import { api, expect, hopIdOf, open, person, test } from './people';

// What is kept on the device for work without connection is under test here.
test.use({ serviceWorkers: 'allow' });

const PHONE = { width: 390, height: 844 };
const FROM = 'Kelp Head to Saltbeck Quay';

/** A crew with the account of somebody who is signed in, or with none. */
async function newCrew(planner: Page, name: string, member?: Page): Promise<string> {
	const id = randomUUID();
	const me = member && (await api<{ userId: string }>(member, 'GET', '/me'));
	const people = [
		{ name: `Head of ${name}`, userId: me?.userId ?? null, phone: '+00 12 34' },
		{ name: `Hand of ${name}`, userId: null, phone: '' }
	].map((one) => ({ ...one, id: randomUUID(), skills: ['climber', 'rigger'] }));
	await api(planner, 'PUT', `/crews/${id}`, {
		version: 0,
		crew: {
			...{ name, region: '', zone: 'Etc/UTC', fromMin: 360, toMin: 1200, base: null },
			...{ equipment: [], people }
		}
	});
	return id;
}
const today = (): string => new Date().toISOString().slice(0, 10);

test('a crew is made and assigned; its phone says where to be and what to bring, also without connection; the board follows', async ({
	browser
}) => {
	test.setTimeout(240_000);
	const { page } = await person(browser, 'planner');
	const mark = randomUUID().slice(0, 8);
	const hopName = `Work ${mark}`;
	const hopId = await freshHop(page, FROM, hopName);
	const technician = await person(browser, 'crew-b', PHONE);

	// Made by hand: what is wrong is said at its field, what is typed stays over a reload.
	await open(page, '/crews');
	await page.getByRole('link', { name: 'Make a crew' }).click();
	await page.getByLabel('Name of the crew').fill(`Crew ${mark}`);
	await page.getByLabel('Time zone').fill('Nowhere/Atoll');
	await page.getByRole('button', { name: 'Save the crew' }).click();
	await expect(page.locator('#field-crew-zone-error')).toBeVisible();
	await expect(page.getByLabel('Time zone')).toBeFocused();
	await page.getByLabel('Time zone').fill('Etc/UTC');
	await page.reload();
	await page.waitForSelector('html[data-alive]');
	await expect(page.getByLabel('Name of the crew')).toHaveValue(`Crew ${mark}`);
	const first = page.getByTestId('crew-person').first();
	await first.getByLabel('Account').click();
	await page.getByRole('option', { name: /Suvi Ostler/ }).click();
	await expect(first.getByLabel('Name', { exact: true })).toHaveValue('Suvi Ostler');
	await first.getByText('Climbs').click();
	await page.getByRole('button', { name: 'Save the crew' }).click();
	await expect(page.getByRole('link', { name: `Crew ${mark}` })).toBeVisible();

	// Assigned on the board, where the hop is found by its name.
	await open(page, `/board?q=${encodeURIComponent(hopName)}`);
	const row = page.locator(`[data-hop="${hopName}"]`);
	await expect(row).toContainText('0 of');
	await row.getByRole('button', { name: `Crews at ${hopName}` }).click();
	await page.getByRole('dialog').getByLabel('End', { exact: true }).click();
	await page.getByRole('option', { name: /^B,/ }).click();
	await page.getByRole('dialog').getByLabel('Crew', { exact: true }).click();
	await page.getByRole('option', { name: `Crew ${mark}` }).click();
	await page.getByLabel('To be there at').fill('half past');
	await page.getByRole('button', { name: 'Put it at B' }).click();
	await expect(page.locator('#field-fromMin-error')).toBeVisible();
	await page.getByLabel('To be there at').fill('07:45');
	await page.getByLabel('Day', { exact: true }).fill(today());
	await page.getByRole('button', { name: 'Put it at B' }).click();
	await expect(page.getByTestId('assignments')).toContainText('07:45');
	await page.keyboard.press('Escape');
	await expect(row).toContainText(`Crew ${mark}`);

	// The technician begins there, with one button that leads on.
	const { page: phone, context } = technician;
	await open(phone, '/my-work');
	const place = phone.getByTestId('place-of-work').filter({ hasText: hopName });
	await expect(place).toContainText('be there at 07:45');
	await expect(place).toContainText('No crew is assigned there.');
	await place.getByRole('button', { name: /^Bring:/ }).click();
	await expect(place.getByTestId('bring').getByRole('listitem').first()).toBeVisible();

	// Who has only their work open is called by the far end.
	const other = await person(browser, 'crew-a');
	await api(other.page, 'POST', `/hops/${hopId}/records`, {
		records: [
			{
				...{ id: randomUUID(), end: 'A', kind: 'message', recordedAt: new Date().toISOString() },
				payload: { phrase: 'going-up', text: '' }
			}
		]
	});
	await expect(phone.getByTestId('alert')).toContainText('A says: Going up');
	await phone.getByTestId('alert').getByRole('button', { name: 'Seen' }).click();
	await expect(phone.getByTestId('alert')).toHaveCount(0);

	// Somebody records at A: the board says so by itself.
	await api(other.page, 'POST', `/hops/${hopId}/records`, {
		records: [
			{
				...{ id: randomUUID(), end: 'A', kind: 'snag', recordedAt: new Date().toISOString() },
				payload: {
					...{ snagId: randomUUID(), text: 'Gate', owner: 'Ada', due: '2030-01-01', photoIds: [] }
				}
			}
		]
	});
	await expect(row).toContainText('1 snag open');
	await expect(row).toContainText('at A');

	// Off the air it is all there, the pages of the hop too.
	await expect
		.poll(() =>
			phone.evaluate(async () => (await caches.open('skiaxis-pages')).keys()).then((k) => k.length)
		)
		.toBeGreaterThan(4);
	await expect
		.poll(
			() => phone.evaluate((id) => localStorage.getItem('skiaxis-on-device')?.includes(id), hopId),
			{
				timeout: 60_000
			}
		)
		.toBe(true);
	await context.setOffline(true);
	await phone.reload();
	await phone.waitForSelector('html[data-alive]');
	await expect(place).toContainText('be there at 07:45');
	await place.getByRole('link', { name: /^Go on at B/ }).click();
	await expect(phone.getByTestId('step')).toBeVisible();
	await context.setOffline(false);
});

test('a project takes hops from the board, is scheduled with a boat and a storm, and its crews are assigned by it', async ({
	browser
}) => {
	test.setTimeout(240_000);
	const { page } = await person(browser, 'planner');
	const mark = randomUUID().slice(0, 8);
	const hopName = `Job ${mark}`;
	await freshHop(page, FROM, hopName);
	await newCrew(page, `North ${mark}`);
	await newCrew(page, `South ${mark}`);

	await open(page, '/projects');
	await page.getByRole('link', { name: 'Begin a project' }).click();
	await page.getByRole('button', { name: 'Save the project' }).click();
	await expect(page.locator('#field-project-name-error')).toBeVisible();
	await page.getByLabel('Name of the project').fill(`Project ${mark}`);
	await page.getByLabel('Due').fill('2027-06-30');
	await page.getByRole('button', { name: 'Save the project' }).click();
	await expect(page.getByRole('heading', { name: `Project ${mark}` })).toBeVisible();
	await page.getByRole('link', { name: 'on the board', exact: true }).click();
	await page.getByRole('searchbox').fill(hopName);
	await page.getByRole('searchbox').press('Enter');
	await page.getByRole('checkbox', { name: `Choose ${hopName}` }).check();
	const put = page.getByTestId('put-into-project');
	await put.getByLabel('Into which project').click();
	await page.getByRole('option', { name: `Project ${mark}` }).click();
	await put.getByRole('button', { name: 'Put', exact: true }).click();
	await expect(page.getByText('No hop is like this just now.')).toBeVisible();
	await open(page, '/projects');
	await page.getByRole('link', { name: `Project ${mark}` }).click();
	await expect(page.locator(`[data-hop="${hopName}"]`)).toBeVisible();

	// Only these two crews, a boat that goes twice a day, a storm on the second day.
	await page.getByRole('button', { name: 'Days, crews, ways and weather' }).click();
	for (const label of await page
		.locator('fieldset')
		.filter({ hasText: 'Crews' })
		.locator('label')
		.filter({ has: page.getByRole('checkbox') })
		.all()) {
		const wanted = (await label.innerText()).includes(mark);
		const box = label.getByRole('checkbox');
		if ((await box.getAttribute('aria-checked')) !== String(wanted)) await label.click();
	}
	await page.getByLabel('First day').fill('2027-06-14');
	await page.getByLabel('Time zone').fill('Etc/GMT+8');
	await page.getByLabel('Ways that are otherwise, boats').fill('Saltbeck Quay,Kelp Head,soon');
	await expect(page.getByText('Line 1: the minutes are a whole number')).toBeVisible();
	const boats = [`North ${mark}`, `South ${mark}`].flatMap((crew) => [
		`${crew},Kelp Head,30,08:00 10:00`,
		`Kelp Head,${crew},30,15:00 16:30`
	]);
	await page.getByLabel('Ways that are otherwise, boats').fill(boats.join('\n'));
	const storm = ['site,time,wind_m_s,gust_m_s,rain_mm_h,lightning'];
	for (let hour = 0; hour < 24; hour += 1) {
		storm.push(`Saltbeck Quay,2027-06-15T${String(hour).padStart(2, '0')}:00Z,24,30,0,no`);
	}
	await page.getByLabel('Weather from a file').setInputFiles({
		...{ name: 'storm.csv', mimeType: 'text/csv', buffer: Buffer.from(storm.join('\n')) }
	});
	await expect(page.getByText('24 hours of weather are known.')).toBeVisible();
	await page.getByRole('button', { name: 'Work it out', exact: true }).click();
	const said = page.getByTestId('schedule-said');
	await expect(said).toContainText('All done', { timeout: 90_000 });
	const wall = page.getByTestId('wall');
	await expect(wall.getByRole('columnheader', { name: hopName })).toBeVisible();
	await wall.getByRole('button', { name: /, A: / }).first().click();
	await expect(page.getByTestId('stint')).toContainText(hopName);
	await page.getByTestId('stint').getByRole('button', { name: 'Close' }).click();

	// A stay is put on another day by hand, and the rest goes round it.
	await wall.getByRole('button', { name: /, A: / }).nth(1).click();
	const stint = page.getByTestId('stint');
	await stint.getByLabel('Begin on').fill('2027-06-17');
	await stint.getByLabel('at', { exact: true }).fill('ten');
	await stint.getByRole('button', { name: 'Pin it there' }).click();
	await expect(stint).toContainText('A time of day, as 07:30.');
	await stint.getByLabel('at', { exact: true }).fill('10:00');
	await stint.getByRole('button', { name: 'Pin it there' }).click();
	await expect(stint).toContainText('it goes there when it is worked out again');
	await stint.getByRole('button', { name: 'Close' }).click();
	await page.getByRole('button', { name: 'Work it out again' }).click();
	const pinned = wall.getByRole('button', { name: /, A: .* 10:00 to .*, pinned$/ });
	await expect(pinned).toBeVisible({ timeout: 90_000 });
	await pinned.click();
	await expect(stint).toContainText('Thu 17 June 10:00');
	await stint.getByRole('button', { name: 'Close' }).click();
	// Alt and an arrow move it by a quarter of an hour; let go, it is as it was.
	await pinned.press('Alt+ArrowDown');
	await expect(stint).toContainText('Pinned to Thu 17 June 10:15');
	await stint.getByRole('button', { name: 'Let it go' }).click();
	await expect(page.getByRole('button', { name: 'Work it out again' })).toHaveClass(/btn-main/);
	await stint.getByRole('button', { name: 'Close' }).click();

	// What the crews record moves what is expected, while somebody watches.
	const when = await said.locator('strong').innerText();
	const other = await person(browser, 'planner');
	const hopId = await hopIdOf(other.page, hopName);
	const built = { step: '*', cause: 'Built on an earlier visit', authorisedBy: 'Ada Reef' };
	await api(other.page, 'POST', `/hops/${hopId}/records`, {
		records: ['A', 'B'].map((end) => ({
			...{ id: randomUUID(), end, kind: 'step-skipped', payload: built },
			recordedAt: new Date().toISOString()
		}))
	});
	await expect(page.getByTestId('moved-on')).toContainText('sooner than worked out');
	await expect(said.locator('strong')).not.toHaveText(when);
	await page.getByLabel('Rails').click();
	await page.getByRole('option', { name: 'By crew' }).click();
	await expect(wall.getByRole('columnheader', { name: `North ${mark}` })).toBeVisible();

	await page.getByRole('button', { name: 'Assign the crews as it says' }).click();
	await expect(page.getByText(/days? assigned; what was assigned before stays/)).toBeVisible();
	await expect(page.locator(`[data-hop="${hopName}"]`)).toContainText(mark);
});

test('the ends say things to each other: at once, and once there is a connection again', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, FROM, `Say ${randomUUID().slice(0, 8)}`);
	const a = await person(browser, 'crew-a', PHONE);
	const b = await person(browser, 'crew-b', PHONE);
	await open(a.page, `/hops/${hopId}/a/build`);
	await open(b.page, `/hops/${hopId}/b/build`);
	await expect(a.page.getByTestId('record-state')).toContainText('all sent');
	await expect(b.page.getByTestId('record-state')).toContainText('all sent');
	await a.page.getByTestId('messages').click();
	await a.page.getByRole('button', { name: 'Going up' }).click();
	const alert = b.page.getByTestId('alert');
	await expect(alert).toContainText('A says: Going up');
	await expect(b.page.getByTestId('messages')).toHaveAccessibleName(/1 new/);
	await b.page.getByTestId('messages').click();
	await expect(b.page.getByTestId('message-list')).toContainText('Going up');
	// What was seen calls no more.
	await expect(alert).toBeHidden();

	await a.context.setOffline(true);
	await a.page.getByLabel('In your own words').fill('Fog on the ridge');
	await a.page.getByRole('button', { name: 'Send' }).click();
	await expect(a.page.getByTestId('message-list')).toContainText('Fog on the ridge');
	await a.page.getByRole('button', { name: 'Stop', exact: true }).click();
	await a.context.setOffline(false);
	await expect(b.page.getByTestId('message-list')).toContainText('Fog on the ridge', {
		timeout: 60_000
	});
	await b.page.keyboard.press('Escape');
	await expect(alert).toHaveAttribute('data-kind', 'stop');
	await expect(alert).toContainText('A says: Stop');
});
