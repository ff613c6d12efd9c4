import { directGeodesic, type GeoPoint } from '../../src/core/geodesy/geodesic';
import { api, expect, open, person, test } from './people';

const typed = ({ latitudeDeg, longitudeDeg }: GeoPoint): string =>
	`${latitudeDeg.toFixed(6)}, ${longitudeDeg.toFixed(6)}`;

test('whether a link is possible is answered plainly on a phone: yes, no and why, how high', async ({
	browser
}) => {
	const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
	const { rows } = await api<{ rows: GeoPoint[] }>(page, 'GET', '/sites?q=Oar%20Haven');
	const [quay] = rows;
	await open(page, '/hubs');
	await page.getByRole('link', { name: 'Is a link possible?' }).click();
	const answer = page.getByTestId('possible-answer');
	await expect(answer).toContainText('the answer comes here');
	await page.getByLabel('Place A').fill('by the quay');
	await expect(page.getByText('This is no place: type latitude and longitude.')).toBeVisible();
	await page.getByLabel('Place A').fill(typed(quay!));
	await page.getByLabel('Place B').fill(typed(directGeodesic(quay!, 35, 500)));
	// What may be radiated is not known yet: that is no yes.
	await expect(answer.getByRole('heading')).toHaveText('Perhaps');
	await expect(answer).toContainText('Nobody has said what may be radiated there');
	await page.getByLabel('EIRP limit there').fill('36');
	await page.getByLabel('Radio at both').click();
	await page.getByRole('option', { name: /5\.8 GHz, dish/ }).click();
	await expect(answer.getByRole('heading')).toHaveText('Yes');
	await expect(answer).toContainText(/−\d+\.\d dBm/);
	await expect(answer).toContainText(/\d+ Mbit\/s/);
	await expect(answer).toContainText(/From A, look\s*35\.0°/);

	await page.getByLabel('Trees between').fill('18');
	await expect(answer.getByRole('heading')).toHaveText('No, not like this');
	await expect(answer).toContainText(/A tree \d+ m from A stands \d+\.\d m into the line of sight/);
	await expect(answer).toContainText('what just passes in winter is gone in summer');
	await expect(page.getByTestId('how-high')).toContainText(
		/\d+\.\d m higher at both clears it; alone, A would need/
	);

	// Wrong input is said at its field, the answer waits; a reload keeps what was typed.
	await page.getByLabel('Height at A').fill('high');
	await expect(page.getByText('This is no number.')).toBeVisible();
	await expect(answer).toContainText('the answer comes here');
	await page.getByLabel('Height at A').fill('30');
	await page.getByLabel('Height at B').fill('30');
	await expect(answer.getByRole('heading')).toHaveText('Yes');
	await page.reload();
	await page.waitForSelector('html[data-alive]');
	await expect(page.getByLabel('Height at A')).toHaveValue('30');
	await expect(answer.getByRole('heading')).toHaveText('Yes');

	// A place picked on the map comes with the address; the other stays as it was typed.
	const other = typed(directGeodesic(quay!, 35, 450));
	await page.getByRole('link', { name: 'Pick on the map' }).click();
	await page.waitForURL(/\/map/);
	await open(page, `/possible?b=${other.replace(' ', '')}`);
	await expect(page.getByLabel('Place B')).toHaveValue(other);
	await expect(page.getByLabel('Place A')).toHaveValue(typed(quay!));
	await expect(answer).toContainText('0.45 km');
});
