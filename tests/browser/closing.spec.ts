import { randomUUID } from 'node:crypto';
import { freshHop } from './building';
import {
	atClosing,
	confirmAlignmentState,
	expect,
	open,
	person,
	recordOperating,
	test
} from './people';

test('a drawn signature keeps every stroke, and the final level shows where it was read', async ({
	browser
}) => {
	const planner = await person(browser, 'planner');
	const hopId = await freshHop(planner.page, 'Hollow Ness to Kelp Head', `Sign ${randomUUID()}`);
	const { page } = await person(browser, 'crew-a');
	await open(page, `/hops/${hopId}/a/power`);
	await confirmAlignmentState(page, 'A');
	await open(page, `/hops/${hopId}/a/accept`);

	// Level first, operating state after it, then the rest.
	const panel = page.getByTestId('next-step');
	await expect(panel).toHaveAttribute('data-step', 'final-level');
	await expect(page.getByTestId('final-level')).toHaveCount(0);
	await page.getByRole('button', { name: 'Read the final level at A' }).click();
	// Nothing was aligned: a level so far below stays in view where it was read, and is gone on from by hand.
	await expect(page.getByTestId('final-level')).toContainText('dBm');
	await expect(panel).toHaveAttribute('data-step', 'final-level');
	await page.getByRole('button', { name: 'Go on: Back to operation at A' }).click();
	await expect(panel.getByRole('heading', { name: 'Back to operation at A' })).toBeFocused();
	// A test that nobody can run yet is put off; a look is not.
	await atClosing(page, 'look');
	await expect(page.getByRole('button', { name: /go on without/ })).toHaveCount(0);
	await atClosing(page, 'test');
	await page.getByRole('button', { name: 'No test yet: go on without' }).click();
	await expect(panel).toHaveAttribute('data-step', 'operating');
	await recordOperating(page, 'A');
	await expect(page.getByTestId('just-done')).toContainText('Confirmed by the crew.');
	await expect(panel).toHaveAttribute('data-step', 'look');

	await atClosing(page, 'signature');
	const box = page.getByTestId('crew-signature');
	await box.getByLabel('Name of the signer').fill('Ode Larrin');
	await box.getByRole('button', { name: 'Draw a signature' }).click();
	const board = box.getByLabel('Draw your signature here');
	await board.scrollIntoViewIfNeeded();
	await expect(board).not.toHaveAttribute('width', '300');
	/** Inked pixels in the left and in the right half of the board. */
	const inked = (): Promise<[number, number]> =>
		board.evaluate((canvas: HTMLCanvasElement) => {
			const { data, width } = canvas
				.getContext('2d')!
				.getImageData(0, 0, canvas.width, canvas.height);
			const halves: [number, number] = [0, 0];
			for (let i = 3; i < data.length; i += 4) {
				if (data[i]! > 40) halves[((i - 3) / 4) % width < width / 2 ? 0 : 1] += 1;
			}
			return halves;
		});
	const stroke = async (from: number, to: number): Promise<void> => {
		const at = (await board.boundingBox())!;
		const y = at.y + at.height / 2;
		await page.mouse.move(at.x + at.width * from, y - 20);
		await page.mouse.down();
		await page.mouse.move(at.x + at.width * ((from + to) / 2), y + 20, { steps: 5 });
		await page.mouse.move(at.x + at.width * to, y, { steps: 5 });
		await page.mouse.up();
	};
	await stroke(0.1, 0.3);
	await expect.poll(async () => (await inked())[0]).toBeGreaterThan(100);
	const [first] = await inked();
	await stroke(0.6, 0.9);
	await expect.poll(async () => (await inked())[1]).toBeGreaterThan(100);
	expect((await inked())[0]).toBe(first);

	await box.getByRole('button', { name: 'Sign for the crew' }).click();
	await expect(page.getByTestId('just-done')).toContainText('Ode Larrin');
	// It shows once it is on the device; what is looked at is what the server has.
	await expect(page.getByTestId('record-state')).toContainText('all sent');
	// What is kept is the picture of both strokes.
	const kept = await page.evaluate(async (id) => {
		const { records } = (await (await fetch(`/api/v1/hops/${id}/records?limit=500`)).json()) as {
			records: { kind: string; payload: { drawing?: string } }[];
		};
		const drawing = records.findLast((record) => record.kind === 'crew-signature')!.payload
			.drawing!;
		const image = new Image();
		image.src = drawing;
		await image.decode();
		const canvas = new OffscreenCanvas(image.width, image.height);
		const brush = canvas.getContext('2d')!;
		brush.drawImage(image, 0, 0);
		const { data, width } = brush.getImageData(0, 0, image.width, image.height);
		const halves: [number, number] = [0, 0];
		for (let i = 3; i < data.length; i += 4) {
			if (data[i]! > 40) halves[((i - 3) / 4) % width < width / 2 ? 0 : 1] += 1;
		}
		return halves;
	}, hopId);
	expect(kept[0]).toBeGreaterThan(100);
	expect(kept[1]).toBeGreaterThan(100);
});
