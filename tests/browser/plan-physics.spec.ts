import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { freshHop } from './building';
import { api, expect, hopIdOf, open, person, test } from './people';

async function sheet(page: Page, hopId: string, name: string): Promise<void> {
	await open(page, `/hops/${hopId}/a/prepare`);
	await page.getByRole('tab', { name, exact: true }).click();
}

test('the sea under a path: its swing is told, drawn by tide, and shores the wrong way round are named', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await sheet(page, await hopIdOf(page, 'Lantern Reach to Hollow Ness'), 'Path');
	const told = page.getByTestId('reflections');
	await expect(told).toContainText(/the sea 1\d\.\d\d km from A reflects/);
	await told.getByText('Against air, tide and height').first().click();
	await expect(told).toContainText('Dotted at low water, solid at mean water');
	await expect(told).toContainText(/A second dish hears best .* \d\.\d m/);
	// Rough ground instead of the sea: hardly anything is left.
	await page.getByLabel('Roughness of land').fill('8');
	await page.getByRole('button', { name: 'Remove water 1' }).click();
	await expect(told).toContainText('None that moves the level by half a decibel');
	await page.getByRole('button', { name: 'Add water' }).click();
	await page.getByLabel('From A, nearer shore').fill('9');
	await page.getByLabel('From A, farther shore').fill('4');
	await page.getByRole('tab', { name: 'Review' }).click();
	const finding = page.locator('[data-finding=water-reversed]');
	await expect(finding).toContainText('is not beyond the nearer one');
	await finding.getByRole('button', { name: 'Mend it' }).click();
	await expect(page.getByLabel('From A, farther shore')).toBeFocused();
});

test('what the climate changes, both directions, and how far apart two dishes should stand', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	await sheet(page, await hopIdOf(page, 'Upper Fell to Lantern Reach'), 'Availability');
	await page.getByText('What the climate values change').click();
	const study = page.getByTestId('climate-study');
	await expect(study.getByRole('row')).toHaveCount(4);
	await expect(study.getByRole('row', { name: /Rain rate/ })).toContainText('with 29');
	await page.getByText('How far apart the two dishes should stand').click();
	await expect(page.getByTestId('best-spacing')).toContainText(/As good as it gets from \d+ m on/);
	await expect(page.getByTestId('availability')).toContainText('the worse direction');
	await page.getByLabel('Directions counted').click();
	await page.getByRole('option', { name: 'both' }).click();
	await expect(page.getByTestId('availability')).toContainText('both directions at once');
});

test('two hops of one channel side by side: each hears the other, a quieter channel is named, the level is taken into the plan', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const made = async (northDeg: number): Promise<string> => {
		const site = async (eastDeg: number): Promise<string> => {
			const { id } = await api<{ id: string }>(page, 'POST', '/sites', {
				name: `Plain ${randomUUID().slice(0, 8)}`,
				latitudeDeg: 20 + northDeg,
				longitudeDeg: 60 + eastDeg,
				groundAmslM: 100
			});
			return id;
		};
		const end = {
			...{ radioCode: 'RU-18', dishCode: 'DP-060-18', mountCode: 'MB-S', feederCode: 'FD-0' },
			...{ feederLengthM: 0, antennaHeightAglM: 25, transmitPowerDbm: 17, alignmentPowerDbm: 17 }
		};
		const { id } = await api<{ id: string }>(page, 'POST', '/hops', {
			name: `Side by side ${randomUUID().slice(0, 8)}`,
			...{ siteAId: await site(0), siteBId: await site(0.1), practice: false },
			plan: {
				...{ polarization: 'vertical', channelWidthMhz: 28, operatingModulation: '64 QAM' },
				workDate: '2026-11-24',
				ends: {
					A: { ...end, transmitFrequencyGhz: 17.8, subBandUnit: '1L' },
					B: { ...end, transmitFrequencyGhz: 18.81, subBandUnit: '1H' }
				}
			}
		});
		return id;
	};
	const own = await made(0);
	await made(0.005);
	await sheet(page, own, 'Channel');
	await page.getByRole('button', { name: 'Look at the network' }).click();
	const told = page.getByTestId('interference');
	await expect(told).toContainText(/raises every threshold by \d+\.\d dB/);
	await expect(told).toContainText(/Side by side [\s\S]*on the same channel/);
	await expect(told).toContainText('What this hop does to others');
	await expect(told).toContainText(/MHz higher|MHz lower|the other polarization/);
	await page.getByRole('tab', { name: 'Levels' }).click();
	await page.getByRole('tab', { name: 'Channel', exact: true }).click();
	await page.getByRole('button', { name: 'Look at the network' }).click();
	await page.getByRole('button', { name: 'Take these levels into the plan' }).click();
	await expect(page.getByLabel('Interference at A')).toHaveValue(/^-\d+\.\d$/);
	await expect(page.getByLabel('Interference at B')).toHaveValue(/^-\d+\.\d$/);
	await page.getByRole('button', { name: 'Save the plan' }).click();
	await expect(page.getByText('Saved.', { exact: true })).toBeVisible();
	await page.getByLabel('Interference at A').fill('12');
	await page.getByRole('button', { name: 'Save the plan' }).click();
	await expect(page.getByText(/Interference must be/).first()).toBeVisible();
});

test('services get the next free port, are refused where none is, and are there after saving', async ({
	browser
}) => {
	const { page } = await person(browser, 'planner');
	const hopId = await freshHop(page, 'Lantern Reach to Kelp Head', `Services ${randomUUID()}`);
	await sheet(page, hopId, 'Sites and parts');
	const services = page.getByTestId('services');
	await services.getByRole('button', { name: 'Add a service' }).click();
	await expect(services.getByLabel('Port at B').last()).toHaveValue('4');
	await services.getByLabel('Service', { exact: true }).last().fill('Weather mast');
	await services.getByLabel('Mbit/s').last().fill('1');
	// The first one's port at A once more, on a slot that a closed unit does not have.
	await services.getByLabel('Slot at A').last().fill('3');
	await page.getByRole('tab', { name: 'Review' }).click();
	await expect(page.locator('[data-finding=service-port]')).toContainText('it has no slot 3');
	await page.getByRole('tab', { name: 'Sites and parts' }).click();
	await services.getByLabel('Slot at A').last().fill('0');
	await services.getByLabel('Port at A').last().fill('1');
	await page.getByRole('tab', { name: 'Review' }).click();
	const twice = page.locator('[data-finding=service-port-twice]');
	await expect(twice).toContainText(
		'Weather mast and Fog-signal telemetry plug into one port at A'
	);
	await twice.getByRole('button', { name: 'Mend it' }).click();
	await expect(services.getByLabel('Port at A').last()).toBeFocused();
	await services.getByLabel('Port at A').last().fill('9');
	await services.getByRole('button', { name: 'Remove service 2' }).click();
	await page.getByRole('button', { name: 'Save the plan' }).click();
	await expect(page.getByText('Saved.').first()).toBeVisible();
	await sheet(page, hopId, 'Sites and parts');
	await expect(services.getByLabel('Service', { exact: true })).toHaveCount(3);
	await expect(services.getByLabel('Service', { exact: true }).last()).toHaveValue('Weather mast');
	await expect(services.getByLabel('Port at A').last()).toHaveValue('9');
});
