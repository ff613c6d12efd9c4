import { requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { invalid, notFound } from '../errors';
import { fingerprint, newKeyPair, PUBLIC_KEY, type KeyPair } from '../formats/archiveSignature';
import { audit } from '../repositories/audit';
import {
	findInstallation,
	insertInstallation,
	listTrusted,
	trust,
	withdrawTrust,
	type TrustedInstallation
} from '../repositories/installation';
import { config } from '../config';

/** What an installation shows of itself, and whom it trusts. */
export interface InstallationView {
	name: string;
	publicKey: string;
	fingerprint: string;
	trusted: (TrustedInstallation & { fingerprint: string })[];
}

/** The key pair of this installation with its name; made the first time it is asked for. */
export async function ownKeys(): Promise<KeyPair & { name: string }> {
	const found = await findInstallation();
	if (!found) {
		await insertInstallation({ ...newKeyPair(), madeAt: new Date() });
		return ownKeys();
	}
	const { publicKey, privateKey } = found;
	return { name: config.installationName, publicKey, privateKey };
}

export async function viewInstallation(actor: Actor): Promise<InstallationView> {
	requireMay(actor, 'manage-installation');
	const { name, publicKey } = await ownKeys();
	const trusted = await listTrusted();
	return {
		name,
		publicKey,
		fingerprint: fingerprint(publicKey),
		trusted: trusted.map((one) => ({ ...one, fingerprint: fingerprint(one.publicKey) }))
	};
}

/** Archives signed by the holder of this key count as verified from now on. */
export async function trustInstallation(
	actor: Actor,
	request: { name: string; publicKey: string }
): Promise<InstallationView> {
	requireMay(actor, 'manage-installation');
	const { publicKey, name } = request;
	if (publicKey === (await ownKeys()).publicKey) {
		throw invalid([
			{ field: 'publicKey', message: 'This is the key of this installation itself.' }
		]);
	}
	const add = (): Promise<void> =>
		inTransaction(async (unit) => {
			await trust({ publicKey, name, addedBy: actor.userId, addedAt: new Date() }, unit);
			await audit(actor.userId, 'trust-installation', `key:${publicKey}`, { name }, unit);
		});
	// Added by somebody else at the same moment, it is there now.
	await unlessTaken(add, add);
	return viewInstallation(actor);
}

/** Takes the trust back: what came signed by this key reads as not verified again. */
export async function withdrawInstallation(
	actor: Actor,
	publicKey: string
): Promise<InstallationView> {
	requireMay(actor, 'manage-installation');
	if (!PUBLIC_KEY.test(publicKey)) throw notFound('installation');
	await inTransaction(async (unit) => {
		if (!(await withdrawTrust(publicKey, new Date(), unit))) throw notFound('installation');
		await audit(actor.userId, 'withdraw-installation', `key:${publicKey}`, {}, unit);
	});
	return viewInstallation(actor);
}
