import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { doStep, doSteps, freshHop } from './building';
import { answerCard, api, atClosing, expect, open, person, recordOperating, test } from './people';
import { startServer, type RunningServer } from './server';

// What is kept on the device for work without connection is under test here.
test.use({ serviceWorkers: 'allow' });

interface Kept {
	seq: number;
	end: string;
	kind: string;
	id: string;
	recordedAt: string;
	payload: { step?: string };
}

const recordsOf = async (page: Page, hopId: string): Promise<Kept[]> =>
	(await api<{ records: Kept[] }>(page, 'GET', `/hops/${hopId}/records?limit=2000`)).records;

test('a dual-polarized hop is built at both ends; the connection is cut for the middle third and the browser killed: nothing lost, nothing twice, in order', async ({
	browser
}) => {
	test.setTimeout(600_000);
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Build ${randomUUID()}`);
	for (const [name, end] of [
		['crew-a', 'a'],
		['crew-b', 'b']
	] as const) {
		const { page, context } = await person(browser, name, { width: 390, height: 844 });
		await open(page, `/hops/${hopId}/${end}/build`);
		await expect(page.getByText('This hop is on this device.')).toBeVisible({ timeout: 60_000 });
		const total = await page.locator('nav button[data-step]').count();
		const third = Math.floor(total / 3);
		const done = await doSteps(page, third);

		await context.setOffline(true);
		await page.reload();
		await page.waitForSelector('html[data-alive]');
		await expect(page.getByTestId('record-state')).toContainText('No connection');
		done.push(...(await doSteps(page, 3)));
		await page.close();
		// A new page of the same browser, still without connection, has what the killed one recorded.
		const second = await context.newPage();
		await open(second, `/hops/${hopId}/${end}/build`);
		await expect(second.getByTestId('build-progress')).toContainText(`${done.length} of ${total}`);
		await expect(second.getByTestId('record-state')).toContainText(/wait/);
		done.push(...(await doSteps(second, third - 3)));

		await context.setOffline(false);
		await expect(second.getByTestId('record-state')).toContainText('all sent', {
			timeout: 60_000
		});
		done.push(...(await doSteps(second)));
		await expect(second.getByRole('heading', { name: /is built$/ })).toBeVisible();
		expect(done).toHaveLength(total);

		await expect(second.getByTestId('record-state')).toContainText('all sent');
		const kept = (await recordsOf(second, hopId)).filter((r) => r.end === end.toUpperCase());
		expect(new Set(kept.map((r) => r.id)).size).toBe(kept.length);
		const steps = kept.filter((r) => r.kind === 'build-step').map((r) => r.payload.step);
		expect(steps).toEqual(done.filter((key) => steps.includes(key)));
		expect(steps.length).toBe(total - 4);
		const times = kept.map((r) => Date.parse(r.recordedAt));
		expect(times).toEqual([...times].sort((p, q) => p - q));
		const { photos } = await api<{ photos: unknown[] }>(second, 'GET', `/hops/${hopId}/photos`);
		// Ends share the list; those of the end built first stand in it already.
		const taken = (await recordsOf(second, hopId)).filter((r) => r.kind === 'photo');
		expect(taken.length).toBeGreaterThan(0);
		expect(photos).toHaveLength(taken.length);
		await context.close();
	}
	const all = await recordsOf(planner.page, hopId);
	expect(all.map((r) => r.seq)).toEqual(all.map((_, i) => i + 1));
});

test('a waveguide hop is built while its server is killed and comes back', async ({ browser }) => {
	test.setTimeout(360_000);
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(
		planner.page,
		'Lantern Reach to Hollow Ness',
		`Guide ${randomUUID()}`
	);
	let server: RunningServer = await startServer();
	try {
		const context = await browser.newContext();
		const page = await context.newPage();
		await page.goto(`${server.address}/sign-in`);
		await page.waitForSelector('html[data-alive]');
		await page.getByLabel('Name', { exact: true }).fill('crew-a');
		await page.getByLabel('Password').fill('salt-wind-and-rope');
		await page.getByRole('button', { name: 'Sign in' }).click();
		await expect(page.getByRole('heading', { name: /^(Hops|My work)$/ })).toBeVisible();
		await page.goto(`${server.address}/hops/${hopId}/a/build`);
		await page.waitForSelector('html[data-alive]');
		await expect(page.getByText('This hop is on this device.')).toBeVisible({ timeout: 60_000 });
		const done = await doSteps(page, 10);
		// Killed while it is receiving: the step is recorded and the server dies at once.
		await Promise.all([doStep(page).then((key) => done.push(key)), server.kill()]);
		done.push(...(await doSteps(page, 6)));
		await expect(page.getByTestId('record-state')).toContainText('No connection');
		server = await startServer(server.port);
		await expect(page.getByTestId('record-state')).toContainText('all sent', { timeout: 60_000 });
		done.push(...(await doSteps(page)));
		expect(done).toEqual(
			expect.arrayContaining(['guide-mark', 'hangers-up', 'guide-hoist', 'flanges', 'bend-e'])
		);
		await expect(page.getByTestId('record-state')).toContainText('all sent');
		const kept = await recordsOf(planner.page, hopId);
		expect(kept.map((r) => r.seq)).toEqual(kept.map((_, i) => i + 1));
		const steps = kept.filter((r) => r.kind === 'build-step').map((r) => r.payload.step);
		expect(steps).toEqual(done.filter((key) => steps.includes(key)));
	} finally {
		await server.kill();
	}
	// The other end, at the server that never died.
	const b = await person(browser, 'crew-b');
	await open(b.page, `/hops/${hopId}/b/build`);
	await doSteps(b.page);
	await expect(b.page.getByRole('heading', { name: 'B is built' })).toBeVisible();
});

test('a packing list is counted by one thumb, each number typed, the next one by itself', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Count ${randomUUID()}`);
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	await open(page, `/hops/${hopId}/a/build`);
	await page.locator('nav button[data-step=packing]').click();
	const list = page.getByTestId('packing').getByRole('listitem');
	const total = await list.count();
	await page.getByRole('button', { name: 'Count by number pad' }).click();
	const pad = page.getByTestId('count-pad');
	const key = (name: string): Promise<void> =>
		pad.getByRole('button', { name, exact: true }).click();
	// Nothing stands there already, and without a number nothing is counted.
	await expect(pad.getByLabel('Found')).toHaveValue('');
	await key('Keep, next');
	await expect(pad.getByRole('alert')).toContainText('0 where none is there');
	const dialog = page.getByRole('dialog');
	const title = (): Promise<string> => dialog.getByRole('heading').innerText();
	const first = await title();
	await key('Later');
	await expect(dialog.getByRole('heading')).not.toHaveText(first);
	/** Types what is listed, one more where that is asked for, and goes on; tells the taps. */
	const count = async (more = 0): Promise<number> => {
		const before = await title();
		const text = await pad.getByText(/listed [\d.]+/).innerText();
		const found = String(Number(/listed ([\d.]+)/.exec(text)![1]) + more);
		for (const digit of found) await key(digit === '.' ? 'Decimal point' : digit);
		await pad.getByRole('button', { name: /^Keep/ }).click();
		// The next one stands there before its number is read.
		await expect(dialog.getByRole('heading')).not.toHaveText(before);
		return found.length + 1;
	};
	await count(1);
	await expect(pad.getByRole('status')).toContainText('1 more than listed');
	await key('Count it again');
	await count();
	await expect(pad.getByRole('status')).toContainText('As listed.');
	let taps = 0;
	let digits = 0;
	for (let i = 1; i < total; i += 1) {
		const used = await count();
		taps += used;
		digits += used - 1;
	}
	// Of each thing its number and one press: nothing was ticked for all, nothing counted twice.
	expect(taps).toBe(digits + total - 1);
	await expect(dialog.getByRole('heading')).toHaveText('All is counted');
	await pad.getByRole('button', { name: 'Back to the list' }).click();
	await expect(list.and(page.locator('[data-verdict=good]'))).toHaveCount(total);
	await expect(page.locator('nav button[data-step=packing] .sr-only')).toHaveText(', done');
});

test('mistakes are found at the step where they happen', async ({ browser }) => {
	test.setTimeout(360_000);
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Wrong ${randomUUID()}`);
	const { page } = await person(browser, 'crew-a');
	await open(page, `/hops/${hopId}/a/build`);
	const step = page.getByTestId('step');
	const choose = (key: string): Promise<void> =>
		page.locator(`nav button[data-step=${key}]`).click();

	// Short packing.
	await choose('packing');
	const line = page.getByTestId('packing').getByRole('listitem').first();
	await line.getByLabel(/^Found of/).fill('x');
	await line.getByRole('button', { name: 'Count' }).click();
	await expect(line.getByRole('alert')).toContainText('Type the quantity');
	await line.getByLabel(/^Found of/).fill('1');
	await line.getByRole('button', { name: 'Count' }).click();
	await expect(line).toHaveAttribute('data-verdict', 'short');
	const [csv] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: /Discrepancies as CSV/ }).click()
	]);
	expect(csv.suggestedFilename()).toBe('discrepancies-A.csv');

	// Swapped sub-band units.
	await choose('labels');
	const form = step.locator('form', { hasText: 'Record this label' });
	await form.getByRole('button', { name: 'Record this label' }).click();
	await expect(form.getByText('The serial number is missing.')).toBeVisible();
	const plan = await form.locator('p', { hasText: 'Plan:' }).innerText();
	const unit = /unit (\d+)([LH])/.exec(plan)!;
	await form.getByLabel('Band from').fill('17.5');
	await form.getByLabel('Band to').fill('20');
	await form.getByLabel('Sub-band unit').fill(`${unit[1]}${unit[2] === 'L' ? 'H' : 'L'}`);
	await form.getByLabel('Serial number').fill('S-1');
	await form
		.getByRole('button', { name: /flange|round/ })
		.first()
		.click();
	await form.getByRole('button', { name: 'Record this label' }).click();
	await expect(step.getByText('this one belongs to B').first()).toBeVisible();

	// A bolt not counted: asked about once, then kept as trouble that blocks the lift.
	await choose('dish-bolts');
	const expected = /Expected (\d+)/.exec(
		await page.locator('#field-step-value-hint').innerText()
	)![1]!;
	await page.locator('#field-step-value').fill(String(Number(expected) - 1));
	await expect(page.getByTestId('quantity-off')).toContainText('1 missing');
	await step.getByRole('button', { name: 'Record it' }).click();
	await step.getByRole('button', { name: 'Keep it as found, though it is off' }).click();
	await expect(step).toHaveAttribute('data-state', 'trouble');
	await choose('tight');
	await expect(step).toHaveAttribute('data-state', 'blocked');

	// A stop card answered with no stops the work.
	await choose('pipe');
	const card = page.getByTestId('stop-card-climb');
	for (const yes of await card.getByRole('button', { name: 'Yes', exact: true }).all())
		await yes.click();
	await card.getByRole('button', { name: 'No', exact: true }).first().click();
	await card.getByRole('button', { name: 'Record it: the work stops' }).click();
	await expect(card.getByText('Stop.')).toBeVisible();
	await expect(step.getByRole('button', { name: 'Record it', exact: true })).toHaveCount(0);
	await answerCard(page, 'climb');
	await expect(step.getByRole('button', { name: 'Record it', exact: true })).toBeVisible();

	// Taken on by somebody's word, it goes on and says so.
	await card.getByRole('button', { name: 'Something has changed: ask again' }).click();
	for (const yes of await card.getByRole('button', { name: 'Yes', exact: true }).all())
		await yes.click();
	await card.getByRole('button', { name: 'No', exact: true }).first().click();
	await card.getByRole('button', { name: 'Record it: the work stops' }).click();
	await card.getByRole('button', { name: 'Go on all the same' }).click();
	await card.getByRole('button', { name: 'Record it: go on' }).click();
	await expect(card.getByText('Name the person and their function.')).toBeVisible();
	await card.getByLabel('On whose word').fill('Ada Reef, rigging foreman');
	await card.getByLabel('Why').fill('Gusts only on the ridge');
	await card.getByRole('button', { name: 'Record it: go on' }).click();
	await expect(card.getByText('On the word of Ada Reef')).toBeVisible();
	await expect(step.getByRole('button', { name: 'Record it', exact: true })).toBeVisible();

	// A pipe that the clamps do not fit closes nothing, and is left out by name only.
	await page.locator('#field-step-value').fill('30');
	await step.getByRole('button', { name: 'Record it', exact: true }).click();
	await expect(step.getByRole('alert')).toContainText('by the word of a named person');
	await expect(step).toHaveAttribute('data-state', 'open');
	await step.getByRole('button', { name: 'Leave this step out' }).click();
	await step.getByLabel('Cause').fill('Shells made on site');
	await step.getByRole('button', { name: 'Leave it out with this cause' }).click();
	await expect(step.getByText('name the person on whose word it is left out')).toBeVisible();
	await step.getByLabel('On whose word').fill('Ada Reef, rigging foreman');
	await step.getByRole('button', { name: 'Leave it out with this cause' }).click();
	// Once it is recorded the page leads on: who goes back goes back from there.
	await expect(step).not.toHaveAttribute('data-step', 'pipe');
	await choose('pipe');
	await expect(step).toContainText('Shells made on site, on the word of Ada Reef');

	// Power control left on at the close.
	await open(page, `/hops/${hopId}/a/accept`);
	await atClosing(page, 'operating');
	const back = page.getByTestId('operating-form');
	await expect(back.getByRole('button', { name: 'Record the state of A' })).toBeDisabled();
	await expect(back.getByTestId('not-answered')).toContainText('Not answered yet: 6.');
	await recordOperating(page, 'A', /ATPC/);
	await expect(page.getByTestId('not-restored')).toContainText('ATPC');
	await expect(
		page.getByTestId('judgement').locator('li', { hasText: 'Operating state restored at A' })
	).toContainText('the classic forgotten step');
	await open(page, `/hops/${hopId}/a/build`);

	// A file that lies about being a picture.
	await choose('orientation');
	await step.locator('form input[type=file]').setInputFiles({
		name: 'photo.jpg',
		mimeType: 'image/jpeg',
		buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>')
	});
	await expect(step.getByText('is no picture that this device can read')).toBeVisible();
});

test('power waits for the building and the card; a step left out needs a cause', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Power ${randomUUID()}`);
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	await open(page, `/hops/${hopId}/a/power`);
	// Two radios, each with four things to see; the first done, the next is asked.
	const unticked = page.getByRole('checkbox', { checked: false });
	for (let ticked = 0; ticked < 8; ticked++) await unticked.first().click();
	await expect(unticked).toHaveCount(0);
	const confirm = page.getByRole('button', { name: 'A is in the alignment state' });
	await expect(confirm).toBeDisabled();
	const left = page.getByTestId('left-to-build');
	await left.getByRole('button', { name: 'Leave the building out' }).click();
	await expect(left.getByText('Write the cause in a few words.')).toBeVisible();
	await left.getByLabel('Or leave them out, with the cause').fill('Built on an earlier visit.');
	await left.getByRole('button', { name: 'Leave the building out' }).click();
	await expect(left.getByText('name the person on whose word')).toBeVisible();
	await left.getByLabel('On whose word').fill('Ada Reef, rigging foreman');
	await left.getByRole('button', { name: 'Leave the building out' }).click();
	await expect(left).toHaveCount(0);
	await expect(confirm).toBeDisabled();
	await answerCard(page, 'transmit');
	await confirm.click();
	await expect(page.getByText('A is in the alignment state, confirmed')).toBeVisible();

	// One radio that leaves takes the end out; it alone is asked for again.
	await page.getByRole('button', { name: 'Radio 2 has left it again' }).click();
	await expect(confirm).toBeDisabled();
	await expect(page.locator('[data-radio=radio-1]')).toContainText('In it since');
	await expect(unticked).toHaveCount(4);
	for (let ticked = 0; ticked < 4; ticked++) await unticked.first().click();
	await confirm.click();
	await expect(page.getByText('A is in the alignment state, confirmed')).toBeVisible();
});
