import { EMPTY_CATALOGUE } from '#core/catalogue/partKinds';
import type { HubAims } from '#core/hub/aimHub';
import { resolveHub, type HubDraft } from '#core/hub/hubDraft';
import type { HubPlan } from '#core/hub/hubFigures';
import type { HubInput, HubPlace } from '#core/hub/hubInput';
import {
	aimsOf,
	hubPathsOf,
	planHub,
	unitChoices,
	type HubPaths,
	type UnitChoice
} from '#core/hub/hubPlan';
import { OutOfRangeError } from '#core/units/errors';
import type { HubParts } from './hubForm';

/** What is asked about a hub, off the main thread. */
export interface HubQuestion {
	kind: 'plan' | 'aims' | 'choices';
	draft: HubDraft;
	place: HubPlace;
	parts: HubParts;
}

export type HubAnswer =
	| { kind: 'plan'; plan: HubPlan; draft: HubDraft }
	| { kind: 'aims'; aims: HubAims; draft: HubDraft }
	| { kind: 'choices'; choices: UnitChoice[] }
	| { kind: 'not-yet'; what: string };

/** Answers about one hub after the other; paths that nothing has changed are not worked out again. */
export class HubWork {
	#paths: { of: string; paths: HubPaths } | undefined;

	answer({ kind, draft, place, parts }: HubQuestion): HubAnswer {
		const resolved = resolveHub(draft, place, { ...EMPTY_CATALOGUE, ...parts });
		if (resolved.kind !== 'input') return { kind: 'not-yet', what: 'Choose a part for each.' };
		try {
			const paths = this.#pathsOf(resolved.input);
			switch (kind) {
				case 'plan':
					return { kind, plan: planHub(resolved.input, paths), draft };
				case 'aims':
					return { kind, aims: aimsOf(resolved.input, paths), draft };
				case 'choices':
					return { kind, choices: unitChoices(resolved.input, paths) };
			}
		} catch (error) {
			if (error instanceof OutOfRangeError) return { kind: 'not-yet', what: `${error.message}.` };
			throw error;
		}
	}

	#pathsOf(input: HubInput): HubPaths {
		const { place, units, terminals } = input;
		// Name, promise and choice of unit of a terminal are nothing of its path; all else may be.
		const of = JSON.stringify([
			place,
			units.map(({ heightAglM, frequencyGhz }) => [heightAglM, frequencyGhz]),
			terminals.map((terminal) => ({
				...terminal,
				...{ name: '', unitId: null, downMbitS: 0, upMbitS: 0, part: terminal.part.code }
			}))
		]);
		if (this.#paths?.of !== of) this.#paths = { of, paths: hubPathsOf(input) };
		return this.#paths.paths;
	}
}
