import { readFile } from 'node:fs/promises';
import { closeDb } from '../db/connection';
import { AppError } from '../errors';
import { fingerprint } from '../formats/archiveSignature';
import type { ArchiveSignature } from '../formats/archiveSignature';
import { acceptancesIn, readArchive } from '../formats/hopArchive';
import { HUB_DOCUMENT, readHubArchive } from '../formats/hubArchive';
import { zipHolds } from '../../zipHolds';
import { findInstallation, trustedName } from '../repositories/installation';
import { brokenHubRecords } from '../services/hubVerify';
import { brokenRecords } from '../services/verify';

type Say = (line: string) => void;

/** Looks through every record of the database; gives how many hops and hubs are not whole. */
export async function verifyDatabase(say: Say): Promise<number> {
	let broken = 0;
	const looking = brokenRecords();
	for (;;) {
		const { value, done } = await looking.next();
		if (done) {
			say(
				`${value.hops} hops, ${value.records} records: ${broken ? `${broken} not whole` : 'all whole'}.`
			);
			return broken + (await verifyHubs(say));
		}
		broken += 1;
		for (const problem of value.check.problems) say(`${value.name} (${value.hopId}): ${problem}`);
	}
}

/** The same of the hubs; gives how many are not whole. */
async function verifyHubs(say: Say): Promise<number> {
	let broken = 0;
	const looking = brokenHubRecords();
	for (;;) {
		const { value, done } = await looking.next();
		if (done) {
			say(
				`${value.hubs} hubs, ${value.records} records: ${broken ? `${broken} not whole` : 'all whole'}.`
			);
			return broken;
		}
		broken += 1;
		for (const problem of value.check.problems) say(`${value.name} (${value.hubId}): ${problem}`);
	}
}

/** Looks at one archive; gives 0 where it is whole and signed by whom this installation trusts. */
export async function verifyArchive(
	bytes: Uint8Array,
	say: Say,
	trustedAs: (publicKey: string) => Promise<string | undefined>
): Promise<number> {
	try {
		const { told, signer } = zipHolds(bytes, HUB_DOCUMENT) ? hubIn(bytes) : hopIn(bytes);
		say(`${told}; whole.`);
		if (!signer) {
			say('Not signed: who recorded and who signed in it is not proven.');
			return 1;
		}
		const name = await trustedAs(signer.publicKey);
		say(
			name === undefined
				? `Signed by “${signer.name}” with the key ${fingerprint(signer.publicKey)}, which is not trusted here.`
				: `Signed by ${name}, key ${fingerprint(signer.publicKey)}; not changed since.`
		);
		return name === undefined ? 1 : 0;
	} catch (error) {
		if (!(error instanceof AppError)) throw error;
		say(error.fields[0]?.message ?? error.message);
		return 1;
	}
}

interface Seen {
	/** What the archive holds, in words. */
	told: string;
	signer: ArchiveSignature['installation'] | null;
}

function hopIn(bytes: Uint8Array): Seen {
	const { document, signer } = readArchive(bytes);
	const { hop, records, photos } = document;
	const told = `${hop.name}: ${records.length} records, ${photos.length} photos, ${acceptancesIn(document).length} acceptances`;
	return { told, signer };
}

function hubIn(bytes: Uint8Array): Seen {
	const { document, signer } = readHubArchive(bytes);
	const { hub, records, acceptances } = document;
	const told = `${hub.name}: ${records.length} records, ${acceptances.length} acceptances of terminals`;
	return { told, signer };
}

async function ownOrTrusted(publicKey: string): Promise<string | undefined> {
	if ((await findInstallation())?.publicKey === publicKey) return 'this installation itself';
	return trustedName(publicKey);
}

/** `npm run verify`: the database, or the archives that are named. Gives the exit code. */
export async function verify(files: readonly string[], say: Say): Promise<number> {
	try {
		if (files.length === 0) return (await verifyDatabase(say)) > 0 ? 1 : 0;
		let worst = 0;
		for (const file of files) {
			const bytes = new Uint8Array(await readFile(file));
			worst = Math.max(
				worst,
				await verifyArchive(bytes, (line) => say(`${file}: ${line}`), ownOrTrusted)
			);
		}
		return worst;
	} finally {
		await closeDb();
	}
}
