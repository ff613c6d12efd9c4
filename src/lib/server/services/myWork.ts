import { dayOutside, type DayOutside } from '#core/crew/dayOutside';
import type { PartsLine } from '#core/crew/dayBrief';
import { farEnd, type End } from '#core/ends';
import { clockMoment, daysOf } from '#core/schedule/hours';
import type { EndStanding } from '#core/stage/standing';
import { requireMay, viewerOf, type Actor } from '../auth/actor';
import { inWorker } from '../jobs/pool';
import { assignmentsOf, assignmentsOfCrews, type Assignment } from '../repositories/assignments';
import { attachmentsAt } from '../repositories/attachments';
import { linesOf, pageOfBoard, type BoardLine } from '../repositories/board';
import { allCrews, type KeptCrew } from '../repositories/crews';
import { lastSeqsOf } from '../repositories/feeds';
import { dayPlansOf } from '../repositories/dayPlans';
import { seenOf } from '../repositories/hops';
import { sitesOfHops, type Site } from '../repositories/sites';
import { readAllRecords } from './feed';
import { findingsOf } from './findings';
import { findLatestRevision } from './plans';
import { freshStands } from './stands';

/** Who to reach at the other end. */
export interface CrewToReach {
	name: string;
	day: string;
	people: { name: string; phone: string }[];
}

/** An end where somebody works on a day. */
export interface PlaceOfWork {
	id: string;
	hopId: string;
	hopName: string;
	practice: boolean;
	accepted: boolean;
	end: End;
	site: Pick<Site, 'name' | 'latitudeDeg' | 'longitudeDeg' | 'groundAmslM' | 'notes'>;
	crew: string;
	/** As `2026-06-15`, by the clock of the zone. */
	day: string;
	zone: string;
	/** When to be there, ISO 8601 UTC: as assigned, else when the crew begins. */
	at: string;
	note: string;
	standing: EndStanding;
	/** Place of the latest record of the hop; what comes after it may call somebody. */
	lastSeq: number;
	far: { site: string; standing: EndStanding; crews: CrewToReach[] };
	/** Light and weather of the day. */
	outside: DayOutside;
	/** Told of the places that come first. */
	brief: Brief | null;
}

/** What to take along to an end. */
export interface Brief {
	/** Plan revision in force; null while none is issued. */
	revision: number | null;
	bring: PartsLine[];
	/** Files of the site, beside the site sheet. */
	documents: string[];
}

/** Today and the days that come, for somebody. */
export interface MyWork {
	crews: { id: string; name: string }[];
	/** Today by the clock of the first crew, else of the server in UTC. */
	today: string;
	places: PlaceOfWork[];
	/** Of earlier days, where their own end is not done. */
	unfinished: PlaceOfWork[];
	/** Hops that somebody sees and that wait for nobody else, where no crew of theirs is assigned anywhere. */
	others: BoardLine[];
}

const DAYS_BACK = 14;
const DAYS_ON = 21;
const MOST_PLACES = 60;
/** What to bring is worked out for so many. */
const MOST_BRIEFS = 4;
const MOST_OTHERS = 6;
const MOST_DOCUMENTS = 20;
const DAY_MS = 86_400_000;
const MINUTE_MS = 60_000;

/** @param now ms since 1970 */
export async function myWork(actor: Actor, now: number): Promise<MyWork> {
	requireMay(actor, 'read-hops');
	await freshStands();
	const everyCrew = await allCrews();
	const mine = everyCrew.filter(({ people }) =>
		people.some(({ userId }) => userId === actor.userId)
	);
	const zone = mine[0]?.zone ?? 'Etc/UTC';
	const today = dayAt(now, zone);
	const found = await assignmentsOfCrews(
		mine.map(({ id }) => id),
		shifted(today, -DAYS_BACK),
		shifted(today, DAYS_ON),
		MOST_PLACES
	);
	// Who was taken off a hop since sees it no more.
	const seen = await seenOf(
		viewerOf(actor),
		found.map(({ hopId }) => hopId)
	);
	const own = found.filter(({ hopId }) => seen.has(hopId));
	const places = await placesOf(own, everyCrew, today);
	const coming = places.filter(({ day }) => day >= today);
	const begun = new Set(coming.map(({ hopId, end }) => hopId + end));
	const unfinished = places.filter(
		({ day, accepted, hopId, end }) => day < today && !accepted && !begun.has(hopId + end)
	);
	return {
		crews: mine.map(({ id, name }) => ({ id, name })),
		today,
		places: await withBriefs(coming),
		unfinished: latestOfEach(unfinished),
		others: places.length ? [] : await otherHops(actor, today)
	};
}

const dayAt = (ms: number, zone: string): string => {
	const minute = Math.floor(ms / MINUTE_MS);
	return daysOf({ from: minute, to: minute + 1 }, zone)[0] ?? '';
};

const shifted = (day: string, days: number): string =>
	new Date(Date.parse(day) + days * DAY_MS).toISOString().slice(0, 10);

/** Of several days at one end the last. */
function latestOfEach(places: readonly PlaceOfWork[]): PlaceOfWork[] {
	const last = new Map(places.map((place) => [place.hopId + place.end, place]));
	return [...last.values()];
}

async function otherHops(actor: Actor, today: string): Promise<BoardLine[]> {
	const choice = { q: '', flag: 'open', sort: 'changed' } as const;
	const slice = { limit: MOST_OTHERS, offset: 0 };
	return (await pageOfBoard(viewerOf(actor), choice, slice, today)).rows;
}

async function placesOf(
	assigned: readonly Assignment[],
	everyCrew: readonly KeptCrew[],
	today: string
): Promise<PlaceOfWork[]> {
	const hopIds = [...new Set(assigned.map(({ hopId }) => hopId))];
	const lines = new Map((await linesOf(hopIds, today)).map((line) => [line.id, line]));
	const all = await assignmentsOf(hopIds);
	const sites = await sitesOfHops(hopIds);
	const plans = await dayPlansOf(hopIds);
	const lastSeqs = await lastSeqsOf(hopIds);
	const crewOf = new Map(everyCrew.map((crew) => [crew.id, crew]));
	const places: PlaceOfWork[] = [];
	for (const one of assigned) {
		const line = lines.get(one.hopId);
		const crew = crewOf.get(one.crewId);
		const site = sites.get(one.hopId)?.[one.end];
		if (!line || !crew || !site) continue;
		const far = farEnd(one.end);
		const { id, hopId, end, day, note } = one;
		const { name, latitudeDeg, longitudeDeg, groundAmslM, notes } = site;
		places.push({
			...{ id, hopId, end, day, note, hopName: line.name, practice: line.practice },
			accepted: line.accepted,
			site: { name, latitudeDeg, longitudeDeg, groundAmslM, notes },
			...{ crew: crew.name, zone: crew.zone },
			at: isoOf(clockMoment(day, one.fromMin ?? crew.fromMin, crew.zone)),
			standing: line.ends[end],
			lastSeq: lastSeqs.get(hopId) ?? 0,
			far: {
				site: line.sites[far],
				standing: line.ends[far],
				crews: crewsToReach(all, one, crewOf)
			},
			outside: dayOutside(site, end, day, crew.zone, plans.get(hopId) ?? null),
			brief: null
		});
	}
	return places;
}

const isoOf = (minute: number): string => new Date(minute * MINUTE_MS).toISOString();

/** Who is at the far end on that day; where nobody is, whoever is assigned there next or was there last. */
function crewsToReach(
	all: readonly Assignment[],
	{ hopId, end, day }: Assignment,
	crewOf: ReadonlyMap<string, KeptCrew>
): CrewToReach[] {
	const there = all.filter((one) => one.hopId === hopId && one.end === farEnd(end));
	const sameDay = there.filter((one) => one.day === day);
	const other = there.find((one) => one.day > day) ?? there.at(-1);
	const chosen = sameDay.length ? sameDay : other ? [other] : [];
	return chosen.flatMap((one) => {
		const crew = crewOf.get(one.crewId);
		const people = crew?.people.map(({ name, phone }) => ({ name, phone })) ?? [];
		return crew ? [{ name: crew.name, day: one.day, people }] : [];
	});
}

/** The first places with what to bring there. */
async function withBriefs(places: readonly PlaceOfWork[]): Promise<PlaceOfWork[]> {
	const told: PlaceOfWork[] = [];
	for (const [i, place] of places.entries()) {
		told.push(i < MOST_BRIEFS ? { ...place, brief: await briefOf(place) } : place);
	}
	return told;
}

async function briefOf({ hopId, end }: PlaceOfWork): Promise<Brief> {
	const revision = await findLatestRevision(hopId);
	const site = (await sitesOfHops([hopId])).get(hopId)?.[end];
	const files = site ? await attachmentsAt(site.id, MOST_DOCUMENTS) : [];
	const documents = files.map(({ fileName }) => fileName);
	if (!revision) return { revision: null, bring: [], documents };
	const { input, plan, number } = revision;
	const records = await readAllRecords(hopId);
	const findings = await findingsOf(revision, records);
	const bring = await inWorker('to-bring', { input, plan, records, findings, end });
	return { revision: number, bring, documents };
}
