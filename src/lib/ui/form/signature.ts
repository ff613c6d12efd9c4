/** A signature as it is typed or drawn. */
export interface TypedSignature {
	name: string;
	method: 'typed' | 'drawn';
	drawing?: string;
}

/** What is missing of a signature, or undefined. */
export function signatureProblemOf({ name, method, drawing }: TypedSignature): string | undefined {
	if (name.trim() === '') return 'The name is missing.';
	return method === 'drawn' && !drawing ? 'The drawing is missing.' : undefined;
}
