import { describe, expect, it } from 'vitest';
import type { HubDraft, TerminalDraft } from '#core/hub/hubDraft';
import type { HubPlan } from '#core/hub/hubFigures';
import { HubWork } from '../../src/lib/ui/hub/hubWork';
import { harbour, hubTerminal, hubUnit, QUAY } from '../core/hubFixture';
import { catalogue } from '../core/planFixture';

const draftOf = (terminal: Partial<TerminalDraft>, headingDeg = 90): HubDraft =>
	harbour({
		units: [hubUnit({ headingDeg })],
		terminals: [hubTerminal({ bearingDeg: 90, distanceM: 200, ...terminal })]
	});

describe('the plan of a hub while it is typed', () => {
	/** What one and the same worker answers, and what one answers that has never seen a hub. */
	function asked(work: HubWork, draft: HubDraft): [HubPlan, HubPlan] {
		const ask = (of: HubWork): HubPlan => {
			const answer = of.answer({ kind: 'plan', draft, place: QUAY, parts: catalogue });
			if (answer.kind !== 'plan') throw new Error(answer.kind);
			return answer.plan;
		};
		return [ask(work), ask(new HubWork())];
	}

	it('is after every change what it would be from the beginning', () => {
		const work = new HubWork();
		const shed = {
			name: 'Shed',
			kind: 'building',
			distanceKm: 0.1,
			lengthM: 9,
			heightM: 14
		} as const;
		const changes: HubDraft[] = [
			draftOf({}),
			draftOf({}, 110),
			draftOf({ how: 'wall', wallBearingDeg: 270 }),
			draftOf({ how: 'wall', wallBearingDeg: 90 }),
			draftOf({ partCode: 'TM-60-L' }),
			draftOf({ heightAglM: 20 }),
			draftOf({ groundAmslM: 9 }),
			draftOf({ obstacles: [shed] }),
			draftOf({ profile: null }),
			draftOf({ downMbitS: 900 }),
			draftOf({ name: 'Loft' })
		];
		const answers = changes.map((draft) => asked(work, draft));
		for (const [now, fresh] of answers) expect(now).toEqual(fresh);
		// Every one of them changes something.
		const said = answers.map(([now]) => JSON.stringify(now));
		expect(new Set(said).size).toBe(changes.length);
	});

	it('is not made of parts that there are not', () => {
		const draft = draftOf({ partCode: 'TM-NONE' });
		const answer = new HubWork().answer({ kind: 'plan', draft, place: QUAY, parts: catalogue });
		expect(answer).toEqual({ kind: 'not-yet', what: 'Choose a part for each.' });
	});
});
