import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import type { HopPlan } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import { adjusterAngleDeg, adjusterTurns } from '#core/sweep/adjusterScale';
import { freshHop } from './building';
import { follow, toBench, type Crews } from './follow';
import { api, expect, open, person, test } from './people';

/** One press at the polarization bench, by what its screen says; what kind of press it was. */
async function press(page: Page, far: 'A' | 'B'): Promise<string> {
	const panel = page.getByTestId('next-step');
	const step = (await panel.getAttribute('data-step'))!;
	const turned = page.getByRole('button', { name: 'Turn it there' });
	if (step === 'turn') {
		await turned.click();
		await expect(panel).not.toHaveAttribute('data-step', 'turn');
	} else if (step === 'hand-over') {
		await panel.getByRole('button', { name: `Hand over the baton to ${far}` }).click();
	}
	if (step === 'turn' || step === 'read') {
		for (const plane of ['vertical', 'horizontal']) {
			const button = panel.getByRole('button', { name: `sends ${plane}` });
			await expect(button).toBeEnabled();
			await button.click();
			await expect(button).toBeEnabled();
		}
	}
	return step;
}

test('two crews align a dual-polarized hop, then turn the feed for the least cross-polar signal', async ({
	browser
}) => {
	test.setTimeout(600_000);
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Dual ${randomUUID()}`);
	const a = await person(browser, 'crew-a');
	const b = await person(browser, 'crew-b');
	const crews: Crews = { A: a.page, B: b.page };

	await open(a.page, `/hops/${hopId}/a/polarize`);
	await expect(a.page.getByRole('link', { name: 'Go to align' })).toBeVisible();
	await toBench(crews, hopId);
	await follow(crews);
	for (const end of ['A', 'B'] as const) {
		await open(crews[end], `/hops/${hopId}/${end.toLowerCase()}/polarize`);
	}
	const holder = (await a.page.getByText('Your move · you hold the baton').count()) ? 'A' : 'B';
	const other = holder === 'A' ? 'B' : 'A';
	const bay = crews[holder].getByTestId(`mast-${holder}`).getByRole('link', { name: /Polarize/ });
	await expect(bay).not.toContainText('done');

	const pressed: string[] = [];
	for (let i = 0; i < 16; i++) {
		const rows = crews[holder].locator(`tr[data-verdict]`, {
			has: crews[holder].locator(`strong.end-${holder}`)
		});
		const verdicts = await rows.evaluateAll((list) =>
			list.map((row) => (row as HTMLElement).dataset.verdict)
		);
		if (verdicts.every((verdict) => verdict === 'reached')) break;
		pressed.push(await press(crews[holder], other));
	}
	expect(pressed[0]).toBe('read');
	expect(pressed).toContain('turn');
	// Its own are good: it hands over, and does not ask to read them for ever.
	await expect(crews[holder].getByTestId('next-step')).toHaveAttribute('data-step', 'hand-over');
	await press(crews[holder], other);
	await expect(crews[holder].getByTestId('next-step')).toHaveAttribute('data-step', 'wait');
	// The far end has only to look: one feed turned puts both directions right.
	for (const plane of ['vertical', 'horizontal']) {
		await crews[other]
			.getByTestId('next-step')
			.getByRole('button', { name: `sends ${plane}` })
			.click();
	}
	for (const page of [a.page, b.page]) {
		await expect(page.getByTestId('next-step')).toHaveAttribute('data-step', 'reached', {
			timeout: 40_000
		});
		await expect(page.locator('tr[data-verdict=reached]')).toHaveCount(4);
	}
	await expect(bay).toContainText('done');
	await a.page.getByRole('link', { name: 'Go on to fix' }).click();
	await expect(a.page.getByRole('heading', { name: /^Fix A/ })).toBeVisible();
});

test('on a real hop both ports are read in volts, each by the curve of its own radio', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const name = `By meter ${randomUUID()}`;
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', name, { practice: false });
	const a = await person(browser, 'crew-a', { width: 390, height: 844 });
	const b = await person(browser, 'crew-b');
	await toBench({ A: a.page, B: b.page }, hopId);
	const { planRevision } = await api<{
		planRevision: {
			input: Pick<HopPlanInput, 'ends'>;
			plan: Pick<HopPlan, 'dish' | 'received'>;
		};
	}>(planner.page, 'GET', `/hops/${hopId}/as-built.json`);
	const { input, plan } = planRevision;
	const said = (end: 'A' | 'B', kind: string, payload: object): object => ({
		...{ id: randomUUID(), end, kind, recordedAt: new Date().toISOString(), payload }
	});
	/** What a crew reads about the middle of a main lobe, after which it hands over. */
	const aimed = (end: 'A' | 'B', to: 'A' | 'B'): object[] => [
		...(['azimuth', 'tilt'] as const).flatMap((axis) => {
			const adjuster = input.ends[end].mount[axis];
			const { beamwidthDeg } = plan.dish[end];
			const half = adjusterTurns(adjuster, beamwidthDeg / 2);
			return [-half, half, 0].flatMap((toTurns) => {
				const off = adjusterAngleDeg(adjuster, toTurns) / beamwidthDeg;
				const levelDbm = plan.received[end].plannedLevelDbm - 12 * off ** 2;
				return [
					said(end, 'move', { axis, toTurns, viaTurns: [], source: 'hand' }),
					said(end, 'reading', { volts: null, levelDbm, source: 'hand', purpose: 'watch' })
				];
			});
		}),
		said(end, 'baton', { to, how: 'handed' })
	];
	const holds = (await a.page.getByText('Your move · you hold the baton').count()) ? 'A' : 'B';
	const other = holds === 'A' ? 'B' : 'A';
	await api(a.page, 'POST', `/hops/${hopId}/records`, {
		records: [...aimed(holds, other), ...aimed(other, holds)]
	});

	await open(a.page, `/hops/${hopId}/a/polarize`);
	const dialog = a.page.getByRole('dialog');
	const type = async (volts: string, keep: string): Promise<void> => {
		for (const key of volts) {
			const called = key === '.' ? 'Decimal point' : key;
			await dialog.getByRole('button', { name: called, exact: true }).click();
		}
		await dialog.getByRole('button', { name: keep }).click();
	};
	const panel = a.page.getByTestId('next-step');
	await panel.getByRole('button', { name: 'B sends vertical' }).click();
	await expect(dialog).toContainText('Same polarization at A: radio 1');
	// What the port cannot give goes no further.
	await type('9', 'On to the other');
	await expect(dialog).toContainText('Same polarization at A: radio 1');
	await type('1.5', 'On to the other');
	await expect(dialog).toContainText('Other polarization at A: radio 2');
	await type('0.6', 'Keep both');
	await expect(dialog).toHaveCount(0);
	const row = a.page.locator('tr[data-verdict]', { hasText: 'A, vertical' });
	await expect(row).not.toHaveAttribute('data-verdict', 'missing');
	const { records } = await api<{ records: { kind: string; payload: object }[] }>(
		a.page,
		'GET',
		`/hops/${hopId}/records?after=0`
	);
	const read = records.find(({ kind }) => kind === 'discrimination')!;
	expect(read.payload).toMatchObject({ sent: 'vertical', coVolts: 1.5, crossVolts: 0.6 });
});
