/** Where a hop was before it was taken in here, and how much of it came along. */
export interface Provenance {
	importedAt: string;
	/** Name of who took it in. */
	importedBy: string;
	/** The installation whose signature the archive carried; null for an archive without one. */
	source: { key: string; name: string } | null;
	/** Whether an administrator of the installation that took it in trusts that key. */
	trusted: boolean;
	/** The last record that came along; what is recorded later is this installation's own. */
	lastSeq: number;
	/** Numbers up to these came along. */
	revisions: number;
	acceptances: number;
	/** Where the source had it from in its turn, as the source says. */
	earlier: Provenance | null;
}

/** What can be said of where a record, a revision or an acceptance was made. */
export type Origin =
	{ kind: 'own' } | { kind: 'verified'; source: string } | { kind: 'unverified' };

/** What of a hop is asked about. */
export type Imported =
	| { what: 'record'; seq: number }
	| { what: 'revision'; number: number }
	| { what: 'acceptance'; number: number };

function cameAlong(provenance: Provenance, asked: Imported): boolean {
	switch (asked.what) {
		case 'record':
			return asked.seq <= provenance.lastSeq;
		case 'revision':
			return asked.number <= provenance.revisions;
		case 'acceptance':
			return asked.number <= provenance.acceptances;
	}
}

/**
 * Where something of a hop was made. It is verified where each installation on its way signed what it
 * sent and was trusted by the next; a single step without that leaves it unverified.
 *
 * @param provenance of the hop; null where it was made here
 */
export function originOf(provenance: Provenance | null, asked: Imported): Origin {
	if (!provenance || !cameAlong(provenance, asked)) return { kind: 'own' };
	if (!provenance.source || !provenance.trusted) return { kind: 'unverified' };
	const before = originOf(provenance.earlier, asked);
	return before.kind === 'own' ? { kind: 'verified', source: provenance.source.name } : before;
}

/** A hop that went through more installations than this has the first steps of its way left out. */
export const MOST_STEPS = 8;

/**
 * A provenance of at most so many steps, as an archive states it. What lies before them is not told, so
 * nothing that came from there can be verified.
 *
 * @param steps whole, 1 or more
 */
export function withinSteps(
	provenance: Provenance | null,
	steps: number = MOST_STEPS
): Provenance | null {
	if (!provenance || provenance.earlier === null) return provenance;
	return steps <= 1
		? { ...provenance, trusted: false, earlier: null }
		: { ...provenance, earlier: withinSteps(provenance.earlier, steps - 1) };
}

/** An origin in words; empty for what was made here. */
export function originWords(origin: Origin): string {
	switch (origin.kind) {
		case 'own':
			return '';
		case 'verified':
			return `Imported; signed by the installation “${origin.source}”, verified here`;
		case 'unverified':
			return 'Imported, not verified here';
	}
}

/** What an installation calls itself, where it has a name. */
const quoted = (name: string): string =>
	name ? `the installation “${name}”` : 'an installation without a name';

/**
 * A provenance in one sentence, for the head of a record or a pack.
 *
 * @param day how a moment is written here
 */
export function provenanceWords(provenance: Provenance, day: (moment: string) => string): string {
	const { source, trusted, lastSeq, importedBy, importedAt, earlier } = provenance;
	const from = !source
		? 'an archive without a signature: who recorded and who signed in it is not verified here'
		: !trusted
			? `an archive signed by ${quoted(source.name)}, whose key nobody here trusts: not verified here`
			: originOf(provenance, { what: 'acceptance', number: 1 }).kind === 'unverified' && earlier
				? `an archive signed by “${source.name}”, which had it unverified in its turn: not verified here`
				: `an archive signed by “${source.name}”: its signature is verified here`;
	const records =
		lastSeq === 0 ? 'No record' : lastSeq === 1 ? 'Record 1' : `Records 1 to ${lastSeq}`;
	return `${records} and all that was signed by then came with an import on ${day(importedAt)} by ${importedBy}, from ${from}.`;
}
