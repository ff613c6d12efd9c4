import { randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto';

/** scrypt with 128 MiB of memory for each attempt; the parameters stand in the hash itself. */
const COST = { logN: 17, r: 8, p: 1 };
const KEY_BYTES = 32;

function derive(password: string, salt: Buffer, cost: typeof COST): Promise<Buffer> {
	const options: ScryptOptions = {
		N: 2 ** cost.logN,
		r: cost.r,
		p: cost.p,
		maxmem: 256 * 2 ** cost.logN * cost.r
	};
	return new Promise((resolve, reject) => {
		scrypt(password.normalize('NFKC'), salt, KEY_BYTES, options, (error, key) =>
			error ? reject(error) : resolve(key)
		);
	});
}

export async function hashPassword(password: string): Promise<string> {
	const salt = randomBytes(16);
	const key = await derive(password, salt, COST);
	return [
		'scrypt',
		COST.logN,
		COST.r,
		COST.p,
		salt.toString('base64url'),
		key.toString('base64url')
	].join('$');
}

export async function passwordMatches(password: string, stored: string): Promise<boolean> {
	const [scheme, logN, r, p, salt, key] = stored.split('$');
	if (scheme !== 'scrypt' || !salt || !key) return false;
	const cost = { logN: Number(logN), r: Number(r), p: Number(p) };
	const expected = Buffer.from(key, 'base64url');
	const given = await derive(password, Buffer.from(salt, 'base64url'), cost);
	return expected.length === given.length && timingSafeEqual(expected, given);
}

let decoy: Promise<string> | undefined;

/** A hash to compare with when the account does not exist, so that both answers take as long. */
export function decoyHash(): Promise<string> {
	decoy ??= hashPassword(randomBytes(12).toString('hex'));
	return decoy;
}
