import type { HubRecord } from '#core/bringup/hubRecords';
import type { Provenance } from '#core/provenance/provenance';
import { may, type Actor } from '../auth/actor';
import type { HubRevision } from '../repositories/hubWork';
import { terminalAcceptances, type TerminalAcceptance } from './hubAcceptance';
import { getHub } from './hubs';
import { allRecordsOfHub, hubInForce } from './hubWork';

/** What the page of the work at a hub is made of. */
export interface HubWorkPage {
	hub: {
		id: string;
		name: string;
		siteName: string;
		practice: boolean;
		provenance: Provenance | null;
	};
	revision: HubRevision | null;
	records: HubRecord[];
	acceptances: TerminalAcceptance[];
	rights: { plan: boolean; record: boolean; sign: boolean };
}

export async function loadHubWorkPage(actor: Actor, hubId: string): Promise<HubWorkPage> {
	const { id, name, site, practice, provenance } = await getHub(actor, hubId);
	const revision = await hubInForce(actor, hubId);
	return {
		hub: { id, name, siteName: site.name, practice, provenance },
		revision,
		records: revision ? await allRecordsOfHub(actor, hubId) : [],
		acceptances: revision ? await terminalAcceptances(actor, hubId) : [],
		rights: {
			plan: may(actor, 'edit-hops'),
			record: may(actor, practice ? 'record-practice' : 'record'),
			sign: may(actor, 'sign')
		}
	};
}
