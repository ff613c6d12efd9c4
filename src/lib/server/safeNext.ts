/** No browser can be made to leave by what it takes out of an address before it reads it. */
const CONTROL = /[\p{Cc}\p{Cf}\p{Z}\\]/u;
const HERE = 'http://here.invalid';

/** Where to go on to after signing in: only a path of this application, else its first page. */
export function safeNext(next: string | null): string {
	if (!next?.startsWith('/') || CONTROL.test(next) || !URL.canParse(next, HERE)) return '/';
	const { origin, pathname, search, hash } = new URL(next, HERE);
	return origin === HERE && !pathname.startsWith('//') ? pathname + search + hash : '/';
}
