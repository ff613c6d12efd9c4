import type { Crew, CrewPerson } from '#core/schedule/crew';
import type { Skill } from '#core/schedule/problem';
import { select } from '../db/sql';
import { crewPeople, crews, type CrewPersonRow, type CrewRow } from '../db/tables';
import type { Unit } from '../db/transaction';

/** A crew as it is kept. */
export interface KeptCrew extends Crew {
	id: string;
	version: number;
}

const skillsIn = (row: Pick<CrewPersonRow, Skill>): Skill[] =>
	(['climber', 'rigger', 'acceptor'] as const).filter((skill) => row[skill]);

const personOf = ({ id, name, phone, userId, ...skills }: CrewPersonRow): CrewPerson => ({
	...{ id, name, phone, userId },
	skills: skillsIn(skills)
});

function crewOf(row: CrewRow, people: readonly CrewPersonRow[]): KeptCrew {
	const { id, name, region, zone, fromMin, toMin, version } = row;
	const { baseLatitudeDeg, baseLongitudeDeg } = row;
	return {
		...{ id, name, region, zone, fromMin, toMin, version },
		base:
			baseLatitudeDeg === null || baseLongitudeDeg === null
				? null
				: { latitudeDeg: baseLatitudeDeg, longitudeDeg: baseLongitudeDeg },
		equipment: JSON.parse(row.equipment) as string[],
		people: people.filter(({ crewId }) => crewId === id).map(personOf)
	};
}

async function withPeople(rows: readonly CrewRow[]): Promise<KeptCrew[]> {
	if (rows.length === 0) return [];
	const people = await crewPeople.all(
		{ crewId: rows.map(({ id }) => id) },
		{ order: [['place', 'ASC']] }
	);
	return rows.map((row) => crewOf(row, people));
}

/** Every crew by name. */
export const allCrews = async (): Promise<KeptCrew[]> =>
	withPeople(await crews.all({}, { order: [['name', 'ASC']] }));

export const crewsWith = async (ids: readonly string[]): Promise<KeptCrew[]> =>
	ids.length ? withPeople(await crews.all({ id: ids }, { order: [['name', 'ASC']] })) : [];

export const findCrew = async (id: string): Promise<KeptCrew | undefined> =>
	(await crewsWith([id]))[0];

/**
 * Keeps a crew on top of a version, 0 where there was none. Throws TakenError where the name is another crew's, or
 * somebody has made one under this id meanwhile.
 *
 * @returns whether it still had that version
 */
export async function keepCrew(
	id: string,
	version: number,
	crew: Crew,
	by: { userId: string; at: Date },
	unit: Unit
): Promise<boolean> {
	const values = {
		...{ name: crew.name, region: crew.region, zone: crew.zone },
		...{ fromMin: crew.fromMin, toMin: crew.toMin },
		baseLatitudeDeg: crew.base?.latitudeDeg ?? null,
		baseLongitudeDeg: crew.base?.longitudeDeg ?? null,
		equipment: JSON.stringify(crew.equipment),
		...{ version: version + 1, changedBy: by.userId, changedAt: by.at }
	};
	if (version === 0) await crews.add({ id, ...values }, unit);
	else if ((await crews.change({ id, version }, values, unit)) === 0) return false;
	await crewPeople.remove({ crewId: id }, unit);
	await crewPeople.add(
		crew.people.map(({ skills, ...person }, place) => ({
			...{ ...person, crewId: id, place },
			climber: skills.includes('climber'),
			rigger: skills.includes('rigger'),
			acceptor: skills.includes('acceptor')
		})),
		unit
	);
	return true;
}

/** Throws InUseError where it is assigned anywhere. */
export const removeCrew = (id: string, unit: Unit): Promise<number> => crews.remove({ id }, unit);

/** The accounts of a crew's people. */
export const accountsOfCrew = async (crewId: string, unit: Unit): Promise<string[]> =>
	(
		await select<{ userId: string }>(
			'SELECT user_id AS userId FROM crew_people WHERE crew_id = ? AND user_id IS NOT NULL',
			[crewId],
			unit
		)
	).map(({ userId }) => userId);
