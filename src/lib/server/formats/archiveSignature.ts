import { createPrivateKey, createPublicKey, generateKeyPairSync, sign, verify } from 'node:crypto';
import { canonicalJson, sha256 } from './recordChain';

/** Public keys are the 32 bytes of Ed25519 (RFC 8032) in base64url, 43 signs. */
export const PUBLIC_KEY = /^[A-Za-z0-9_-]{43}$/;

/** `signature.json` of an archive. */
export interface ArchiveSignature {
	format: 'skiaxis-archive-signature';
	formatVersion: 1;
	algorithm: 'Ed25519';
	/** Who signs: the installation's own name and key. */
	installation: { name: string; publicKey: string };
	signature: string;
}

export interface KeyPair {
	publicKey: string;
	/** PKCS#8 DER in base64url. */
	privateKey: string;
}

export function newKeyPair(): KeyPair {
	const { publicKey, privateKey } = generateKeyPairSync('ed25519');
	return {
		publicKey: publicKey.export({ format: 'jwk' }).x ?? '',
		privateKey: privateKey.export({ format: 'der', type: 'pkcs8' }).toString('base64url')
	};
}

/** Four groups of four signs that people can compare by voice. */
export function fingerprint(publicKey: string): string {
	return (sha256(Buffer.from(publicKey, 'base64url')).slice(0, 16).match(/.{4}/g) ?? []).join(' ');
}

/** What is signed: the document and the digest of every photo, in canonical form. */
function signedBytes(
	document: object,
	photos: ReadonlyMap<string, Uint8Array>,
	name: string
): Buffer {
	const digests = Object.fromEntries([...photos].map(([file, bytes]) => [file, sha256(bytes)]));
	return Buffer.from(canonicalJson({ name, document, photos: digests }));
}

export function signArchive(
	document: object,
	photos: ReadonlyMap<string, Uint8Array>,
	{ name, publicKey, privateKey }: KeyPair & { name: string }
): ArchiveSignature {
	const key = createPrivateKey({
		key: Buffer.from(privateKey, 'base64url'),
		format: 'der',
		type: 'pkcs8'
	});
	return {
		format: 'skiaxis-archive-signature',
		formatVersion: 1,
		algorithm: 'Ed25519',
		installation: { name, publicKey },
		signature: sign(null, signedBytes(document, photos, name), key).toString('base64url')
	};
}

/** Whether an archive is, to the last sign, what the holder of the named key signed. */
export function isSignedArchive(
	document: object,
	photos: ReadonlyMap<string, Uint8Array>,
	{ installation, signature }: ArchiveSignature
): boolean {
	try {
		const key = createPublicKey({
			key: { kty: 'OKP', crv: 'Ed25519', x: installation.publicKey },
			format: 'jwk'
		});
		const bytes = signedBytes(document, photos, installation.name);
		return verify(null, bytes, key, Buffer.from(signature, 'base64url'));
	} catch {
		return false;
	}
}
