import {
	DataTypes,
	type Model,
	type ModelAttributeColumnOptions,
	type ModelAttributes,
	type ModelStatic
} from 'sequelize';
import type { End } from '#core/ends';
import type { Role } from '../auth/roles';
import { db } from './connection';

export interface UserRow {
	id: string;
	signInName: string;
	displayName: string;
	role: Role;
	passwordHash: string;
	disabled: boolean;
	createdAt: Date;
}

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
}

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

export interface FieldRecordRow {
	id: string;
	hopId: string;
	seq: number;
	revisionId: string;
	end: End;
	kind: string;
	payload: string;
	recordedAt: Date;
	receivedAt: Date;
	recordedBy: string;
}

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
}

type Column = ModelAttributeColumnOptions;

// Each column gets an object of its own: Sequelize writes the column's name into it.
const id = (): Column => ({ type: DataTypes.CHAR(36), primaryKey: true });
const ref = (): Column => ({ type: DataTypes.CHAR(36), allowNull: false });
const text = (): Column => ({ type: DataTypes.STRING, allowNull: false });
const long = (): Column => ({ type: DataTypes.TEXT('long'), allowNull: false });
const time = (): Column => ({ type: DataTypes.DATE(3), allowNull: false });
const whole = (): Column => ({ type: DataTypes.INTEGER, allowNull: false });
const big = (): Column => ({ type: DataTypes.BIGINT, allowNull: false });
const number = (): Column => ({ type: DataTypes.DECIMAL, allowNull: false });

function model<Row extends object>(
	table: string,
	attributes: ModelAttributes
): () => ModelStatic<Model<Row, Row>> {
	return () => {
		const sequelize = db();
		if (!sequelize.isDefined(table)) sequelize.define(table, attributes, { tableName: table });
		return sequelize.models[table] as ModelStatic<Model<Row, Row>>;
	};
}

export const users = model<UserRow>('users', {
	id: id(),
	signInName: text(),
	displayName: text(),
	role: text(),
	passwordHash: text(),
	disabled: { type: DataTypes.BOOLEAN, allowNull: false },
	createdAt: time()
});

export const sites = model<SiteRow>('sites', {
	id: id(),
	name: text(),
	latitudeDeg: number(),
	longitudeDeg: number(),
	groundAmslM: number(),
	notes: text(),
	climate: { ...long(), allowNull: true },
	conditions: { ...long(), allowNull: true },
	version: whole(),
	createdBy: ref(),
	createdAt: time(),
	updatedAt: time()
});

export const hops = model<HopRow>('hops', {
	id: id(),
	name: text(),
	siteAId: { ...ref(), field: 'site_a_id' },
	siteBId: { ...ref(), field: 'site_b_id' },
	planDraft: long(),
	simulationSeed: { type: DataTypes.INTEGER, allowNull: true },
	plantedFault: { type: DataTypes.STRING(40), allowNull: true },
	version: whole(),
	createdBy: ref(),
	createdAt: time(),
	updatedAt: time()
});

export const revisions = model<RevisionRow>('plan_revisions', {
	id: id(),
	hopId: ref(),
	number: whole(),
	input: long(),
	plan: long(),
	note: text(),
	review: { ...long(), allowNull: true },
	issuedBy: ref(),
	issuedAt: time()
});

export const fieldRecords = model<FieldRecordRow>('field_records', {
	id: id(),
	hopId: ref(),
	seq: big(),
	revisionId: ref(),
	end: text(),
	kind: text(),
	payload: long(),
	recordedAt: time(),
	receivedAt: time(),
	recordedBy: ref()
});

export const acceptances = model<AcceptanceRow>('acceptances', {
	id: id(),
	hopId: ref(),
	number: whole(),
	revisionId: ref(),
	lastSeq: big(),
	judgement: long(),
	causes: long(),
	signature: long(),
	signedBy: ref(),
	signedAt: time()
});
