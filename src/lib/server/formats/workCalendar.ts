import ical, { ICalCalendarMethod } from 'ical-generator';
import type { GeoPoint } from '#core/geodesy/geodesic';

/** A day of a crew at an end, as a calendar shows it. */
export interface WorkDay {
	/** Of the assignment: the same entry each time. */
	id: string;
	from: Date;
	to: Date;
	hopName: string;
	end: 'A' | 'B';
	siteName: string;
	site: GeoPoint;
	crew: string;
	note: string;
	/** Who is at the other end; empty where nobody is. */
	far: string;
	/** Address of the page of that end. */
	url: string;
}

/** Days of work as iCalendar (RFC 5545). */
export function workCalendar(name: string, days: readonly WorkDay[], madeAt: Date): string {
	const calendar = ical({
		name,
		method: ICalCalendarMethod.PUBLISH,
		prodId: { company: 'skiaxis', product: 'work', language: 'EN' }
	});
	for (const day of days) {
		calendar.createEvent({
			...{ id: `${day.id}@skiaxis`, start: day.from, end: day.to, stamp: madeAt, url: day.url },
			summary: `${day.end} ${day.siteName}: ${day.hopName}`,
			description: [day.crew, day.note, day.far && `Other end: ${day.far}`]
				.filter(Boolean)
				.join('\n'),
			location: {
				title: day.siteName,
				geo: { lat: day.site.latitudeDeg, lon: day.site.longitudeDeg }
			}
		});
	}
	return calendar.toString();
}
