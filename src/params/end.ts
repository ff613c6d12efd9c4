import type { ParamMatcher } from '@sveltejs/kit';

export const match = ((param: string): param is 'a' | 'b' =>
	param === 'a' || param === 'b') satisfies ParamMatcher;
