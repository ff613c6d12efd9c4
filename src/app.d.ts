import type { Actor } from '$lib/server/auth/actor';

declare global {
	namespace App {
		interface Locals {
			actor: Actor | undefined;
			sessionToken: string | undefined;
		}
		interface Error {
			message: string;
		}
	}
}

export {};
