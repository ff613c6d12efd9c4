import { catalogue } from '$lib/server/services/parts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({ radios: (await catalogue()).terminals });
