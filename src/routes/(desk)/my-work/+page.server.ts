import { may } from '$lib/server/auth/actor';
import { firstStepsCookie } from '$lib/ui/words/firstSteps';
import { listCalendars } from '$lib/server/services/workCalendars';
import { myWork } from '$lib/server/services/myWork';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, depends, cookies }) => {
	depends('skiaxis:my-work');
	return {
		work: await myWork(locals.actor!, Date.now()),
		calendars: await listCalendars(locals.actor!),
		firstStepsSeen: cookies.get(firstStepsCookie(locals.actor!.role)) === 'seen',
		mayPlan: may(locals.actor!, 'edit-hops')
	};
};
