import { readFileSync } from 'node:fs';
import { closeEnd, fixBoth, follow, toBench } from './follow';
import {
	expect,
	hopIdOf,
	issue,
	open,
	person,
	readFinal,
	recordOperating,
	signAcceptance,
	test
} from './people';

const HOP = 'Lantern Reach to Saltbeck Quay';

test('plan, revision, sheet, align both ends, lock, accept, sign, download: by what the screen says', async ({
	browser
}) => {
	test.setTimeout(600_000);
	const planner = await person(browser, 'planner');
	const hopId = await hopIdOf(planner.page, HOP);

	await open(planner.page, `/hops/${hopId}/a/prepare`);
	await planner.page.getByRole('tab', { name: 'Levels' }).click();
	await expect(planner.page.getByText('Planned RSL, aligning')).toBeVisible();
	await planner.page.getByRole('tab', { name: 'Channel' }).click();
	await planner.page.getByLabel('Tolerance').fill('1.8');
	await expect(planner.page.getByText('Not saved yet')).toBeVisible();
	await planner.page.getByRole('button', { name: 'Save the plan' }).click();
	await planner.page.getByRole('link', { name: 'Go on: issue it' }).click();
	await planner.page.getByLabel('What is new in it').fill('Tighter tolerance');
	await issue(planner.page, 'Issue a new revision');
	await expect(planner.page.getByText('Site sheets, plan revision 2')).toBeVisible();
	await planner.page.getByRole('link', { name: 'Open the sheet of A' }).click();
	await planner.page.waitForURL('**/a/sheet');
	await expect(planner.page.getByText('± 1.8 dB')).toBeVisible();
	const sheet = await Promise.all([
		planner.page.waitForEvent('download'),
		planner.page.getByRole('link', { name: 'PDF' }).click()
	]);
	expect(
		readFileSync(await sheet[0].path())
			.subarray(0, 5)
			.toString()
	).toBe('%PDF-');

	const a = await person(browser, 'crew-a');
	const b = await person(browser, 'crew-b', { width: 390, height: 844 });
	const crews = { A: a.page, B: b.page };
	await toBench(crews, hopId);
	await expect(a.page.getByTestId('next-step')).toHaveAttribute('data-step', 'read');
	await expect(b.page.getByTestId('next-step')).toHaveAttribute('data-step', 'wait');
	await expect(b.page.getByText('Hands off the dish')).toBeVisible();

	const steps = await follow(crews);
	const count = (kind: string): number => steps.filter((step) => step.endsWith(` ${kind}`)).length;
	expect(count('hand-over')).toBeGreaterThanOrEqual(2);
	expect(count('sweep')).toBeGreaterThanOrEqual(4);

	// Fixing begins at the end that holds the baton, then the other.
	const first = steps.at(-1)!.startsWith('A') ? 'A' : 'B';
	await fixBoth(crews, hopId, first, 'Go on to accept');

	await open(a.page, `/hops/${hopId}/a/accept`);
	for (const [page, end] of [
		[a.page, 'A'],
		[b.page, 'B']
	] as const) {
		await readFinal(page, end);
		await recordOperating(page, end);
		await closeEnd(page, end);
		await expect(
			page.getByTestId('judgement').locator('li', { hasText: `Level received at ${end}` })
		).toContainText('dBm');
	}

	const acceptor = await person(browser, 'acceptor');
	await open(acceptor.page, `/hops/${hopId}/a/accept`);
	await expect(acceptor.page.locator('[data-verdict=missing]')).toHaveCount(0);
	// The building was left out with a cause and on somebody's word; both stand in their fields already.
	await expect(acceptor.page.locator('[data-verdict=deviation]')).toHaveCount(4);
	await expect(acceptor.page.locator('[data-verdict=pass]')).toHaveCount(12);
	await signAcceptance(acceptor.page);
	await expect(acceptor.page.getByRole('heading', { name: 'Accepted and signed' })).toBeVisible();

	const [json] = await Promise.all([
		acceptor.page.waitForEvent('download'),
		acceptor.page.getByRole('link', { name: 'As-built as JSON' }).click()
	]);
	const asBuilt = JSON.parse(readFileSync(await json.path(), 'utf8')) as {
		acceptance: { signature: { name: string } };
		planRevision: { number: number };
		records: { seq: number }[];
	};
	expect(asBuilt.acceptance.signature.name).toBe('Noor Haverly');
	expect(asBuilt.planRevision.number).toBe(2);
	// The record has no gap and no repeat.
	expect(asBuilt.records.map((record) => record.seq)).toEqual(asBuilt.records.map((_, i) => i + 1));
	const [csv] = await Promise.all([
		acceptor.page.waitForEvent('download'),
		acceptor.page.getByRole('link', { name: 'As-built as CSV' }).click()
	]);
	expect(
		readFileSync(await csv.path(), 'utf8')
			.trim()
			.split('\n')
	).toHaveLength(17);
	const [pdf] = await Promise.all([
		acceptor.page.waitForEvent('download'),
		acceptor.page.getByRole('link', { name: 'Acceptance pack as PDF' }).click()
	]);
	expect(
		readFileSync(await pdf.path())
			.subarray(0, 5)
			.toString()
	).toBe('%PDF-');
});
