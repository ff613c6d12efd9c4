import { randomUUID } from 'node:crypto';
import { demoParts } from './parts';
import demoHops from '#demo/hops.json';
import demoHubs from '#demo/hubs.json';
import people from '#demo/people.json';
import siteTable from '#demo/sites.csv?raw';
import terrain from '#demo/terrain.tif?inline';
import reasons from '#demo/acceptances.json';
import { radioKeys } from '#core/budget/inventory';
import { ENDS, type PerEnd } from '#core/ends';
import { wholeAlignment } from '#core/record/radioStates';
import { directGeodesic, type GeoPoint } from '#core/geodesy/geodesic';
import { acceptanceKey } from '#core/review/reviewPlan';
import type { Actor } from '../auth/actor';
import type { Role } from '../auth/roles';
import { log } from '../log';
import { audit } from '../repositories/audit';
import { updateSimulation } from '../repositories/hops';
import { hubSchema } from '../schemas/hubs';
import { hopSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';
import { createAccountUnchecked } from '../services/accounts';
import { importFrom } from '../services/importJob';
import { appendRecords, requireRevision } from '../services/feed';
import { createHub, type Hub, type SentHub } from '../services/hubs';
import { loadHubWork } from './hubWork';
import { createHop, setMembers, updateHop, type HopInput } from '../services/hops';
import { putParts } from '../services/parts';
import { issueRevision, reviewDraft } from '../services/plans';
import { listSites, type Site } from '../services/sites';
import { addRaster, takeProfile } from '../services/terrain';
import { builtRecords, closedRecords } from './build';
import { playToLocked } from './play';
import { loadWork } from './work';
import { itemAt, lastOf, present } from '#core/units/lists';

/** The one password of every demo account; offered on the sign-in page in demo mode only. */
export const DEMO_PASSWORD = 'salt-wind-and-rope';

/** The line of the audit trail that tells a whole demo from one broken off half-way. */
export const DEMO_LOADED = 'demo-loaded';

interface DemoHop {
	name: string;
	a: string;
	b: string;
	practice: boolean;
	stage: string;
	seed?: number;
	/** What is wrong with it, kept from its crew. */
	fault?: string;
	/** Fields of both ends, then of either. */
	shared: object;
	A: object;
	B: object;
	plan: object;
	landmarks?: object[];
}

const CREW: PerEnd<string> = { A: 'crew-a', B: 'crew-b' };

function actorOf(actors: ReadonlyMap<string, Actor>, signInName: string): Actor {
	return present(actors.get(signInName), `demo account ${signInName}`);
}

/** Fills an empty database with made-up people, sites and hops in several stages. */
export async function loadDemo(): Promise<void> {
	const actors = new Map<string, Actor>();
	for (const person of people) {
		const role = person.role as Role;
		const userId = await createAccountUnchecked({ ...person, role, password: DEMO_PASSWORD });
		actors.set(person.signInName, { userId, displayName: person.displayName, role });
	}
	const planner = actorOf(actors, 'planner');
	await putParts(planner.userId, demoParts());
	await addRaster(
		planner,
		'Archipelago, 1.5″',
		Buffer.from(itemAt(terrain.split(','), 1), 'base64')
	);
	const taken = await importFrom(planner, {
		subject: 'sites',
		format: 'csv',
		text: siteTable,
		commit: true,
		takeGood: false
	});
	if (taken.imported === 0) throw new Error(`demo/sites.csv: ${JSON.stringify(taken.rows)}`);
	const siteIds = new Map((await siteList(planner)).map((site) => [site.name, site]));
	const everyone = [...actors.values()]
		.filter((actor) => actor.role !== 'administrator')
		.map((actor) => actor.userId);
	for (const demoHop of [...(demoHops as DemoHop[])].reverse()) {
		await loadHop(demoHop, siteIds, actors, everyone);
	}
	for (const demoHub of demoHubs) {
		const hub = await loadHub(demoHub, siteIds, planner);
		await loadHubWork(hub, demoHub, { planner, crew: actorOf(actors, 'crew-a') });
	}
	await loadWork(planner, actors);
	await audit(null, DEMO_LOADED, 'demo');
	log.info('The demo scenario was loaded.');
}

/** A hub whose terminals are given by bearing and distance; the ground on the way is that of the demo's terrain. */
async function loadHub(
	{ name, site: siteName, plan, terminals }: (typeof demoHubs)[number],
	sites: Map<string, Site>,
	planner: Actor
): Promise<Hub> {
	const site = present(sites.get(siteName), `demo site ${siteName}`);
	const from = { latitudeDeg: site.latitudeDeg, longitudeDeg: site.longitudeDeg };
	const placed = [];
	for (const { bearingDeg, distanceM, ...terminal } of terminals) {
		const { latitudeDeg, longitudeDeg } = directGeodesic(site, bearingDeg, distanceM);
		const at = {
			latitudeDeg: Number(latitudeDeg.toFixed(6)),
			longitudeDeg: Number(longitudeDeg.toFixed(6))
		};
		const found = await takeProfile(planner, { a: from, b: at, stepM: 10 });
		if (found.kind !== 'profile') throw new Error(`no terrain to ${terminal.name}`);
		const groundAmslM = lastOf(found.profile.groundsAmslM);
		placed.push({ id: randomUUID(), ...terminal, ...at, groundAmslM, profile: found.profile });
	}
	const body = { name, siteId: site.id, ...plan, terminals: placed };
	return createHub(planner, validate<SentHub>(hubSchema, body));
}

async function siteList(planner: Actor): Promise<Site[]> {
	return (await listSites(planner, { q: '', page: 1 })).rows;
}

async function loadHop(
	demoHop: DemoHop,
	sites: Map<string, Site>,
	actors: Map<string, Actor>,
	everyone: string[]
): Promise<void> {
	const planner = actorOf(actors, 'planner');
	const input = await hopInput(planner, demoHop, sites);
	let hop = await createHop(planner, input);
	if (demoHop.seed !== undefined) {
		await updateSimulation(hop.id, demoHop.seed, demoHop.fault ?? null);
	}
	await setMembers(planner, hop.id, everyone);
	if (demoHop.stage === 'draft') return;
	const review = await reviewDraft(planner, hop.id);
	const acceptances: Record<string, string> = {};
	for (const finding of review.findings.filter((f) => f.severity === 'warning')) {
		const reason = (reasons as Record<string, string>)[finding.code];
		if (reason) acceptances[acceptanceKey(finding)] = reason;
	}
	hop = await updateHop(planner, hop.id, {
		...input,
		plan: { ...input.plan, acceptances },
		version: hop.version
	});
	await issueRevision(planner, hop.id, {
		id: randomUUID(),
		version: hop.version,
		note: 'First issue.'
	});
	if (demoHop.stage === 'prepare') return;
	const { input: issued, plan } = await requireRevision(hop.id);
	for (const end of ENDS) {
		const actor = actorOf(actors, CREW[end]);
		await appendRecords(actor, hop.id, builtRecords(issued, plan, end));
	}
	if (demoHop.stage === 'power') return;
	for (const end of ENDS) {
		await appendRecords(actorOf(actors, CREW[end]), hop.id, [
			{
				id: randomUUID(),
				end,
				kind: 'alignment-state',
				payload: wholeAlignment(radioKeys(issued, end)),
				recordedAt: new Date().toISOString()
			}
		]);
	}
	if (demoHop.stage === 'accept') {
		await playToLocked(hop.id, { A: actorOf(actors, CREW.A), B: actorOf(actors, CREW.B) });
		for (const end of ENDS) {
			const actor = actorOf(actors, CREW[end]);
			await appendRecords(actor, hop.id, closedRecords(end, issued, plan));
		}
	}
}

async function hopInput(
	planner: Actor,
	demoHop: DemoHop,
	sites: Map<string, Site>
): Promise<HopInput> {
	const a = present(sites.get(demoHop.a), 'site');
	const b = present(sites.get(demoHop.b), 'site');
	const sampled = await takeProfile(planner, { a: pointOf(a), b: pointOf(b), stepM: 40 });
	const end = (own: object, side: string): object => ({
		feederCode: 'FD-0',
		feederLengthM: 0,
		mountSide: side,
		...demoHop.shared,
		...own
	});
	const { path, ...plan } = demoHop.plan as { path?: object };
	return validate<HopInput>(hopSchema, {
		name: demoHop.name,
		siteAId: a.id,
		siteBId: b.id,
		practice: demoHop.practice,
		plan: {
			...plan,
			path: { ...path, profile: sampled.kind === 'profile' ? sampled.profile : null },
			landmarks: demoHop.landmarks ?? [],
			workDate: new Date().toISOString().slice(0, 10),
			ends: { A: end(demoHop.A, 'right'), B: end(demoHop.B, 'left') }
		}
	});
}

const pointOf = ({ latitudeDeg, longitudeDeg }: Site): GeoPoint => ({ latitudeDeg, longitudeDeg });
