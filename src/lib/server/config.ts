/** Settings from the environment, read when first asked so that a build needs none. */
export const config = {
	get databaseUrl(): string {
		const url = process.env.SKIAXIS_DATABASE_URL;
		if (!url) throw new Error('SKIAXIS_DATABASE_URL is not set');
		return url;
	},
	/** Key for the hashes of session tokens. */
	get secret(): string {
		const secret = process.env.SKIAXIS_SECRET;
		if (!secret || secret.length < 16) {
			throw new Error('SKIAXIS_SECRET is not set or shorter than 16 characters');
		}
		return secret;
	},
	get demo(): boolean {
		return process.env.SKIAXIS_DEMO === '1';
	},
	/** `name:password` of an administrator made when there are no accounts at all. */
	get firstAdministrator(): string | undefined {
		return process.env.SKIAXIS_FIRST_ADMIN || undefined;
	},
	/** How this installation is named in the archives that it signs. */
	get installationName(): string {
		return (process.env.SKIAXIS_NAME ?? '').trim().slice(0, 120);
	},
	/** What whoever watches over the processes shows to read their figures; without it there are none. */
	get metricsToken(): string | undefined {
		return process.env.SKIAXIS_METRICS_TOKEN || undefined;
	},
	get poolSize(): number {
		return Number(process.env.SKIAXIS_POOL_SIZE) || 10;
	}
};
