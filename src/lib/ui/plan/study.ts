import { diversityCurve, type DiversityPoint } from '#core/budget/diversityCurve';
import type { HopPlanInput } from '#core/budget/planInput';
import { reflectionFigures, type ReflectionFigures } from '#core/budget/reflectionFigures';
import { climateSensitivity, type ClimateSensitivity } from '#core/budget/sensitivity';
import type { End } from '#core/ends';

/** What is looked into beside the plan itself, and only while somebody looks: each takes many plans. */
export interface StudyQuestions {
	climate: { input: HopPlanInput };
	spacing: { input: HopPlanInput };
	reflection: { input: HopPlanInput; carrierNumber: number; end: End };
}
export interface StudyAnswers {
	climate: ClimateSensitivity[];
	spacing: DiversityPoint[];
	reflection: ReflectionFigures;
}
export type StudyKind = keyof StudyQuestions;
export type StudyQuestion = {
	[Kind in StudyKind]: { kind: Kind } & StudyQuestions[Kind];
}[StudyKind];

/** Said while a study is worked out, and where it has nothing to tell. */
export const WORKING = 'Working it out …';
export const NOTHING_TO_TELL =
	'Nothing to tell: what is planned lies outside what the methods state.';

/** The answer to one question; null where there is nothing to tell, or the methods do not reach it. */
export function study(question: StudyQuestion): StudyAnswers[StudyKind] | null {
	try {
		switch (question.kind) {
			case 'climate':
				return climateSensitivity(question.input);
			case 'spacing':
				return diversityCurve(question.input);
			case 'reflection':
				return reflectionFigures(question.input, question.carrierNumber, question.end) ?? null;
		}
	} catch (error) {
		if (error instanceof RangeError) return null;
		throw error;
	}
}
