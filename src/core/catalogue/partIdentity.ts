/** What is the same of every part. */
export interface PartIdentity {
	/** Type code: capitals, figures and hyphens. */
	code: string;
	name: string;
	/** 1, 2, 3 … as it is edited; absent in plans older than versions. */
	version?: number;
	/** No longer to be chosen; plans that have it keep it. */
	retired?: boolean;
}
