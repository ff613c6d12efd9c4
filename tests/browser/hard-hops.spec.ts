import { api, choose, expect, hopIdOf, open, person, test } from './people';
import { freshHop, reissue } from './building';
import { follow, toBench, type Crews } from './follow';

/** Loss that is left against the plan at both ends, as the screens show it, dB. */
async function belowPlan(crews: Crews): Promise<number[]> {
	return Promise.all(
		(['A', 'B'] as const).map(async (end) => {
			await expect(crews[end].getByRole('heading', { name: `Fix ${end}` })).toBeVisible();
			return crews[end].evaluate(async (asked) => {
				const [, , hopId] = location.pathname.split('/');
				const answer = await fetch(`/api/v1/hops/${hopId}/judgement`);
				const { lines } = (await answer.json()) as {
					lines: { code: string; verdict: string }[];
				};
				return lines.find((line) => line.code === `main-lobe-${asked}`)!.verdict === 'pass' ? 0 : 1;
			}, end);
		})
	);
}

test('two crews align a narrow 80 GHz hop by what their screens say', async ({ browser }) => {
	test.setTimeout(800_000);
	const a = await person(browser, 'crew-a');
	const b = await person(browser, 'crew-b', { width: 390, height: 844 });
	const crews = { A: a.page, B: b.page };
	const hopId = await hopIdOf(a.page, 'Kelp Head to Grey Ledge');
	await toBench(crews, hopId);
	const steps = await follow(crews);
	expect(steps.filter((step) => step.startsWith('set right'))).toEqual([]);
	expect(steps.at(-1)).toContain('lock');
	await b.page.getByRole('link', { name: 'Go on to fix' }).click();
	expect(await belowPlan(crews)).toEqual([0, 0]);
});

test('two crews find a planted fault by what their screens say, and the record tells it', async ({
	browser
}) => {
	test.setTimeout(800_000);
	const a = await person(browser, 'crew-a', { width: 390, height: 844 });
	const b = await person(browser, 'crew-b');
	const crews = { A: a.page, B: b.page };
	const hopId = await hopIdOf(a.page, 'Hollow Ness to Kelp Head');
	await toBench(crews, hopId);
	const steps = await follow(crews);
	expect(steps.filter((step) => step.startsWith('set right'))).toEqual(['set right: film-left-in']);

	// The crew is never told the fault; the planner who planted it is.
	const asked = (page: typeof a.page): Promise<unknown> =>
		page.evaluate(
			async (id) => (await (await fetch(`/api/v1/hops/${id}`)).json()) as object,
			hopId
		);
	expect(await asked(a.page)).not.toHaveProperty('plantedFault');
	const planner = await person(browser, 'planner');
	expect(await asked(planner.page)).toHaveProperty('plantedFault', 'film-left-in');

	// The replay walks through it all, from nothing to both ends on their lobes.
	await planner.page.goto(`${new URL(a.page.url()).origin}/hops/${hopId}/record`);
	await planner.page.waitForSelector('html[data-alive]');
	const slider = planner.page.getByRole('slider', { name: 'Place in the record' });
	await expect(planner.page.getByTestId('moment')).toHaveText('Before the first record');
	await slider.press('End');
	await expect(planner.page.getByText(', on its main lobe')).toHaveCount(2);
	await planner.page.getByRole('button', { name: 'One back' }).click();
	await expect(planner.page.getByTestId('moment')).toContainText('Advised: Fix this dish');
	// Building and alignment are read apart, at the same moment; the film is in neither's way.
	const place = planner.page.getByTestId('place');
	const inAlignment = await place.innerText();
	await planner.page.getByRole('button', { name: /^All / }).click();
	await expect(place).not.toHaveText(inAlignment);
	await expect(planner.page.getByTestId('moment')).toContainText('Advised: Fix this dish');
	await planner.page.getByRole('button', { name: /^Building / }).click();
	await expect(planner.page.getByTestId('moment')).not.toContainText('Advised');
	await planner.page.getByRole('button', { name: /^Alignment / }).click();
	await slider.press('Home');
	await planner.page.getByRole('button', { name: 'To the next hand-over' }).click();
	await expect(planner.page.getByTestId('moment')).toContainText(/Baton handed|takes the baton/);
	await expect(planner.page.getByRole('heading', { name: 'One visit' })).toBeVisible();
});

test('crossed indoor cables at one end are found by switching one transmitter off', async ({
	browser
}) => {
	test.setTimeout(800_000);
	const planner = (await person(browser, 'planner')).page;
	const hopId = await freshHop(planner, 'Hollow Ness to Kelp Head', 'Crossed indoors');
	const { plan } = await api<{ plan: { ends: Record<'A' | 'B', object> } }>(
		planner,
		'GET',
		`/hops/${hopId}`
	);
	const indoors = { indoorUnitCode: 'IU-8' };
	await reissue(planner, hopId, {
		ends: { A: { ...plan.ends.A, ...indoors }, B: { ...plan.ends.B, ...indoors } }
	});

	// The instructor plants it at one end, on the page of the plan.
	await open(planner, `/hops/${hopId}/a/prepare`);
	await choose(planner, 'Planted fault, kept from the crew', /indoor cables are crossed/);
	await choose(planner, 'Where', 'A only');
	await planner.getByRole('button', { name: 'Save the plan' }).click();
	await expect(planner.getByText('Saved.', { exact: true })).toBeVisible();
	await planner.reload();
	await planner.waitForSelector('html[data-alive]');
	await expect(planner.getByLabel('Where', { exact: true })).toContainText('A only');

	const a = await person(browser, 'crew-a');
	const b = await person(browser, 'crew-b', { width: 390, height: 844 });
	const crews = { A: a.page, B: b.page };
	await toBench(crews, hopId);
	const steps = await follow(crews);
	expect(steps.filter((step) => step.startsWith('set right'))).toEqual([
		'set right: crossed-cables'
	]);
	const { records } = await api<{ records: { kind: string; payload: { test?: string } }[] }>(
		a.page,
		'GET',
		`/hops/${hopId}/records`
	);
	const tests = records.filter(({ kind }) => kind === 'test-result');
	expect(tests.map(({ payload }) => payload.test)).toContain('cables');
	expect(tests.length).toBeLessThan(6);
});
