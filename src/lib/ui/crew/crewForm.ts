import type { Crew } from '#core/schedule/crew';
import { typedCoordinate } from '#core/geodesy/typedCoordinate';
import type { Skill } from '#core/schedule/problem';
import { clockMinute, clockText } from '../timetable/dayForm';

export interface PersonForm {
	id: string;
	name: string;
	phone: string;
	/** Empty where they have no account. */
	userId: string;
	skills: Skill[];
}

/** A crew as it is typed. */
export interface CrewForm {
	name: string;
	region: string;
	zone: string;
	from: string;
	to: string;
	latitude: string;
	longitude: string;
	/** One a line. */
	equipment: string;
	people: PersonForm[];
}

export const newPerson = (id: string): PersonForm => ({
	...{ id, name: '', phone: '', userId: '', skills: [] }
});

/** A crew nobody has typed anything of. */
export const emptyCrewForm = (zone: string, personId: string): CrewForm => ({
	...{ name: '', region: '', zone, from: '07:00', to: '17:00', latitude: '', longitude: '' },
	...{ equipment: '', people: [newPerson(personId)] }
});

export const crewFormOf = (crew: Crew): CrewForm => ({
	...{ name: crew.name, region: crew.region, zone: crew.zone },
	...{ from: clockText(crew.fromMin), to: clockText(crew.toMin) },
	latitude: crew.base ? String(crew.base.latitudeDeg) : '',
	longitude: crew.base ? String(crew.base.longitudeDeg) : '',
	equipment: crew.equipment.join('\n'),
	people: crew.people.map(({ userId, skills, ...person }) => ({
		...person,
		userId: userId ?? '',
		skills: [...skills]
	}))
});

/** What is sent of it: what cannot be read goes as it is typed, and the server says at its field what is wrong. */
export function crewBody(form: CrewForm): object {
	const { name, region, zone, from, to, latitude, longitude, equipment, people } = form;
	const placed = latitude.trim() !== '' || longitude.trim() !== '';
	return {
		...{ name, region, zone },
		fromMin: clockMinute(from) ?? from,
		toMin: clockMinute(to) ?? to,
		base: placed
			? {
					latitudeDeg: typedCoordinate(latitude, 'latitude') ?? latitude,
					longitudeDeg: typedCoordinate(longitude, 'longitude') ?? longitude
				}
			: null,
		equipment: equipment
			.split('\n')
			.map((line) => line.trim())
			.filter(Boolean),
		people: people.map(({ userId, ...person }) => ({ ...person, userId: userId || null }))
	};
}
