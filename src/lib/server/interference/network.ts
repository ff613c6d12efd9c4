import type { HopPlanInput } from '#core/budget/planInput';
import type { Catalogue, SubBand } from '#core/catalogue/parts';
import { interferenceAt, type ReceiverInterference } from '#core/interference/interference';
import { quieterChoices, type QuieterChoice } from '#core/interference/quieter';
import { stationsOf, type Station } from '#core/interference/stations';
import { resolvePlanInput, type PlanDraftValues, type SiteValues } from '../../plan/resolve';
import { planDraftSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';

/** A hop and those in its reach, by value. */
export interface NetworkTask {
	hopId: string;
	own: HopPlanInput;
	others: readonly {
		id: string;
		name: string;
		/** JSON, as it is stored. */
		planDraft: string;
		sites: { A: SiteValues; B: SiteValues };
	}[];
	parts: Catalogue;
}

export interface NetworkAnswer {
	/** What each receiver of the hop hears of others. */
	heard: ReceiverInterference[];
	/** Receivers of others that hear the hop, with what they hear of it alone. */
	harmed: ReceiverInterference[];
	choices: QuieterChoice[];
	/** Hops whose drafts cannot be reckoned with as they stand. */
	leftOut: string[];
}

/** What a hop hears of those in its reach, does to them, and what would be quieter. Pure: runs in a worker. */
export function networkInterference({ hopId, own, others, parts }: NetworkTask): NetworkAnswer {
	const leftOut: string[] = [];
	const strangers = others.flatMap((other): Station[] => {
		try {
			const draft = validate<PlanDraftValues>(planDraftSchema, JSON.parse(other.planDraft));
			const resolved = resolvePlanInput(other.name, draft, other.sites, parts);
			if (resolved.kind === 'input') return stationsOf(other.id, resolved.input);
		} catch {
			// A draft that contradicts itself has no stations; it is named.
		}
		leftOut.push(other.name);
		return [];
	});
	const stations = stationsOf(hopId, own);
	return {
		heard: interferenceAt(stations, strangers),
		harmed: interferenceAt(strangers, stations).filter(
			({ contributions }) => contributions.length > 0
		),
		choices: quieterChoices(stations, strangers, subBandsOf(own)),
		leftOut
	};
}

/** The sub-bands that the radios of both ends are built for. */
function subBandsOf({ ends }: HopPlanInput): SubBand[] {
	return ends.A.radio.subBands.filter(({ index }) =>
		ends.B.radio.subBands.some((other) => other.index === index)
	);
}
