import { createHash, createSign, generateKeyPairSync, randomBytes } from 'node:crypto';
import type {
	AuthenticationResponseJSON,
	RegistrationResponseJSON
} from '$lib/server/services/passkeys';

const sha256 = (text: string | Buffer): Buffer => createHash('sha256').update(text).digest();
const b64 = (bytes: Buffer | string): string => Buffer.from(bytes).toString('base64url');

/** User present, user verified, credential attached (WebAuthn level 3, 6.1). */
const [PRESENT, VERIFIED, ATTACHED] = [0x01, 0x04, 0x40];

export interface Answering {
	origin: string;
	rpId?: string;
	/** Whether it asked for finger, face or PIN. */
	verified?: boolean;
	count?: number;
}

/** A device that makes one ES256 passkey and answers with it, as WebAuthn has it. */
export class SoftAuthenticator {
	readonly id = randomBytes(32);
	private readonly keys = generateKeyPairSync('ec', { namedCurve: 'P-256' });

	private clientData(type: 'create' | 'get', challenge: string, origin: string): Buffer {
		return Buffer.from(JSON.stringify({ type: `webauthn.${type}`, challenge, origin }));
	}

	private authData({ origin, rpId, verified = true, count = 0 }: Answering, more?: Buffer): Buffer {
		const flags = PRESENT | (verified ? VERIFIED : 0) | (more ? ATTACHED : 0);
		const counted = Buffer.alloc(4);
		counted.writeUInt32BE(count);
		return Buffer.concat([
			sha256(rpId ?? new URL(origin).hostname),
			Buffer.from([flags]),
			counted,
			more ?? Buffer.alloc(0)
		]);
	}

	make(challenge: string, how: Answering): RegistrationResponseJSON {
		const { x, y } = this.keys.publicKey.export({ format: 'jwk' });
		// A COSE key, EC2, ES256, P-256 (RFC 9053, 7.1.1), and the attestation "none" in CBOR.
		const key = Buffer.concat([
			Buffer.from('a5010203262001215820', 'hex'),
			Buffer.from(x!, 'base64url'),
			Buffer.from('225820', 'hex'),
			Buffer.from(y!, 'base64url')
		]);
		const length = Buffer.from([0, this.id.length]);
		const data = this.authData(how, Buffer.concat([Buffer.alloc(16), length, this.id, key]));
		const size = Buffer.alloc(2);
		size.writeUInt16BE(data.length);
		const attestation = Buffer.concat([
			Buffer.from('a363666d74646e6f6e656761747453746d74a068617574684461746159', 'hex'),
			size,
			data
		]);
		return {
			...{ id: b64(this.id), rawId: b64(this.id), type: 'public-key', clientExtensionResults: {} },
			response: {
				clientDataJSON: b64(this.clientData('create', challenge, how.origin)),
				attestationObject: b64(attestation),
				transports: ['internal']
			}
		};
	}

	answer(challenge: string, how: Answering): AuthenticationResponseJSON {
		const client = this.clientData('get', challenge, how.origin);
		const data = this.authData(how);
		const signed = createSign('sha256').update(Buffer.concat([data, sha256(client)]));
		return {
			...{ id: b64(this.id), rawId: b64(this.id), type: 'public-key', clientExtensionResults: {} },
			response: {
				clientDataJSON: b64(client),
				authenticatorData: b64(data),
				signature: b64(signed.sign(this.keys.privateKey))
			}
		};
	}
}
