import { spawn } from 'node:child_process';
import { freePort } from '../../scripts/lib/mariadb.mjs';
import { ROOT, waitForAnswer } from '../../scripts/lib/setup.mjs';

export interface RunningServer {
	address: string;
	port: number;
	/** Ends the process as a power cut would. */
	kill(): Promise<void>;
	/** Goes silent without closing anything, as a line that is cut off somewhere does; and is heard again. */
	fallSilent(): void;
	speakAgain(): void;
}

/** One process of the built application on the browser tests' database, or as the settings given say. */
export async function startServer(
	at?: number,
	settings: Record<string, string> = {}
): Promise<RunningServer> {
	const port = at ?? (await freePort());
	const address = `http://127.0.0.1:${port}`;
	const server = spawn(process.execPath, ['scripts/start.mjs'], {
		cwd: ROOT,
		stdio: ['ignore', 'inherit', 'inherit'],
		env: {
			...process.env,
			SKIAXIS_DATABASE_URL: process.env.SKIAXIS_TEST_DATABASE_URL,
			SKIAXIS_SECRET: 'browser-tests-only-secret',
			SKIAXIS_DEMO: '1',
			SKIAXIS_LOG_LEVEL: 'error',
			HOST: '127.0.0.1',
			PORT: String(port),
			ORIGIN: address,
			...settings
		}
	});
	let exited = false;
	const gone = new Promise<void>((resolve) =>
		server.once('exit', () => {
			exited = true;
			resolve();
		})
	);
	const kill = async (): Promise<void> => {
		if (exited) return;
		server.kill('SIGKILL');
		await gone;
	};
	const ready = await waitForAnswer(`${address}/readyz`, {
		seconds: 120,
		failed: () => exited
	});
	if (!ready) {
		await kill();
		throw new Error('the application did not become ready');
	}
	return {
		...{ address, port, kill },
		fallSilent: () => void server.kill('SIGSTOP'),
		speakAgain: () => void server.kill('SIGCONT')
	};
}
