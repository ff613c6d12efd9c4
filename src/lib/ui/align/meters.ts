import { MEASURE_DC_VOLTS, readScpiAnswer, takeLines } from '#core/meter/scpi';

/** What a running meter tells. */
export interface MeterListener {
	onvolts: (volts: number, atMs: number) => void;
	ontrouble: (message: string) => void;
	onend: () => void;
}

/** A meter that gives readings by itself, from whatever source. */
export interface RunningMeter {
	/** What it is, for the screen. */
	name: string;
	/** Last digit of what it gives, V. */
	resolutionV: number;
	stop(): Promise<void>;
}

/** The part of the browser's serial port that is used here. */
export interface SerialPortLike {
	open(options: { baudRate: number }): Promise<void>;
	close(): Promise<void>;
	readable: ReadableStream<Uint8Array> | null;
	writable: WritableStream<Uint8Array> | null;
}

interface SerialLike {
	requestPort(): Promise<SerialPortLike>;
}

/** The browser's serial access, undefined where it has none. */
export function serialAccess(): SerialLike | undefined {
	return (navigator as unknown as { serial?: SerialLike }).serial;
}

const ASK_EVERY_MS = 200;
/** Without an answer for so long the meter is said to be silent; it is asked again all the same. */
const PATIENCE_MS = 2000;
const SERIAL_RESOLUTION_V = 0.0001;

/**
 * A bench meter on a serial port that speaks SCPI: asked for its DC voltage again and again, the next
 * time only once it has answered or has been silent for long.
 */
export async function runSerialMeter(
	port: SerialPortLike,
	baudRate: number,
	listener: MeterListener
): Promise<RunningMeter> {
	await port.open({ baudRate });
	if (!port.readable || !port.writable) throw new Error('The port cannot be read and written.');
	const reader = port.readable.getReader();
	const writer = port.writable.getWriter();
	const decoder = new TextDecoder();
	let stopped = false;
	const isStopped = (): boolean => stopped;
	let rest = '';
	let waiting: (() => void) | undefined;

	const take = (line: string): void => {
		const answer = readScpiAnswer(line);
		if (answer.kind === 'volts') listener.onvolts(answer.volts, performance.now());
		else if (answer.kind === 'overload') {
			listener.ontrouble('The meter shows overload: set it to a higher range.');
		} else listener.ontrouble(`The meter answered “${answer.text}”, which is no voltage.`);
		waiting?.();
	};
	const listen = async (): Promise<void> => {
		for (;;) {
			const { value, done } = await reader.read();
			if (done) return;
			const taken = takeLines(rest + decoder.decode(value, { stream: true }));
			rest = taken.rest;
			taken.lines.forEach(take);
		}
	};
	const ask = async (): Promise<void> => {
		while (!isStopped()) {
			await writer.write(new TextEncoder().encode(`${MEASURE_DC_VOLTS}\n`));
			const answered = await Promise.race([
				new Promise<boolean>((resolve) => (waiting = () => resolve(true))),
				pause(PATIENCE_MS).then(() => false)
			]);
			if (!answered && !isStopped()) {
				listener.ontrouble('The meter does not answer: check lead, speed and that it is on.');
			}
			await pause(ASK_EVERY_MS);
		}
	};
	const ended = (error?: unknown): void => {
		if (stopped) return;
		stopped = true;
		if (error) listener.ontrouble('The meter was unplugged or its port closed.');
		listener.onend();
	};
	void listen().then(() => ended(true), ended);
	void ask().catch(ended);
	return {
		name: 'Bench meter on the serial port',
		resolutionV: SERIAL_RESOLUTION_V,
		async stop() {
			stopped = true;
			waiting?.();
			await reader.cancel().catch(() => undefined);
			reader.releaseLock();
			await writer.close().catch(() => undefined);
			await port.close().catch(() => undefined);
		}
	};
}

export interface LoggedLevel {
	elapsedS: number;
	levelV: number;
}

/** Plays a recorded level log as a meter would give it, in its own time or faster. */
export function runReplayMeter(
	log: readonly LoggedLevel[],
	speed: number,
	listener: MeterListener
): RunningMeter {
	let i = 0;
	let timer: ReturnType<typeof setTimeout> | undefined;
	const next = (): void => {
		const entry = log[i]!;
		listener.onvolts(entry.levelV, performance.now());
		i += 1;
		const following = log[i];
		if (!following) {
			listener.onend();
			return;
		}
		timer = setTimeout(next, Math.max(0, ((following.elapsedS - entry.elapsedS) * 1000) / speed));
	};
	timer = setTimeout(next, 0);
	return {
		name: 'Recorded level log',
		resolutionV: 0.001,
		stop: () => {
			clearTimeout(timer);
			return Promise.resolve();
		}
	};
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
