/** A day of the calendar as `Tue 16 June`. */
export function dayWords(day: string): string {
	const at = new Date(`${day}T12:00:00Z`);
	if (Number.isNaN(at.getTime())) return day;
	const parts = { weekday: 'short', day: 'numeric', month: 'long', timeZone: 'UTC' } as const;
	return new Intl.DateTimeFormat('en-GB', parts).format(at).replace(',', '');
}
