import {
	createCipheriv,
	createDecipheriv,
	createHmac,
	hkdfSync,
	randomBytes,
	randomInt
} from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { config } from '../config';

const ISSUER = 'Skiaxis';
const PERIOD_S = 30;
/** A code of the step before or after counts too: clocks differ. */
const STEPS_APART = 1;
/** Letters and digits that nobody takes for one another. */
const SIGNS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
export const RECOVERY_CODES = 10;

const totpOf = (secret: string, label: string): TOTP =>
	new TOTP({ issuer: ISSUER, label, secret: Secret.fromBase32(secret), period: PERIOD_S });

/** A new secret, and the address that an authenticator reads it from. */
export function newSecret(label: string): { secret: string; uri: string } {
	const secret = new Secret({ size: 20 }).base32;
	return { secret, uri: totpOf(secret, label).toString() };
}

/**
 * The time step that a code belongs to, after the last one used; undefined where it is wrong or was
 * used before (RFC 6238).
 */
export function stepOfCode(
	secret: string,
	code: string,
	lastStep: number,
	at: Date
): number | undefined {
	const token = code.replace(/\s/g, '');
	if (!/^\d{6}$/.test(token)) return undefined;
	const delta = totpOf(secret, '').validate({
		token,
		timestamp: at.getTime(),
		window: STEPS_APART
	});
	if (delta === null) return undefined;
	const step = Math.floor(at.getTime() / 1000 / PERIOD_S) + delta;
	return step > lastStep ? step : undefined;
}

/** A code to type once: four groups of four. */
export function newCode(): string {
	const sign = (): string => SIGNS.charAt(randomInt(SIGNS.length));
	return Array.from({ length: 4 }, () => Array.from({ length: 4 }, sign).join('')).join('-');
}

/** How a code is kept; dashes, blanks and capitals make no difference. */
export function codeHash(code: string): string {
	const plain = code.toUpperCase().replace(/[^A-Z0-9]/g, '');
	return createHmac('sha256', config.secret).update(`code:${plain}`).digest('hex');
}

const sealingKey = (): Buffer =>
	Buffer.from(hkdfSync('sha256', config.secret, '', 'second factor', 32));

/** A secret as the database keeps it: of no use without the installation's own secret. */
export function seal(secret: string): string {
	const iv = randomBytes(12);
	const cipher = createCipheriv('aes-256-gcm', sealingKey(), iv);
	const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
	return Buffer.concat([iv, cipher.getAuthTag(), sealed]).toString('base64url');
}

/** The secret that was sealed. Throws where the installation's secret is another by now. */
export function unseal(sealed: string): string {
	const bytes = Buffer.from(sealed, 'base64url');
	const decipher = createDecipheriv('aes-256-gcm', sealingKey(), bytes.subarray(0, 12));
	decipher.setAuthTag(bytes.subarray(12, 28));
	return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8');
}
