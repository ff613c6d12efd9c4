import { randomUUID } from 'node:crypto';
import Papa from 'papaparse';
import demoHops from '$demo/hops.json';
import people from '$demo/people.json';
import siteTable from '$demo/sites.csv?raw';
import { ENDS, type End } from '$core/ends';
import type { Actor } from '../auth/actor';
import { hops, type Role } from '../db/models';
import { log } from '../log';
import { audit } from '../repositories/audit';
import { hopSchema, siteSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';
import { createAccountUnchecked } from '../services/accounts';
import { appendRecords } from '../services/feed';
import { createHop, setMembers, type HopInput } from '../services/hops';
import { issueRevision } from '../services/plans';
import { createSite, type SiteInput } from '../services/sites';
import { playToLocked } from './play';

/** The one password of every demo account; offered on the sign-in page in demo mode only. */
export const DEMO_PASSWORD = 'salt-wind-and-rope';

/** The line of the audit trail that tells a whole demo from one broken off half-way. */
export const DEMO_LOADED = 'demo-loaded';

type DemoHop = (typeof demoHops)[number] & {
	mountB?: string;
	feederM?: number[];
	seed?: number;
};

/** Fills an empty database with made-up people, sites and hops in several stages. */
export async function loadDemo(): Promise<void> {
	const actors = new Map<string, Actor>();
	for (const person of people) {
		const role = person.role as Role;
		const userId = await createAccountUnchecked({ ...person, role, password: DEMO_PASSWORD });
		actors.set(person.signInName, { userId, displayName: person.displayName, role });
	}
	const planner = actors.get('planner')!;
	const siteIds = new Map<string, string>();
	const table = Papa.parse<Record<string, string>>(siteTable.trim(), { header: true });
	for (const row of table.data) {
		const input = validate<SiteInput>(siteSchema, {
			name: row.name,
			latitudeDeg: row.latitude_deg,
			longitudeDeg: row.longitude_deg,
			groundAmslM: row.ground_amsl_m,
			notes: row.notes
		});
		siteIds.set(input.name, (await createSite(planner, input)).id);
	}
	const everyone = [...actors.values()]
		.filter((actor) => actor.role !== 'administrator')
		.map((actor) => actor.userId);
	for (const demoHop of [...demoHops].reverse()) {
		await loadHop(demoHop, siteIds, actors, everyone);
	}
	await audit(null, DEMO_LOADED, 'demo');
	log.info('The demo scenario was loaded.');
}

async function loadHop(
	demoHop: DemoHop,
	siteIds: Map<string, string>,
	actors: Map<string, Actor>,
	everyone: string[]
): Promise<void> {
	const planner = actors.get('planner')!;
	const hop = await createHop(planner, hopInput(demoHop, siteIds));
	if (demoHop.seed !== undefined) {
		await hops().update({ simulationSeed: demoHop.seed }, { where: { id: hop.id } });
	}
	await setMembers(planner, hop.id, everyone);
	if (demoHop.stage === 'draft') return;
	await issueRevision(planner, hop.id, {
		id: randomUUID(),
		version: hop.version,
		note: 'First issue.'
	});
	if (demoHop.stage === 'prepare' || demoHop.stage === 'power') return;
	for (const end of ENDS) {
		await appendRecords(actors.get(end === 'A' ? 'crew-a' : 'crew-b')!, hop.id, [
			{
				id: randomUUID(),
				end,
				kind: 'alignment-state',
				payload: {
					powerControlOff: true,
					adaptiveModulationOff: true,
					fixedPower: true,
					transmitterOn: true
				},
				recordedAt: new Date().toISOString()
			}
		]);
	}
	if (demoHop.stage === 'accept') {
		await playToLocked(hop.id, { A: actors.get('crew-a')!, B: actors.get('crew-b')! });
	}
}

function hopInput(demoHop: DemoHop, siteIds: Map<string, string>): HopInput {
	const end = (name: End): object => {
		const i = name === 'A' ? 0 : 1;
		return {
			radioCode: demoHop.radio,
			dishCode: demoHop.dish[i],
			mountCode: i === 1 ? (demoHop.mountB ?? demoHop.mount) : demoHop.mount,
			feederCode: demoHop.feeder,
			feederLengthM: demoHop.feederM?.[i] ?? 0,
			antennaHeightAglM: demoHop.heights[i],
			transmitFrequencyGhz: demoHop.txGhz[i],
			transmitPowerDbm: demoHop.powerDbm,
			alignmentPowerDbm: demoHop.alignDbm,
			mountSide: i === 0 ? 'right' : 'left',
			landmark: demoHop.landmarks[i],
			siteNotes: ''
		};
	};
	return validate<HopInput>(hopSchema, {
		name: demoHop.name,
		siteAId: siteIds.get(demoHop.a),
		siteBId: siteIds.get(demoHop.b),
		practice: demoHop.practice,
		plan: {
			polarization: demoHop.polarization,
			channelWidthMhz: demoHop.widthMhz,
			operatingModulation: demoHop.modulation,
			workDate: new Date().toISOString().slice(0, 10),
			ends: { A: end('A'), B: end('B') }
		}
	});
}
