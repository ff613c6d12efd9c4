import { durationsInUse } from '$lib/server/services/durations';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({ durations: await durationsInUse() });
