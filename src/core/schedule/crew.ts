import { SKILLS, type Skill } from './problem';

/** Somebody who works in a crew, with an account here or without. */
export interface CrewPerson {
	id: string;
	name: string;
	/** How to reach them; empty where nobody has said. */
	phone: string;
	/** Their account; null where they have none. */
	userId: string | null;
	skills: readonly Skill[];
}

/** People who go to a site together, with what they have. */
export interface Crew {
	name: string;
	/** Where it mostly works, in the words of the firm. */
	region: string;
	/** IANA zone of its clock. */
	zone: string;
	/** When it works, minutes after midnight by its clock; the end may lie past midnight. */
	fromMin: number;
	toMin: number;
	/** Where it sets out from; null where nobody has said. */
	base: { latitudeDeg: number; longitudeDeg: number } | null;
	/** What only some crews have: a winch, a meter for a band. */
	equipment: readonly string[];
	people: readonly CrewPerson[];
}

export const MOST_CREW_PEOPLE = 40;

/** How many of a crew have each skill. */
export function skillsOf({ people }: Pick<Crew, 'people'>): Record<Skill, number> {
	const count = (skill: Skill): number =>
		people.filter(({ skills }) => skills.includes(skill)).length;
	return Object.fromEntries(SKILLS.map((skill) => [skill, count(skill)])) as Record<Skill, number>;
}
