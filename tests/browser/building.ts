import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { answerCard, api, expect, hopIdOf, open } from './people';

/** What a step's form asks for, read off the screen. */
async function expectedValue(page: Page): Promise<string | undefined> {
	const hint = page.locator('#field-step-value-hint');
	if ((await hint.count()) === 0) return undefined;
	const text = (await hint.innerText()).replace('Expected ', '').replaceAll('−', '-');
	const [first, second] = [...text.matchAll(/-?\d+(?:\.\d+)?/g)].map((match) => match[0]);
	// "62 ± 2 mm", "at least 26", "50 to 115 mm", "49.2, from 46.7 to 52.5 V", "4".
	if (/, from /.test(text)) return first;
	return / to /.test(text.split(':')[0]!) ? String((Number(first) + Number(second)) / 2) : first;
}

const PICTURE = 'static/icon-192.png';

/** Does the step that the screen shows, by what it says; returns its name. */
export async function doStep(page: Page): Promise<string> {
	const step = page.getByTestId('step');
	const key = (await step.getAttribute('data-step'))!;
	for (const card of ['climb', 'lift'] as const) {
		const open = page.getByTestId(`stop-card-${card}`);
		if ((await open.count()) && (await open.getByRole('listitem').count())) {
			await answerCard(page, card);
			await expect(open.getByText('Answered, go.')).toBeVisible();
		}
	}
	switch (key) {
		case 'parties':
			await page.getByLabel('Crew: name').fill('Bram Tolley');
			await page.getByLabel('Carrier or supplier: name').fill('Odo Fell');
			await page.getByRole('button', { name: 'Record who is here' }).click();
			break;
		case 'packing':
			for (const line of await page.getByTestId('packing').getByRole('listitem').all()) {
				const listed = /listed ([\d.]+)/.exec(await line.innerText())![1]!;
				await line.getByLabel(/^Found of/).fill(listed);
				await line.getByRole('button', { name: 'Count' }).click();
			}
			break;
		case 'labels':
			await readLabels(page);
			break;
		case 'chain':
		case 'chain-mounted':
			// The last one done, the screen goes on by itself.
			for (const joint of await page.locator('[data-joint]').all()) {
				const planned = /Plan: (.+)/.exec(await joint.innerText())![1]!;
				await joint.getByRole('button', { name: planned, exact: true }).click();
			}
			break;
		default: {
			const value = await expectedValue(page);
			if (value !== undefined) await page.locator('#field-step-value').fill(value);
			await readPlates(page);
			const photo = step.locator('form input[type=file]');
			if (await photo.count()) {
				await photo.setInputFiles(PICTURE);
				await expect(step.locator('form img')).toHaveCount(1);
			}
			await step.getByRole('button', { name: /^(Record it|Done)$/ }).click();
		}
	}
	await expect(page.locator(`nav button[data-step=${key}] .sr-only`)).toHaveText(', done');
	return key;
}

/** Types what a gate asks for: gear that holds anything here, and the source as the plan has it. */
async function readPlates(page: Page): Promise<void> {
	if (await page.getByLabel('Rope breaks at').count()) {
		await page.getByLabel('Rope breaks at').fill('3200');
		await page.getByLabel('Pulley rated').fill('650');
		await page.getByLabel('Sling rated').fill('1000');
		await expect(page.getByText('It holds.')).toBeVisible();
	}
	if (await page.locator('#field-source-volts').count()) {
		const volts = page.locator('#field-source-volts');
		if (!(await volts.inputValue())) await volts.fill('50');
		await page.locator('#field-source-watts').fill('300');
		await expect(page.getByText('Source and unit belong together.')).toBeVisible();
	}
}

async function readLabels(page: Page): Promise<void> {
	const count = await page.getByTestId('step').locator('ul li button').count();
	for (let i = 0; i < count; i++) {
		const form = page.getByTestId('step').locator('form', { hasText: 'Record this label' });
		const plan = await form.locator('p', { hasText: 'Plan:' }).innerText();
		// A dish that only hears has one frequency.
		const passes = [...plan.matchAll(/\d+\.\d{3}/g)].map((match) => Number(match[0]));
		await form.getByLabel('Band from').fill(String(Math.min(...passes) - 0.5));
		await form.getByLabel('Band to').fill(String(Math.max(...passes) + 0.5));
		const unit = /unit (\w+)/.exec(plan)?.[1];
		if (unit) await form.getByLabel('Sub-band unit').fill(unit);
		const title = await form.getByRole('heading').innerText();
		await form
			.getByLabel('Serial number')
			.fill(`${new URL(page.url()).pathname.split('/')[3]} ${title.slice(9)}`);
		const flange = /flange (.+?)\.?$/.exec(plan)?.[1];
		if (flange) await form.getByRole('button', { name: flange, exact: true }).click();
		await form.getByRole('button', { name: 'Record this label' }).click();
		if (i < count - 1) await expect(form.getByRole('heading')).not.toHaveText(title);
	}
}

/** Does steps until a count of them is done, or all. */
export async function doSteps(page: Page, most = Infinity): Promise<string[]> {
	const done: string[] = [];
	while (done.length < most) {
		if (await page.getByRole('heading', { name: /is built$/ }).isVisible()) break;
		done.push(await doStep(page));
	}
	return done;
}

interface PlannedHop {
	id: string;
	version: number;
	plan: { path: object };
	sites: Record<
		'A' | 'B',
		{
			id: string;
			name: string;
			latitudeDeg: number;
			longitudeDeg: number;
			groundAmslM: number;
			notes: string;
			climate: object;
			conditions: object;
		}
	>;
}

/** A copy of a demo hop under another name, issued, so that a test builds it from the crate on. */
export async function freshHop(
	planner: Page,
	from: string,
	name: string,
	{ practice = true, plantedFault = '' } = {}
): Promise<string> {
	const source = await hopIdOf(planner, from);
	const hop = await api<PlannedHop>(planner, 'GET', `/hops/${source}`);
	// Places of its own, far from the demo's: two hops on one channel at one site are an error.
	const shift = 3 + Math.random() * 20;
	const place = async (end: 'A' | 'B'): Promise<string> => {
		const {
			name: called,
			latitudeDeg,
			longitudeDeg,
			groundAmslM,
			notes,
			climate,
			conditions
		} = hop.sites[end];
		const made = await api<{ id: string }>(planner, 'POST', '/sites', {
			name: `${called} ${shift.toFixed(4)}`,
			latitudeDeg: latitudeDeg + shift,
			longitudeDeg,
			groundAmslM,
			notes,
			climate,
			conditions
		});
		return made.id;
	};
	const body = {
		name,
		siteAId: await place('A'),
		siteBId: await place('B'),
		practice,
		...(plantedFault ? { plantedFault } : {}),
		plan: { ...hop.plan, path: { ...hop.plan.path, profile: null }, landmarks: [] }
	};
	const drafted = await api<PlannedHop>(planner, 'POST', '/hops', body);
	const { findings } = await api<{ findings: { severity: string; code: string; field: string }[] }>(
		planner,
		'GET',
		`/hops/${drafted.id}/review`
	);
	const acceptances = Object.fromEntries(
		findings
			.filter((finding) => finding.severity === 'warning')
			.map((finding) => [`${finding.code} ${finding.field}`, 'Looked at on site.'])
	);
	const made = await api<PlannedHop>(planner, 'PUT', `/hops/${drafted.id}`, {
		...body,
		plan: { ...body.plan, acceptances },
		version: drafted.version
	});
	const members = await api<{ id: string }[]>(planner, 'GET', `/hops/${source}/members`);
	await api(planner, 'PUT', `/hops/${made.id}/members`, {
		memberIds: members.map((member) => member.id)
	});
	await issue(planner, made, 'For building');
	return made.id;
}

/** Issues a plan revision of a hop as it was last saved. */
async function issue(planner: Page, hop: PlannedHop, note: string): Promise<void> {
	await api(planner, 'POST', `/hops/${hop.id}/revisions`, {
		id: randomUUID(),
		version: hop.version,
		note
	});
}

/** Changes a hop's plan and issues it again. */
export async function reissue(planner: Page, hopId: string, change: object): Promise<void> {
	const { plan, sites, version, ...hop } = await api<PlannedHop & { name: string }>(
		planner,
		'GET',
		`/hops/${hopId}`
	);
	const saved = await api<PlannedHop>(planner, 'PUT', `/hops/${hopId}`, {
		name: hop.name,
		siteAId: sites.A.id,
		siteBId: sites.B.id,
		practice: true,
		version,
		plan: { ...plan, ...change }
	});
	await issue(planner, saved, 'Changed');
}

/** Both ends from the crate to the bench, by what the screens say. */
export async function buildBoth(
	crews: Record<'A' | 'B', Page>,
	hopId: string
): Promise<Record<'A' | 'B', string[]>> {
	const done: Record<'A' | 'B', string[]> = { A: [], B: [] };
	for (const end of ['A', 'B'] as const) {
		if (!crews[end].url().includes(`/${end.toLowerCase()}/build`)) {
			await open(crews[end], `/hops/${hopId}/${end.toLowerCase()}/build`);
		}
		done[end] = await doSteps(crews[end]);
		await expect(crews[end].getByRole('heading', { name: `${end} is built` })).toBeVisible();
	}
	return done;
}
