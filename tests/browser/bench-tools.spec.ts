import type { Page } from '@playwright/test';
import { choose, expect, hopIdOf, open, person, test } from './people';

/** Both of its ends are in the alignment state when the demo begins. */
const HOP = 'Tern Stack to Kelp Head';

/** A bench meter on a made-up serial port: answers the question it is asked with `window.meterSays`. */
async function plugInMeter(page: Page): Promise<void> {
	await page.addInitScript(() => {
		const world = window as unknown as {
			meterSays: string | null;
			asked: string[];
			unplug: () => void;
		};
		world.meterSays = '+1.100000E+00';
		world.asked = [];
		const port = {
			readable: null as ReadableStream<Uint8Array> | null,
			writable: null as WritableStream<Uint8Array> | null,
			open(options: { baudRate: number }): Promise<void> {
				world.asked.push(`open ${options.baudRate}`);
				let feed!: ReadableStreamDefaultController<Uint8Array>;
				port.readable = new ReadableStream({ start: (controller) => (feed = controller) });
				world.unplug = () => feed.error(new Error('gone'));
				port.writable = new WritableStream({
					write(chunk) {
						world.asked.push(new TextDecoder().decode(chunk));
						if (world.meterSays === null) return;
						// The answer comes in two pieces, as it does from a slow line.
						const bytes = new TextEncoder().encode(`${world.meterSays}\r\n`);
						feed.enqueue(bytes.slice(0, 4));
						feed.enqueue(bytes.slice(4));
					}
				});
				return Promise.resolve();
			},
			close: () => Promise.resolve()
		};
		Object.defineProperty(navigator, 'serial', {
			value: { requestPort: () => Promise.resolve(port) }
		});
	});
}

const says = (page: Page, text: string | null): Promise<void> =>
	page.evaluate((value) => {
		(window as unknown as { meterSays: string | null }).meterSays = value;
	}, text);

test.describe.serial('the tools of the bench', () => {
	let hopId = '';

	test.beforeAll(async ({ browser }) => {
		const { page, context } = await person(browser, 'crew-a');
		hopId = await hopIdOf(page, HOP);
		await context.close();
	});

	test('a bench meter on a serial port reads, drops at once, overloads, falls silent and is unplugged', async ({
		browser
	}) => {
		const { page } = await person(browser, 'crew-a');
		await plugInMeter(page);
		await open(page, `/hops/${hopId}/a/align`);
		await page.getByRole('button', { name: 'Meter: simulated' }).click();
		await choose(page, 'Speed of the port, baud', '19200');
		await page.getByRole('button', { name: 'Choose the port and connect' }).click();
		await expect(page.getByTestId('meter')).toContainText('Bench meter on the serial port');
		const volts = page.getByRole('region', { name: 'Shortfall well' });
		await expect(volts).toContainText('1.100 V');
		expect(
			await page.evaluate(() => (window as unknown as { asked: string[] }).asked.slice(0, 2))
		).toEqual(['open 19200', 'MEAS:VOLT:DC?\n']);

		// What is watched goes into the record, where it came from with it.
		await expect
			.poll(async () => {
				const kept = await page.evaluate(async (id) => {
					const answer = await fetch(`/api/v1/hops/${id}/records?limit=2000`);
					return (await answer.json()) as { records: { payload: { source?: string } }[] };
				}, hopId);
				return kept.records.filter((record) => record.payload.source === 'serial').length;
			})
			.toBeGreaterThan(0);

		await says(page, '0.95');
		await expect(volts).toContainText('0.950 V');
		await says(page, '9.9E37');
		await expect(page.getByText('The meter shows overload')).toBeVisible();
		await says(page, 'ERR');
		await expect(page.getByText('answered “ERR”')).toBeVisible();
		await says(page, '6.2');
		await expect(page.getByText('This port cannot give that: pick-up')).toBeVisible();
		await says(page, null);
		await expect(page.getByText('The meter does not answer')).toBeVisible();
		await says(page, '1.0');
		await expect(volts).toContainText('1.000 V');
		await expect(page.getByText('The meter does not answer')).toHaveCount(0);

		// A sweep takes the meter's reading at each position, nothing is typed.
		await page.getByRole('button', { name: 'Sweep tilt here' }).click();
		for (let i = 0; i < 5; i++) {
			await says(page, (0.9 + 0.03 * i).toFixed(3));
			await expect(volts).toContainText(`${(0.9 + 0.03 * i).toFixed(3)} V`);
			await page.getByRole('button', { name: 'Take the reading there' }).click();
			await expect(page.getByText(`${i + 1} of`)).toBeVisible();
		}
		await page.getByRole('button', { name: 'End the sweep here' }).click();
		await expect(page.getByText('Last sweep, tilt')).toBeVisible();

		await page.evaluate(() => (window as unknown as { unplug: () => void }).unplug());
		await expect(page.getByText('unplugged')).toBeVisible();
		await expect(page.getByRole('button', { name: 'Meter: typed' })).toBeVisible();
	});

	test('a recorded log is played as a meter, and a broken one is refused at its line', async ({
		browser
	}) => {
		const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
		await open(page, `/hops/${hopId}/a/align`);
		await page.getByRole('button', { name: 'Meter: simulated' }).click();
		const file = page.getByLabel('Log file');
		const csv = (text: string): { name: string; mimeType: string; buffer: Buffer } => ({
			name: 'log.csv',
			mimeType: 'text/csv',
			buffer: Buffer.from(text)
		});
		await file.setInputFiles(csv('elapsed_s,level_v\n0,1\n2,1.1\n1,1.2\n'));
		await expect(page.getByText('Line 4, column elapsed_s: the time goes back')).toBeVisible();
		await file.setInputFiles(csv('elapsed_s,level_v\n0,1\n1,x\n'));
		await expect(page.getByText('Line 3, column level_v')).toBeVisible();
		const rows = Array.from({ length: 200 }, (_, i) => `${i / 10},${(1 + i / 1000).toFixed(3)}`);
		await file.setInputFiles(csv(`elapsed_s,level_v\n${rows.join('\n')}\n`));
		await choose(page, 'Speed', 'Five times');
		await page.getByRole('button', { name: 'Play 200 readings' }).click();
		await expect(page.getByTestId('meter')).toContainText('Recorded level log');
		// At its end the meter is gone, and readings are typed again.
		await expect(page.getByTestId('meter')).toHaveCount(0, { timeout: 30_000 });
	});

	test('the large view shows what to do and how far below plan, tone and speech are off until asked', async ({
		browser
	}) => {
		const { page } = await person(browser, 'crew-a', { width: 390, height: 844 });
		await page.addInitScript(() => {
			const world = window as unknown as { said: string[] };
			world.said = [];
			speechSynthesis.speak = (utterance: SpeechSynthesisUtterance): void => {
				world.said.push(utterance.text);
			};
		});
		await open(page, `/hops/${hopId}/a/align`);
		const said = (): Promise<string[]> =>
			page.evaluate(() => (window as unknown as { said: string[] }).said);
		await page
			.getByTestId('next-step')
			.getByRole('button', { name: 'Read the meter' })
			.first()
			.click();
		await expect(page.getByTestId('shortfall')).toBeVisible();
		expect(await said()).toEqual([]);
		await page.getByRole('button', { name: 'Say it' }).click();
		await expect.poll(said).not.toEqual([]);
		expect((await said())[0]).toMatch(/point \d (below|above)\./);
		await page.getByRole('button', { name: 'Tone', exact: true }).click();
		await expect(page.getByRole('button', { name: 'Tone off' })).toHaveAttribute(
			'aria-pressed',
			'true'
		);

		await page.getByRole('button', { name: 'Large' }).click();
		const large = page.getByTestId('large-view');
		await expect(large.getByTestId('large-shortfall')).toHaveText(
			await page.getByTestId('shortfall').innerText()
		);
		await expect(large).toContainText('dB below plan');
		await page.keyboard.press('Escape');
		await expect(large).toHaveCount(0);
	});

	test('the baton is asked for at one end and seen at the other; one crew for both is one switch', async ({
		browser
	}) => {
		const a = await person(browser, 'crew-a');
		const b = await person(browser, 'crew-b');
		await open(a.page, `/hops/${hopId}/a/align`);
		await open(b.page, `/hops/${hopId}/b/align`);
		await b.page.getByRole('button', { name: 'Ask for the baton' }).click();
		await expect(b.page.getByRole('button', { name: 'A was asked for the baton' })).toBeDisabled();
		await expect(a.page.getByTestId('alert')).toContainText('B asks for the baton.');
		// A has just recorded something: its baton is not to be taken.
		await expect(b.page.getByRole('button', { name: 'Take the baton over' })).toHaveCount(0);

		await a.page.getByRole('button', { name: 'One crew for both ends' }).click();
		await expect(a.page.getByText('One crew · you work here')).toBeVisible();
		await expect(b.page.getByText('One crew · it works at A')).toBeVisible();
		await a.page.getByRole('button', { name: 'A crew at each end' }).click();
		await expect(b.page.getByText('A holds the baton', { exact: true })).toBeVisible();
	});

	test('an unknown adjuster is measured by the beam, and turns count otherwise from then on', async ({
		browser
	}) => {
		const { page } = await person(browser, 'crew-a');
		await open(page, `/hops/${hopId}/a/align`);
		await page.getByRole('button', { name: 'Measure the adjuster' }).click();
		await expect(page.getByText('Sweep the azimuth over the main lobe first')).toBeVisible();
		await page.getByRole('button', { name: 'Close' }).click();
		// A lobe half as wide as this dish's beam, in the plan's scale: one turn does twice as much.
		const { curve, beamDeg } = await page.evaluate(async (id) => {
			const answer = await fetch(`/api/v1/hops/${id}/as-built.json`);
			const { planRevision } = (await answer.json()) as {
				planRevision: {
					input: { ends: { A: { radio: { levelPort: { curve: [number, number][] } } } } };
					plan: { dish: { A: { beamwidthDeg: number } } };
				};
			};
			const { input, plan } = planRevision;
			return {
				curve: input.ends.A.radio.levelPort.curve,
				beamDeg: plan.dish.A.beamwidthDeg
			};
		}, hopId);
		const rows = Array.from({ length: 61 }, (_, i) => {
			const x = -3 + i / 10;
			const level = Math.max(-88, -50 - 12 * ((2 * x) / beamDeg) ** 2);
			return { x, level };
		});
		const volts = (level: number): number => {
			const k = Math.max(
				1,
				curve.findIndex(([l]) => l >= level)
			);
			const [l0, v0] = curve[k - 1]!;
			const [l1, v1] = curve[k]!;
			return v0 + ((level - l0) / (l1 - l0)) * (v1 - v0);
		};
		await page.getByRole('button', { name: 'Import a sweep' }).click();
		await page.getByLabel('File', { exact: true }).setInputFiles({
			name: 'sweep.csv',
			mimeType: 'text/csv',
			buffer: Buffer.from(
				`elapsed_s,position_deg,level_v\n${rows
					.map(({ x, level }, i) => `${i},${x.toFixed(3)},${volts(level).toFixed(4)}`)
					.join('\n')}\n`
			)
		});
		await page.getByRole('button', { name: 'Take it as a sweep of azimuth' }).click();
		await expect(page.getByText('Last sweep, azimuth')).toBeVisible();
		await page.getByRole('button', { name: 'Measure the adjuster' }).click();
		const dialog = page.getByRole('dialog');
		const before = Number(/counts as ([\d.]+)°/.exec(await dialog.innerText())![1]);
		await dialog.getByRole('button', { name: 'Count turns so from now on' }).click();
		await expect(dialog).toHaveCount(0);
		await page.getByRole('button', { name: 'Measure the adjuster' }).click();
		await expect(dialog).toContainText('measured here');
		const after = Number(/counts as ([\d.]+)°/.exec(await dialog.innerText())![1]);
		expect(after / before).toBeGreaterThan(1.75);
		expect(after / before).toBeLessThan(2.25);
	});
});
