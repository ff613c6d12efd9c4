import type { Endpoint } from '../endpoint';
import { fixedDocument } from '../document';
import { openApiDocument } from '../openapi';
import { accountEndpoints } from './accounts';
import { attachmentEndpoints } from './attachments';
import { crewEndpoints } from './crews';
import { computeEndpoints } from './compute';
import { exchangeEndpoints } from './exchange';
import { fieldEndpoints } from './field';
import { hubEndpoints } from './hubs';
import { hubFieldEndpoints } from './hubField';
import { installationEndpoints } from './installation';
import { jobEndpoints } from './jobs';
import { partEndpoints } from './parts';
import { photoEndpoints } from './photos';
import { planningEndpoints } from './planning';
import { terrainEndpoints } from './terrain';

const described: readonly Endpoint[] = [
	...accountEndpoints,
	...installationEndpoints,
	...planningEndpoints,
	...hubEndpoints,
	...hubFieldEndpoints,
	...crewEndpoints,
	...partEndpoints,
	...attachmentEndpoints,
	...exchangeEndpoints,
	...jobEndpoints,
	...terrainEndpoints,
	...fieldEndpoints,
	...photoEndpoints,
	...computeEndpoints
];

/** Every endpoint of the API, the description of the API included. */
export const endpoints: readonly Endpoint[] = [
	...described,
	{
		method: 'GET',
		path: '/openapi.json',
		tag: 'About',
		summary: 'This description',
		access: 'public',
		handle: fixedDocument(() => openApiDocument(described))
	}
];
