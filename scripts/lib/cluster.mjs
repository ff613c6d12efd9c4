/** A cluster of MariaDB servers on loopback, replicating to each other as they commit. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { freePort, startMariadb } from './mariadb.mjs';
import { ensureDebian, SetupError } from './setup.mjs';

const PROVIDERS = ['/usr/lib/galera/libgalera_smm.so', '/usr/lib/libgalera_smm.so'];
const provider = () => PROVIDERS.find((path) => existsSync(path));

/** What a cluster needs beside one server. */
export async function ensureCluster() {
	if (!provider()) await ensureDebian('galera-4', 'no program of its own');
	await ensureDebian('rsync', 'rsync');
	if (!provider())
		throw new SetupError('The replication library of galera-4 is not where Debian has it.');
}

/**
 * @param {string} folder
 * @param {number} count
 */
export async function startCluster(folder, count) {
	const nodes = [];
	for (let i = 0; i < count; i++) {
		nodes.push({
			name: `node-${i + 1}`,
			port: await freePort(),
			group: await freePort(),
			transfer: await freePort(),
			state: await freePort()
		});
	}
	const everyone = nodes.map(({ group }) => `127.0.0.1:${group}`).join(',');
	/** @type {Map<string, Awaited<ReturnType<typeof startMariadb>>>} */
	const running = new Map();

	/**
	 * @param {number} i place of the node
	 * @param {{ first?: boolean }} [how] `first` founds the cluster, the others join it
	 */
	async function start(i, { first = false } = {}) {
		const node = nodes[i];
		const server = await startMariadb(join(folder, node.name), {
			port: node.port,
			args: [
				'--wsrep-on=ON',
				`--wsrep-provider=${provider()}`,
				'--wsrep-cluster-name=skiaxis',
				`--wsrep-cluster-address=gcomm://${first ? '' : everyone}`,
				`--wsrep-node-name=${node.name}`,
				`--wsrep-node-address=127.0.0.1:${node.group}`,
				`--wsrep-node-incoming-address=127.0.0.1:${node.port}`,
				'--wsrep-sst-method=rsync',
				`--wsrep-sst-receive-address=127.0.0.1:${node.state}`,
				`--wsrep-provider-options=${[
					`gmcast.listen_addr=tcp://127.0.0.1:${node.group}`,
					`ist.recv_addr=127.0.0.1:${node.transfer}`,
					// A node that was killed is given up sooner than across a country.
					'evs.suspect_timeout=PT2S',
					'evs.inactive_timeout=PT5S',
					'evs.keepalive_period=PT0.5S',
					'evs.inactive_check_period=PT0.5S'
				].join(';')}`,
				// Replication counts as a binary log: without this only a superuser may make triggers.
				'--log-bin-trust-function-creators=1',
				'--binlog-format=ROW',
				'--innodb-autoinc-lock-mode=2',
				'--wsrep-slave-threads=2'
			]
		});
		running.set(node.name, server);
		return server;
	}

	const first = await start(0, { first: true });
	for (let i = 1; i < count; i++) await start(i);
	return {
		/** Makes a database; the URLs of both accounts on every node. */
		async database(name) {
			const made = await first.database(name, { reset: true });
			const at = (url, { port }) => Object.assign(new URL(url), { port: String(port) }).href;
			return nodes.map((node) => ({
				url: at(made.url, node),
				ownerUrl: at(made.ownerUrl, node)
			}));
		},
		/** Ends a node as a power cut would. */
		kill: (i) => running.get(nodes[i].name)?.kill(),
		/** Starts a node again: it joins the others and takes over what they have. */
		restart: (i) => start(i),
		async stop() {
			for (const { name } of [...nodes].reverse()) await running.get(name)?.stop();
		}
	};
}
