import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { api, expect, open, person, test } from './people';
import { freshHop } from './building';

// What is kept on the device for work without connection is under test here.
test.use({ serviceWorkers: 'allow' });

const PHONE = { width: 390, height: 844 };

test('a hop is given its days: crews, a boat and a storm; both ends see it, and what one records moves the other', async ({
	browser
}) => {
	test.setTimeout(180_000);
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Kelp Head to Saltbeck Quay', `Days ${randomUUID()}`);
	const { page } = planner;
	await open(page, `/hops/${hopId}`);
	await page.getByRole('link', { name: 'Timetable of both ends' }).click();
	const summary = page.getByTestId('timetable-summary');
	await expect(page.getByRole('heading', { level: 1, name: 'Timetable' })).toBeVisible();
	await expect(page.getByText('A first proposal')).toBeVisible();

	// Wrong input is told at its field, and nothing is saved by it.
	await page.getByRole('button', { name: 'Days, crews and ways' }).click();
	await page.getByLabel('First day').fill('2027-06-14');
	await page.getByLabel('Time zone').fill('Etc/GMT+6');
	await page.getByLabel('Days', { exact: true }).fill('10');
	const ends = page.getByLabel('Ends', { exact: true });
	await ends.first().fill('06:00');
	await expect(page.getByText('After it begins')).toBeVisible();
	await expect(page.getByRole('button', { name: 'Save it for both ends' })).toBeDisabled();
	await ends.first().fill('18:00');
	await ends.last().fill('18:00');
	await expect(summary).toContainText('Done about');
	const calm = await summary.getByText('Done about').innerText();

	// A boat at four, a storm on the first day: it takes longer, and the reload keeps what is typed.
	await page.getByLabel('Away by, every day').fill('16:00');
	await page.getByLabel('Why', { exact: true }).fill('Last boat');
	await page.getByRole('button', { name: 'Limits of wind and rain, and the weather' }).click();
	const hours = page.getByTestId('weather-hours');
	await hours.getByLabel('On', { exact: true }).fill('2027-06-14');
	await hours.getByLabel('From', { exact: true }).fill('07:00');
	await hours.getByLabel('To', { exact: true }).fill('20:00');
	await hours.getByRole('button', { name: 'Take these hours' }).click();
	await expect(hours).toContainText('Say wind, gusts, rain or lightning.');
	await hours.getByLabel('Gusts').fill('24');
	await hours.getByRole('button', { name: 'Take these hours' }).click();
	await expect(hours).toContainText('13 hours at A, 13 at B');
	await expect(summary).not.toContainText(calm);
	await expect(summary).toContainText('Last boat');
	await page.reload();
	await expect(page.getByTestId('kept-typing')).toContainText('was put back');
	await page.getByRole('button', { name: 'Save it for both ends' }).click();
	await expect(page.getByText(/^Saved by /)).toBeVisible();
	await expect(summary).toContainText('Done about');
	const planned = await summary.getByText('Done about').innerText();

	// The other end's phone sees the same, its own rail on the left.
	const b = await person(browser, 'crew-b', PHONE);
	await open(b.page, `/hops/${hopId}/b/timetable`);
	const seen = b.page.getByTestId('timetable-summary');
	await expect(seen.getByText('Done about')).toHaveText(planned);
	const rails = b.page.getByTestId('time-rails');
	await expect(rails.getByRole('button', { name: /^A: Cables, \d/ })).toBeVisible();

	// A task is moved by keys, and let go again.
	const raise = page.getByRole('button', { name: /^A: Raise, / });
	const before = await raise.getAttribute('aria-label');
	await raise.focus();
	await page.keyboard.press('Alt+ArrowDown');
	const pinned = page.getByRole('button', { name: /^A: Raise, .*pinned/ });
	await expect(pinned).toBeVisible();
	await pinned.click();
	// What is opened is in view, wherever on the rails it was pressed.
	await page.getByRole('button', { name: /^B: Close, / }).click();
	const panel = page.getByTestId('task-panel');
	await expect(panel.getByRole('heading', { name: 'Close at B' })).toBeInViewport();
	await panel.getByRole('button', { name: 'Close', exact: true }).click();
	await expect(panel).toHaveCount(0);
	await pinned.click();
	await panel.getByRole('button', { name: 'Let it go' }).click();
	await expect(page.getByRole('button', { name: before ?? '' })).toBeVisible();

	// What A records is done; B, who waited for it, is told another time without a reload.
	const a = await person(browser, 'crew-a');
	await open(a.page, `/hops/${hopId}/a/timetable`);
	const left = {
		id: randomUUID(),
		end: 'A',
		kind: 'step-skipped',
		recordedAt: new Date().toISOString()
	};
	await api(a.page, 'POST', `/hops/${hopId}/records`, {
		records: [{ ...left, payload: { step: '*', cause: 'Built last year' } }]
	});
	await expect(rails.getByRole('button', { name: /^A: Cables, \d/ })).toHaveCount(0);
	await expect(
		a.page.getByTestId('time-rails').getByRole('button', { name: /^A: Cables, \d/ })
	).toHaveCount(0);
	// What holds a load is not left out by one stroke.
	await expect(rails.getByRole('button', { name: /^A: Raise, / })).toBeVisible();

	// The calendar of a crew is a file.
	const saved = a.page.waitForEvent('download');
	await a.page.getByRole('button', { name: 'Calendar of Crew B' }).click();
	const calendar = await readFile(await (await saved).path(), 'utf8');
	expect(calendar).toContain('BEGIN:VEVENT');
	expect(calendar).toContain('end B');
	expect(calendar).not.toContain('end A');

	// Without connection the phone still shows its day.
	await expect(b.page.getByText('This hop is on this device')).toBeVisible({ timeout: 60_000 });
	await b.context.setOffline(true);
	await b.page.reload();
	await expect(seen).toContainText('Done about');
	await expect(rails.getByRole('button', { name: /^B: Raise, / })).toBeVisible();
});

test('who may not record on a hop reads its timetable and changes nothing; what does not fit says why', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Kelp Head to Saltbeck Quay', `Days ${randomUUID()}`);
	const { page } = await person(browser, 'acceptor');
	await open(page, `/hops/${hopId}/a/timetable`);
	await expect(page.getByTestId('timetable-summary')).not.toBeEmpty();
	await expect(page.getByTestId('day-plan')).toHaveCount(0);

	await open(planner.page, `/hops/${hopId}/a/timetable`);
	await planner.page.getByRole('button', { name: 'Days, crews and ways' }).click();
	await planner.page.getByLabel('First day').fill('2027-06-14');
	await planner.page.getByLabel('Of them climbers').first().fill('0');
	const summary = planner.page.getByTestId('timetable-summary');
	await expect(summary).toContainText('Crew A lacks a climber');
	await planner.page.getByLabel('Of them climbers').first().fill('2');
	await planner.page.getByLabel('Days', { exact: true }).fill('1');
	await expect(summary).toContainText('the last day that is looked at');
});
