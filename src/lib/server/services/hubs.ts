import { randomUUID } from 'node:crypto';
import { pickedBy } from '#core/budget/fieldTable';
import { resolveHub, twiceNamed, type HubDraft } from '#core/hub/hubDraft';
import { HUB_FIELDS } from '#core/hub/hubFields';
import type { Provenance } from '#core/provenance/provenance';
import type { PlantedTrouble } from '#core/simulate/simulatedHub';
import { may, requireMay, type Actor } from '../auth/actor';
import { InUseError, unlessTaken } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import {
	hubDocument,
	hubFeatures,
	terminalTable,
	type HubFormat,
	type ReadHub
} from '../formats/hubTable';
import { inWorker } from '../jobs/pool';
import { audit } from '../repositories/audit';
import {
	findHub,
	insertHub,
	pageOfHubs,
	removeHub,
	updateHub as updateRow,
	type HubContent,
	type HubLine,
	type KeptHub
} from '../repositories/hubs';
import { findSite, type Site } from '../repositories/sites';
import { pageOf, type ListQuery, type Page } from './paging';
import { catalogue } from './parts';
import { hubProvenanceOf } from './provenance';

/** A hub with the site it stands at. */
export interface Hub extends Omit<KeptHub, 'siteId' | 'practice'> {
	site: Site;
	/** Whether it is for practice: something stands in for radios and air. */
	practice: boolean;
	/** Troubles that stand there; only those who plan see them. */
	planted: readonly PlantedTrouble[];
	/** How it was taken in; null where it was made here. */
	provenance: Provenance | null;
}

export type { HubLine, ReadHub };

export type SentHub = HubDraft & { name: string; siteId: string; version?: number };

export async function listHubs(actor: Actor, query: ListQuery): Promise<Page<HubLine>> {
	requireMay(actor, 'read-hops');
	return pageOf(query, (slice) => pageOfHubs(query.q, slice));
}

export async function getHub(actor: Actor, id: string): Promise<Hub> {
	requireMay(actor, 'read-hops');
	const kept = await findHub(id);
	if (!kept) throw notFound('hub');
	const { siteId, practice, ...hub } = kept;
	const site = await findSite(siteId);
	if (!site) throw notFound('site');
	const planted = may(actor, 'edit-hops') ? (practice?.planted ?? []) : [];
	const provenance = await hubProvenanceOf(id);
	return { ...hub, site, practice: practice !== null, planted, provenance };
}

/** A hub as a file: its terminals as a table, or the whole as points or as a document. */
export async function exportHub(
	actor: Actor,
	id: string,
	format: HubFormat
): Promise<{ body: string; fileName: string; mediaType: string }> {
	const { name, site, plan } = await getHub(actor, id);
	const { latitudeDeg, longitudeDeg, groundAmslM } = site;
	const hub = { name, site: { name: site.name, latitudeDeg, longitudeDeg, groundAmslM }, plan };
	const fileName = `hub-${name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.${format}`;
	switch (format) {
		case 'csv':
			return { body: terminalTable(hub), fileName, mediaType: 'text/csv; charset=utf-8' };
		case 'geojson':
			return { body: hubFeatures(hub), fileName, mediaType: 'application/geo+json' };
		case 'json':
			return { body: hubDocument(hub), fileName, mediaType: 'application/json' };
	}
}

/** What a file holds of a hub, checked; nothing is kept of it. */
export async function readHub(actor: Actor, format: HubFormat, text: string): Promise<ReadHub> {
	requireMay(actor, 'edit-hops');
	return inWorker('read-hub', { format, text });
}

export async function createHub(actor: Actor, input: SentHub): Promise<Hub> {
	requireMay(actor, 'edit-hops');
	const content = await checkedContent(input);
	const id = randomUUID();
	await sayTaken(() =>
		inTransaction(async (unit) => {
			await insertHub(id, content, actor.userId, new Date(), unit);
			await audit(actor.userId, 'create-hub', `hub:${id}`, { name: content.name }, unit);
		})
	);
	return getHub(actor, id);
}

export async function updateHub(actor: Actor, id: string, input: SentHub): Promise<Hub> {
	requireMay(actor, 'edit-hops');
	const before = await findHub(id);
	if (!before) throw notFound('hub');
	const content = await checkedContent(input);
	const changed = await sayTaken(() =>
		inTransaction(async (unit) => {
			const version = input.version ?? before.version;
			if (!(await updateRow(id, version, content, new Date(), unit))) return false;
			const { name, version: was } = before;
			await audit(actor.userId, 'update-hub', `hub:${id}`, { name, was }, unit);
			return true;
		})
	);
	if (!changed) throw refusal('changed-meanwhile', { what: 'hub' });
	return getHub(actor, id);
}

export async function deleteHub(actor: Actor, id: string): Promise<void> {
	requireMay(actor, 'edit-hops');
	const { name } = await getHub(actor, id);
	try {
		await inTransaction(async (unit) => {
			await removeHub(id, unit);
			await audit(actor.userId, 'delete-hub', `hub:${id}`, { name }, unit);
		});
	} catch (error) {
		if (error instanceof InUseError) throw refusal('hub-has-history');
		throw error;
	}
}

/** What is kept of it: of parts that there are, every name and id once. */
async function checkedContent(sent: SentHub): Promise<HubContent> {
	const { name, siteId } = sent;
	const plan: HubDraft = pickedBy(HUB_FIELDS, sent);
	const site = await findSite(siteId);
	if (!site) throw invalid([{ field: 'siteId', message: 'There is no such site.' }]);
	for (const list of ['units', 'terminals'] as const) {
		const twice = twiceNamed(plan[list]);
		if (twice >= 0) {
			const message = 'Another one of this hub is called the same.';
			throw invalid([{ field: `${list}.${twice}.name`, message }]);
		}
	}
	const resolved = resolveHub(plan, site, await catalogue());
	if (resolved.kind === 'unknown-parts') {
		const message = 'There is no such part.';
		throw invalid(resolved.fields.map((field) => ({ field, message })));
	}
	return { name, siteId, plan };
}

function sayTaken<T>(work: () => Promise<T>): Promise<T> {
	return unlessTaken(work, () => {
		throw refusal('name-taken', 'hub').at('name');
	});
}
