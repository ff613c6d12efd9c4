import { error } from '@sveltejs/kit';
import { AppError } from './errors';

/** Runs the loading of a page; a refusal becomes the error page with its own words. */
export async function orErrorPage<T>(work: () => Promise<T>): Promise<T> {
	try {
		return await work();
	} catch (refusal) {
		if (refusal instanceof AppError) error(refusal.status, refusal.message);
		throw refusal;
	}
}
