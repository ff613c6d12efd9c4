/** `npm start`: the built application, settings from the environment. */
import { existsSync } from 'node:fs';
import { ROOT } from './lib/setup.mjs';

const missing = ['SKIAXIS_DATABASE_URL', 'SKIAXIS_SECRET'].filter((name) => !process.env[name]);
if (missing.length) {
	console.error(`Set ${missing.join(' and ')} (see the configuration table of the README).`);
	process.exit(2);
}
if ((process.env.SKIAXIS_SECRET ?? '').length < 16) {
	console.error('SKIAXIS_SECRET needs at least 16 characters.');
	process.exit(2);
}
if (!existsSync(`${ROOT}build/index.js`)) {
	console.error('There is no build yet. Run: npm run build');
	process.exit(2);
}
process.env.BODY_SIZE_LIMIT ??= '64M';
process.env.SHUTDOWN_TIMEOUT ??= '3';
/** The build is checked where it is made. @type {string} */
const built = '../build/index.js';
const { server } = await import(built);
limitConnections(server.server);

/**
 * Who begins a request and never ends it holds a connection, and no more than so many of them for so long.
 * @param {import('node:http').Server} listening
 */
function limitConnections(listening) {
	listening.maxConnections = Number(process.env.SKIAXIS_MOST_CONNECTIONS) || 4000;
	// Head of a request within 10 s, all of it within 2 minutes: a photo over a bad line takes its time.
	listening.headersTimeout = 10_000;
	listening.requestTimeout = 120_000;
}
