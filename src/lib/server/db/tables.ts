import type { End } from '#core/ends';
import type { HubRecordKind } from '#core/bringup/hubRecords';
import type { PartKind } from '#core/catalogue/partKinds';
import type { RecordKind } from '#core/record/records';
import type { Role } from '../auth/roles';
import {
	big,
	bytes,
	flag,
	id,
	keyed,
	long,
	named,
	number,
	optional,
	real,
	ref,
	Table,
	text,
	time,
	whole
} from './table';

/** Every table of the application; of `rate_limits` and `migrations` only their packages know. */

export interface UserRow {
	id: string;
	signInName: string;
	displayName: string;
	role: Role;
	passwordHash: string;
	disabled: boolean;
	createdAt: Date;
}

export const users = new Table<UserRow>('users', {
	id: id(),
	signInName: text(),
	displayName: text(),
	role: text(),
	passwordHash: text(),
	disabled: flag(),
	createdAt: time()
});

export interface SessionRow {
	tokenHash: string;
	userId: string;
	kind: 'browser' | 'script';
	createdAt: Date;
	expiresAt: Date;
	/** By which it is named; the token's hash is nobody's to see. */
	id: string;
}

export const sessions = new Table<SessionRow>('sessions', {
	tokenHash: keyed(text()),
	userId: ref(),
	kind: text(),
	createdAt: time(),
	expiresAt: time(),
	id: ref()
});

export interface PasswordResetRow {
	userId: string;
	codeHash: string;
	madeBy: string;
	expiresAt: Date;
}

export const passwordResets = new Table<PasswordResetRow>('password_resets', {
	userId: keyed(ref()),
	codeHash: text(),
	madeBy: ref(),
	expiresAt: time()
});

export interface SecondFactorRow {
	userId: string;
	sealedSecret: string;
	/** Time step of the last code that was used: none is taken twice. */
	lastStep: number;
	madeAt: Date;
}

export const secondFactors = new Table<SecondFactorRow>('second_factors', {
	userId: keyed(ref()),
	sealedSecret: text(),
	lastStep: big(),
	madeAt: time()
});

export interface PasskeyRow {
	id: string;
	userId: string;
	/** What its owner calls it. */
	name: string;
	credentialId: string;
	/** Of the id, which may be longer than an index takes. */
	credentialHash: string;
	publicKey: Buffer;
	/** How often its device says it was used; 0 for ever where it does not count. */
	useCount: number;
	madeAt: Date;
	usedAt: Date | null;
}

export const passkeys = new Table<PasskeyRow>('passkeys', {
	id: id(),
	userId: ref(),
	name: text(),
	credentialId: text(),
	credentialHash: text(),
	publicKey: bytes(),
	useCount: big(),
	madeAt: time(),
	usedAt: optional(time())
});

export interface RecoveryCodeRow {
	userId: string;
	codeHash: string;
}

export const recoveryCodes = new Table<RecoveryCodeRow>('recovery_codes', {
	userId: keyed(ref()),
	codeHash: keyed(text())
});

export interface RoleRuleRow {
	role: Role;
	secondFactor: boolean;
}

export const roleRules = new Table<RoleRuleRow>('role_rules', {
	role: keyed(text()),
	secondFactor: flag()
});

export interface SiteRow {
	id: string;
	name: string;
	latitudeDeg: number;
	longitudeDeg: number;
	groundAmslM: number;
	notes: string;
	/** JSON; null on sites older than these columns. */
	climate: string | null;
	conditions: string | null;
	version: number;
	createdBy: string;
	createdAt: Date;
	updatedAt: Date;
}

export const sites = new Table<SiteRow>('sites', {
	id: id(),
	name: text(),
	latitudeDeg: number(),
	longitudeDeg: number(),
	groundAmslM: number(),
	notes: text(),
	climate: optional(long()),
	conditions: optional(long()),
	version: whole(),
	createdBy: ref(),
	createdAt: time(),
	updatedAt: time()
});

export interface HubRow {
	id: string;
	name: string;
	siteId: string;
	/** JSON of what is planned. */
	content: string;
	unitCount: number;
	terminalCount: number;
	version: number;
	createdBy: string;
	createdAt: Date;
	updatedAt: Date;
	/** Place of its latest record; 0 before the first. */
	lastSeq: number;
	/** Digest of that record. */
	digest: string;
	/** JSON of what stands in for it; null of a real one. */
	practice: string | null;
}

export const hubs = new Table<HubRow>('hubs', {
	id: id(),
	name: text(),
	siteId: ref(),
	content: long(),
	unitCount: whole(),
	terminalCount: whole(),
	version: whole(),
	createdBy: ref(),
	createdAt: time(),
	updatedAt: time(),
	lastSeq: big(),
	digest: text(),
	practice: optional(long())
});

export interface HubRevisionRow {
	id: string;
	hubId: string;
	number: number;
	/** JSON of the hub with its parts. */
	input: string;
	note: string;
	issuedBy: string;
	issuedAt: Date;
}

export const hubRevisions = new Table<HubRevisionRow>('hub_revisions', {
	id: id(),
	hubId: ref(),
	number: whole(),
	input: long(),
	note: text(),
	issuedBy: ref(),
	issuedAt: time()
});

export interface HubRecordRow {
	id: string;
	hubId: string;
	seq: number;
	revisionId: string;
	station: string;
	kind: HubRecordKind;
	/** JSON. */
	payload: string;
	recordedAt: Date;
	receivedAt: Date;
	recordedBy: string;
	/** Digest over this record and the one before it. */
	digest: string;
}

export const hubRecords = new Table<HubRecordRow>('hub_records', {
	id: id(),
	hubId: ref(),
	seq: big(),
	revisionId: ref(),
	station: text(),
	kind: text(),
	payload: long(),
	recordedAt: time(),
	receivedAt: time(),
	recordedBy: ref(),
	digest: text()
});

export interface HubAcceptanceRow {
	id: string;
	hubId: string;
	terminal: string;
	number: number;
	revisionId: string;
	lastSeq: number;
	/** JSON each. */
	judgement: string;
	causes: string;
	signature: string;
	signedBy: string;
	signedAt: Date;
	recordDigest: string;
	/** Its place, from 1, among those that came along with an import; null of one that was signed here. */
	importedPlace: number | null;
}

export const hubAcceptances = new Table<HubAcceptanceRow>('hub_acceptances', {
	id: id(),
	hubId: ref(),
	terminal: text(),
	number: whole(),
	revisionId: ref(),
	lastSeq: big(),
	judgement: long(),
	causes: long(),
	signature: long(),
	signedBy: ref(),
	signedAt: time(),
	recordDigest: text(),
	importedPlace: optional(whole())
});

export interface AttachmentRow {
	id: string;
	siteId: string;
	fileName: string;
	mediaType: string;
	sizeBytes: number;
	content: Buffer;
	note: string;
	uploadedBy: string;
	uploadedAt: Date;
}

export const attachments = new Table<AttachmentRow>('site_attachments', {
	id: id(),
	siteId: ref(),
	fileName: text(),
	mediaType: text(),
	sizeBytes: whole(),
	content: bytes(),
	note: text(),
	uploadedBy: ref(),
	uploadedAt: time()
});

export interface RasterRow {
	id: string;
	name: string;
	westDeg: number;
	northDeg: number;
	stepLongitudeDeg: number;
	stepLatitudeDeg: number;
	columnCount: number;
	rowCount: number;
	lowestM: number;
	highestM: number;
	heights: Buffer;
	uploadedBy: string;
	uploadedAt: Date;
}

export const rasters = new Table<RasterRow>('terrain_rasters', {
	id: id(),
	name: text(),
	westDeg: real(),
	northDeg: real(),
	stepLongitudeDeg: real(),
	stepLatitudeDeg: real(),
	columnCount: whole(),
	rowCount: whole(),
	lowestM: real(),
	highestM: real(),
	heights: bytes(),
	uploadedBy: ref(),
	uploadedAt: time()
});

export interface HopRow {
	id: string;
	name: string;
	siteAId: string;
	siteBId: string;
	planDraft: string;
	simulationSeed: number | null;
	plantedFault: string | null;
	version: number;
	createdBy: string;
	createdAt: Date;
	updatedAt: Date;
	/** When it was put away; null where it is worked on. */
	archivedAt: Date | null;
}

export const hops = new Table<HopRow>('hops', {
	id: id(),
	name: text(),
	siteAId: named('site_a_id', ref()),
	siteBId: named('site_b_id', ref()),
	planDraft: long(),
	simulationSeed: optional(whole()),
	plantedFault: optional(text()),
	version: whole(),
	createdBy: ref(),
	createdAt: time(),
	updatedAt: time(),
	archivedAt: optional(time())
});

export interface MemberRow {
	hopId: string;
	userId: string;
}

export const members = new Table<MemberRow>('hop_members', {
	hopId: keyed(ref()),
	userId: keyed(ref())
});

export interface FeedRow {
	hopId: string;
	lastSeq: number;
	baton: End;
	readyA: boolean;
	readyB: boolean;
	openVisit: string | null;
	/** JSON of the stop cards as they were last answered; null on feeds from before. */
	cards: string | null;
	/** JSON of the snags that are open; null on feeds from before. */
	openSnags: string | null;
	sentBack: boolean;
	/** Digest of the last record; see `formats/recordChain.ts`. */
	digest: string;
}

export const feeds = new Table<FeedRow>('hop_feeds', {
	hopId: keyed(ref()),
	lastSeq: big(),
	baton: text(),
	readyA: named('ready_a', flag()),
	readyB: named('ready_b', flag()),
	openVisit: optional(ref()),
	cards: optional(text()),
	openSnags: optional(text()),
	sentBack: flag(),
	digest: text()
});

export interface RevisionRow {
	id: string;
	hopId: string;
	number: number;
	input: string;
	plan: string;
	note: string;
	/** JSON of the review that let it be issued; null on revisions older than the review. */
	review: string | null;
	issuedBy: string;
	issuedAt: Date;
}

export const revisions = new Table<RevisionRow>('plan_revisions', {
	id: id(),
	hopId: ref(),
	number: whole(),
	input: long(),
	plan: long(),
	note: text(),
	review: optional(long()),
	issuedBy: ref(),
	issuedAt: time()
});

export interface FieldRecordRow {
	id: string;
	hopId: string;
	seq: number;
	revisionId: string;
	end: End;
	kind: RecordKind;
	/** JSON. */
	payload: string;
	recordedAt: Date;
	receivedAt: Date;
	recordedBy: string;
	/** Digest over this record and the one before it. */
	digest: string;
}

export const fieldRecords = new Table<FieldRecordRow>('field_records', {
	id: id(),
	hopId: ref(),
	seq: big(),
	revisionId: ref(),
	end: text(),
	kind: text(),
	payload: long(),
	recordedAt: time(),
	receivedAt: time(),
	recordedBy: ref(),
	digest: text()
});

export interface AcceptanceRow {
	id: string;
	hopId: string;
	number: number;
	revisionId: string;
	lastSeq: number;
	judgement: string;
	causes: string;
	signature: string;
	signedBy: string;
	signedAt: Date;
	/** Digest of the last record that was judged; null on acceptances older than digests. */
	recordDigest: string | null;
}

export const acceptances = new Table<AcceptanceRow>('acceptances', {
	id: id(),
	hopId: ref(),
	number: whole(),
	revisionId: ref(),
	lastSeq: big(),
	judgement: long(),
	causes: long(),
	signature: long(),
	signedBy: ref(),
	signedAt: time(),
	recordDigest: optional(text())
});

export interface PhotoRow {
	id: string;
	hopId: string;
	end: End;
	sourceSha256: string;
	width: number;
	height: number;
	sizeBytes: number;
	content: Buffer;
	thumbnail: Buffer;
	uploadedBy: string;
	uploadedAt: Date;
}

export const photos = new Table<PhotoRow>('photos', {
	id: id(),
	hopId: ref(),
	end: text(),
	sourceSha256: named('source_sha256', text()),
	width: whole(),
	height: whole(),
	sizeBytes: whole(),
	content: bytes(),
	thumbnail: bytes(),
	uploadedBy: ref(),
	uploadedAt: time()
});

export interface JobRow {
	id: string;
	kind: string;
	/** JSON. */
	input: string;
	/** JSON: where to go on from; null until it has said so. */
	state: string | null;
	status: 'running' | 'done' | 'cancelled' | 'failed';
	total: number;
	done: number;
	cancelRequested: boolean;
	/** JSON; null until it has ended. */
	result: string | null;
	/** Why it failed, in words. */
	trouble: string | null;
	startedBy: string;
	startedAt: Date;
	touchedAt: Date;
	/** Who works on it, as a token of this one try; null while nobody does. */
	holder: string | null;
	leasedUntil: Date | null;
	tries: number;
	/** Whoever it runs for, and null once it has ended: one of a kind at a time for each person. */
	runningFor: string | null;
}

export const jobs = new Table<JobRow>('jobs', {
	id: id(),
	kind: text(),
	input: long(),
	state: optional(long()),
	status: text(),
	total: whole(),
	done: whole(),
	cancelRequested: flag(),
	result: optional(long()),
	trouble: optional(text()),
	startedBy: ref(),
	startedAt: time(),
	touchedAt: time(),
	holder: optional(text()),
	leasedUntil: optional(time()),
	tries: whole(),
	runningFor: optional(text())
});

export interface PartTableRow {
	id: string;
	kind: PartKind;
	code: string;
	name: string;
	fromGhz: number | null;
	toGhz: number | null;
	version: number;
	data: string;
	retiredAt: Date | null;
	updatedBy: string | null;
	updatedAt: Date;
}

export const parts = new Table<PartTableRow>('parts', {
	id: id(),
	kind: text(),
	code: text(),
	name: text(),
	fromGhz: optional(real()),
	toGhz: optional(real()),
	version: whole(),
	data: long(),
	retiredAt: optional(time()),
	updatedBy: optional(ref()),
	updatedAt: time()
});

export interface PartVersionTableRow {
	partId: string;
	version: number;
	data: string;
	note: string;
	madeBy: string | null;
	madeAt: Date;
}

export const partVersions = new Table<PartVersionTableRow>('part_versions', {
	partId: keyed(ref()),
	version: keyed(whole()),
	data: long(),
	note: text(),
	madeBy: optional(ref()),
	madeAt: time()
});

export interface AuditRow {
	at: Date;
	userId: string | null;
	action: string;
	subject: string;
	/** JSON. */
	detail: string;
}

export const auditTrail = new Table<AuditRow>('audit_trail', {
	at: time(),
	userId: optional(ref()),
	action: text(),
	subject: text(),
	detail: long()
});

export interface InstallationRow {
	id: 1;
	publicKey: string;
	privateKey: string;
	madeAt: Date;
}

/** The key pair of this installation, in one row. */
export const installation = new Table<InstallationRow>('installation', {
	id: keyed(whole()),
	publicKey: text(),
	privateKey: text(),
	madeAt: time()
});

export interface TrustedRow {
	publicKey: string;
	name: string;
	addedBy: string;
	addedAt: Date;
	withdrawnAt: Date | null;
}

export const trustedInstallations = new Table<TrustedRow>('trusted_installations', {
	publicKey: keyed(text()),
	name: text(),
	addedBy: ref(),
	addedAt: time(),
	withdrawnAt: optional(time())
});

interface ImportRow {
	importedBy: string;
	importedAt: Date;
	sourceKey: string | null;
	sourceName: string | null;
	lastSeq: number;
	revisions: number;
	acceptances: number;
	/** JSON of where the source had it from; null where it was its own. */
	earlier: string | null;
}

export interface HopImportRow extends ImportRow {
	hopId: string;
	photos: number;
}

export interface HubImportRow extends ImportRow {
	hubId: string;
}

const importColumns = {
	importedBy: ref(),
	importedAt: time(),
	sourceKey: optional(text()),
	sourceName: optional(text()),
	lastSeq: big(),
	revisions: whole(),
	acceptances: whole(),
	earlier: optional(long())
};

export const hopImports = new Table<HopImportRow>('hop_imports', {
	hopId: keyed(ref()),
	photos: whole(),
	...importColumns
});

export const hubImports = new Table<HubImportRow>('hub_imports', {
	hubId: keyed(ref()),
	...importColumns
});

export interface DayPlanRow {
	hopId: string;
	/** JSON. */
	content: string;
	version: number;
	changedBy: string;
	changedAt: Date;
}

export const dayPlans = new Table<DayPlanRow>('day_plans', {
	hopId: keyed(ref()),
	content: long(),
	version: whole(),
	changedBy: ref(),
	changedAt: time()
});

export interface CrewRow {
	id: string;
	name: string;
	region: string;
	zone: string;
	fromMin: number;
	toMin: number;
	baseLatitudeDeg: number | null;
	baseLongitudeDeg: number | null;
	/** JSON. */
	equipment: string;
	version: number;
	changedBy: string;
	changedAt: Date;
}

export const crews = new Table<CrewRow>('crews', {
	id: id(),
	name: text(),
	region: text(),
	zone: text(),
	fromMin: whole(),
	toMin: whole(),
	baseLatitudeDeg: optional(number()),
	baseLongitudeDeg: optional(number()),
	equipment: long(),
	version: whole(),
	changedBy: ref(),
	changedAt: time()
});

export interface CrewPersonRow {
	id: string;
	crewId: string;
	place: number;
	name: string;
	phone: string;
	userId: string | null;
	climber: boolean;
	rigger: boolean;
	acceptor: boolean;
}

export const crewPeople = new Table<CrewPersonRow>('crew_people', {
	id: id(),
	crewId: ref(),
	place: whole(),
	name: text(),
	phone: text(),
	userId: optional(ref()),
	climber: flag(),
	rigger: flag(),
	acceptor: flag()
});

export interface ProjectRow {
	id: string;
	name: string;
	region: string;
	/** As `2026-06-15`; null for none. */
	dueDay: string | null;
	note: string;
	/** JSON of how its work is scheduled; null while nobody has said. */
	schedule: string | null;
	/** JSON of how far each hop was read for the schedule. */
	scheduleRead: string | null;
	/** What the schedule was worked out from, compressed. */
	scheduleBasis: Buffer | null;
	version: number;
	changedBy: string;
	changedAt: Date;
}

export const projects = new Table<ProjectRow>('projects', {
	id: id(),
	name: text(),
	region: text(),
	dueDay: optional(text()),
	note: text(),
	schedule: optional(long()),
	scheduleRead: optional(long()),
	scheduleBasis: optional(bytes()),
	version: whole(),
	changedBy: ref(),
	changedAt: time()
});

export interface ProjectHopRow {
	hopId: string;
	projectId: string;
	/** Where it differs from the project's. */
	dueDay: string | null;
}

export const projectHops = new Table<ProjectHopRow>('project_hops', {
	hopId: keyed(ref()),
	projectId: ref(),
	dueDay: optional(text())
});

export interface AssignmentRow {
	id: string;
	hopId: string;
	end: End;
	crewId: string;
	/** As `2026-06-15`, by the clock of the crew. */
	day: string;
	/** When to be there, minutes after midnight; null where nobody has said. */
	fromMin: number | null;
	note: string;
	madeBy: string;
	madeAt: Date;
}

export const assignments = new Table<AssignmentRow>('assignments', {
	id: id(),
	hopId: ref(),
	end: text(),
	crewId: ref(),
	day: text(),
	fromMin: optional(whole()),
	note: text(),
	madeBy: ref(),
	madeAt: time()
});

export interface BoardViewRow {
	id: string;
	userId: string;
	name: string;
	/** What it asks for, as it stands in an address. */
	query: string;
}

export const boardViews = new Table<BoardViewRow>('board_views', {
	id: id(),
	userId: ref(),
	name: text(),
	query: text()
});

export interface CalendarAddressRow {
	id: string;
	userId: string;
	/** Whose days it gives; null for those of the person. */
	crewId: string | null;
	tokenHash: string;
	madeAt: Date;
	usedAt: Date | null;
}

export const calendarAddresses = new Table<CalendarAddressRow>('calendar_addresses', {
	id: id(),
	userId: ref(),
	crewId: optional(ref()),
	tokenHash: text(),
	madeAt: time(),
	usedAt: optional(time())
});

export interface SaidDurationsRow {
	/** 1: there is one. */
	id: number;
	/** JSON of the spreads by kind of work, minutes. */
	content: string;
	version: number;
	changedBy: string;
	changedAt: Date;
}

export const saidDurations = new Table<SaidDurationsRow>('said_durations', {
	id: keyed(whole()),
	content: long(),
	version: whole(),
	changedBy: ref(),
	changedAt: time()
});

export interface SeenDurationRow {
	hopId: string;
	kind: string;
	n: number;
	/** Sums of the logarithms of the minutes, and of their squares. */
	sumLog: number;
	sumLog2: number;
}

export const seenDurations = new Table<SeenDurationRow>('seen_durations', {
	hopId: keyed(ref()),
	kind: keyed(text()),
	n: whole(),
	sumLog: real(),
	sumLog2: named('sum_log2', real())
});
