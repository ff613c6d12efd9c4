import { cancelJob, getJob, listJobs } from '../../services/jobs';
import { endpoint } from '../endpoint';

export const jobEndpoints = [
	endpoint({
		method: 'GET',
		path: '/jobs',
		tag: 'Long work',
		summary: 'The newest long work of your own: replans and imports',
		access: 'signed-in',
		handle: async ({ actor }) => ({ jobs: await listJobs(actor) })
	}),
	endpoint({
		method: 'GET',
		path: '/jobs/:jobId',
		tag: 'Long work',
		summary: 'How far it is, and its result once there is one',
		access: 'signed-in',
		handle: ({ actor, param }) => getJob(actor, param('jobId'))
	}),
	endpoint({
		method: 'POST',
		path: '/jobs/:jobId/cancel',
		tag: 'Long work',
		summary: 'Ask it to stop',
		access: 'signed-in',
		handle: ({ actor, param }) => cancelJob(actor, param('jobId'))
	})
];
