import { randomUUID } from 'node:crypto';
import type { Browser, Page } from '@playwright/test';
import { buildBoth, freshHop, reissue } from './building';
import { closeEnd, fixBoth, follow, toBench, type Crews } from './follow';
import {
	api,
	expect,
	open,
	person,
	proveServices,
	readFinal,
	recordOperating,
	signAcceptance,
	test
} from './people';

const ENDS = ['A', 'B'] as const;
type End = (typeof ENDS)[number];

async function twoCrews(browser: Browser): Promise<Crews> {
	const a = await person(browser, 'crew-a');
	const b = await person(browser, 'crew-b', { width: 390, height: 844 });
	return { A: a.page, B: b.page };
}

const pathOf = (hopId: string, end: End, stage: string): string =>
	`/hops/${hopId}/${end.toLowerCase()}/${stage}`;

/** Both feeds, by what the screens say, until every polarization of every frequency shows what is needed. */
async function polarize(crews: Crews, hopId: string): Promise<string[]> {
	for (const end of ENDS) await open(crews[end], pathOf(hopId, end, 'polarize'));
	const done: string[] = [];
	for (let i = 0; i < 80; i++) {
		const end = ENDS[i % 2 === 0 ? 0 : 1];
		const panel = crews[end].getByTestId('next-step');
		for (;;) {
			const step = (await panel.getAttribute('data-step'))!;
			if (step === 'wait' || step === 'ask-baton' || step === 'reached') break;
			const main = panel.locator('.btn-main').first();
			done.push(`${end} ${step}`);
			const before = await panel.innerText();
			await expect(main).toBeEnabled();
			await main.click();
			await expect(panel).not.toHaveText(before, { useInnerText: true, timeout: 40_000 });
		}
		const steps = await Promise.all(
			ENDS.map((one) => crews[one].getByTestId('next-step').getAttribute('data-step'))
		);
		if (steps.every((step) => step === 'reached')) return done;
	}
	throw new Error(`no end of polarizing: ${done.join(', ')}`);
}

/** Levels of the other carriers, each read at the port of its own radio. */
async function readCarriers(page: Page, hopId: string, end: End): Promise<void> {
	await open(page, pathOf(hopId, end, 'polarize'));
	for (const carrier of await page.getByTestId('carriers').getByRole('listitem').all()) {
		await carrier.getByRole('button', { name: /^Read / }).click();
		await expect(carrier).toHaveAttribute('data-verdict', 'on-plan');
	}
}

async function closeAndSign(browser: Browser, crews: Crews, hopId: string): Promise<Page> {
	for (const end of ENDS) {
		const page = crews[end];
		await open(page, pathOf(hopId, end, 'accept'));
		await readFinal(page, end);
		await recordOperating(page, end);
		await proveServices(page);
		await closeEnd(page, end);
	}
	const { page } = await person(browser, 'acceptor');
	await open(page, pathOf(hopId, 'A', 'accept'));
	await expect(page.locator('[data-verdict=missing]')).toHaveCount(0);
	await expect(page.locator('[data-verdict=deviation]')).toHaveCount(0);
	await signAcceptance(page);
	await expect(page.getByRole('heading', { name: 'Accepted and signed' })).toBeVisible();
	return page;
}

test('four radios from the crate to the signature; a wrong radio and a wrong blade found on the way', async ({
	browser
}) => {
	test.setTimeout(1_200_000);
	const planner = (await person(browser, 'planner')).page;
	const hopId = await freshHop(planner, 'Lantern Reach to Kelp Head', `Four ${randomUUID()}`);
	const crews = await twoCrews(browser);
	const page = crews.A;
	await open(page, pathOf(hopId, 'A', 'build'));
	const step = page.getByTestId('step');

	// Radio 3 is one of the other end: its label says so where it is read.
	await page.locator('nav button[data-step=labels]').click();
	await step.getByRole('button', { name: /Radio 3/ }).click();
	const form = step.locator('form', { hasText: 'Record this label' });
	await expect(form.getByRole('heading')).toContainText(/radio 3/i);
	const plan = await form.locator('p', { hasText: 'Plan:' }).innerText();
	const unit = /unit (\d+)([LH])/.exec(plan)!;
	const [low, high] = [...plan.matchAll(/\d+\.\d{3}/g)].map((match) => Number(match[0]));
	await form.getByLabel('Band from').fill(String(Math.min(low!, high!) - 0.5));
	await form.getByLabel('Band to').fill(String(Math.max(low!, high!) + 0.5));
	await form.getByLabel('Sub-band unit').fill(`${unit[1]}${unit[2] === 'L' ? 'H' : 'L'}`);
	await form.getByLabel('Serial number').fill('A of the other end');
	const flange = /flange (.+?)\.?$/.exec(plan)?.[1];
	if (flange) await form.getByRole('button', { name: flange, exact: true }).click();
	await form.getByRole('button', { name: 'Record this label' }).click();
	await expect(step.getByText('this one belongs to B').first()).toBeVisible();

	// One of the joints looks the other way: it is trouble at the step that looks.
	await page.locator('nav button[data-step^=chain]').first().click();
	const joint = step.locator('[data-joint]').last();
	const planned = /Plan: (.+)/.exec(await joint.innerText())![1]!;
	const wrong = joint.getByRole('button').filter({ hasNotText: planned }).first();
	await wrong.click();
	await expect(joint).toContainText('▲');

	await open(page, pathOf(hopId, 'A', 'build'));
	const done = await buildBoth(crews, hopId);
	for (const number of [2, 3, 4]) {
		for (const base of ['mount-radio', 'voltage', 'boot']) {
			expect(done.A).toContain(`${base}-radio-${number}`);
		}
	}

	await toBench(crews, hopId);
	const first = (await follow(crews)).at(-1)!.startsWith('A') ? 'A' : 'B';
	await polarize(crews, hopId);
	for (const one of Object.values(crews)) {
		await expect(one.locator('tr[data-verdict=reached]')).toHaveCount(8);
	}
	await open(crews[first], pathOf(hopId, first, 'fix'));
	const holder = (await crews[first].getByText('Your move · you hold the baton').count())
		? first
		: first === 'A'
			? 'B'
			: 'A';
	await open(crews[holder], pathOf(hopId, holder, 'fix'));
	await fixBoth(crews, hopId, holder, 'Go on to polarize');
	// Tightening moves the weak signal most: it is read once more.
	await polarize(crews, hopId);
	for (const end of ENDS) await readCarriers(crews[end], hopId, end);
	const signed = await closeAndSign(browser, crews, hopId);
	await expect(signed.getByText('Services on their ports at B')).toBeVisible();
	await expect(signed.getByText('XPD at B, horizontal sent, second frequency')).toBeVisible();
});

test('a radio with its modem indoors, on a coaxial cable, from the crate to the signature', async ({
	browser
}) => {
	test.setTimeout(1_200_000);
	const planner = (await person(browser, 'planner')).page;
	const hopId = await freshHop(planner, 'Upper Fell to Lantern Reach', `Coaxial ${randomUUID()}`);
	const { plan } = await api<{ plan: { ends: Record<End, object>; configuration: object } }>(
		planner,
		'GET',
		`/hops/${hopId}`
	);
	const split = {
		...{ radioCode: 'RU-07C', cableCode: 'CX-10', cableLengthM: 46, indoorUnitCode: 'IU-C7' },
		...{ secondDishCode: '', secondDishOffsetM: 0 }
	};
	await reissue(planner, hopId, {
		configuration: { ...plan.configuration, kind: 'single' },
		ends: { A: { ...plan.ends.A, ...split }, B: { ...plan.ends.B, ...split } }
	});
	const crews = await twoCrews(browser);
	const done = await buildBoth(crews, hopId);
	for (const key of [
		'boards',
		'fillers',
		'optics',
		'entry',
		'continuity',
		'insulation',
		'cable-loss',
		'voltage'
	]) {
		expect(done.B).toContain(key);
	}
	await toBench(crews, hopId);
	const first = (await follow(crews)).at(-1)!.startsWith('A') ? 'A' : 'B';
	await fixBoth(crews, hopId, first, 'Go on to accept');
	await closeAndSign(browser, crews, hopId);
});
