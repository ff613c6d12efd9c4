/* eslint-disable svelte/prefer-svelte-reactivity -- the dates below are never changed */
/** Set once the page is alive: before that the server draws it, which knows nobody's zone or locale. */
const person = $state({ here: false });

/** The page runs in somebody's browser from now on: moments are told in their own time, too. */
export function tellLocalTime(): void {
	person.here = true;
}

const UTC = { timeZone: 'UTC' } as const;
const inUtc = new Intl.DateTimeFormat('en-GB', {
	dateStyle: 'medium',
	timeStyle: 'short',
	...UTC
});

/** What the zone of this device is called on a day, such as `GMT+2`. */
function zoneOf(at: Date): string {
	const parts = new Intl.DateTimeFormat(undefined, { timeZoneName: 'short' }).formatToParts(at);
	return parts.find(({ type }) => type === 'timeZoneName')?.value ?? '';
}

/**
 * A moment: where it is read, in the reader's own time, zone and manner of writing, with UTC beside it, by
 * which the record goes.
 */
export function moment(value: string | Date): string {
	const at = typeof value === 'string' ? new Date(value) : value;
	if (!person.here) return `${inUtc.format(at)} UTC`;
	const style = { dateStyle: 'medium', timeStyle: 'short' } as const;
	if (at.getTimezoneOffset() === 0) {
		return `${new Intl.DateTimeFormat(undefined, { ...style, ...UTC }).format(at)} UTC`;
	}
	const here = new Intl.DateTimeFormat(undefined, style).format(at);
	const sameDay = at.getUTCDate() === at.getDate();
	const utc = new Intl.DateTimeFormat(undefined, {
		...(sameDay ? {} : { day: 'numeric', month: 'short' }),
		...{ hour: '2-digit', minute: '2-digit' },
		...UTC
	}).format(at);
	return `${here} ${zoneOf(at)} (${utc} UTC)`;
}

/** The time of day of a moment, as {@link moment} tells it, with seconds and without the day. */
export function timeOfDay(value: string | Date): string {
	const at = typeof value === 'string' ? new Date(value) : value;
	const style = { timeStyle: 'medium' } as const;
	if (!person.here || at.getTimezoneOffset() === 0) {
		const locale = person.here ? undefined : 'en-GB';
		return `${new Intl.DateTimeFormat(locale, { ...style, ...UTC }).format(at)} UTC`;
	}
	return `${new Intl.DateTimeFormat(undefined, style).format(at)} ${zoneOf(at)}`;
}
