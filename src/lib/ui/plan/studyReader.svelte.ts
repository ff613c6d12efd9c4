import StudyWorker from '$lib/workers/study.worker?worker';
import { NewestAnswer } from '../newestAnswer';
import type { StudyAnswers, StudyKind, StudyQuestion } from './study';

/**
 * A study that follows what is asked, off the main thread; ends with the component that asked. The answer is
 * undefined while it is worked out, and null where there is none.
 */
export function followStudy<Kind extends StudyKind>(
	ask: () => Extract<StudyQuestion, { kind: Kind }> | undefined
): { readonly answer: StudyAnswers[Kind] | null | undefined } {
	let answer: StudyAnswers[Kind] | null | undefined = $state.raw();
	let reader: NewestAnswer<StudyQuestion, StudyAnswers[Kind] | null> | undefined;
	$effect(() => {
		reader = new NewestAnswer(new StudyWorker(), (given) => (answer = given));
		return () => reader?.stop();
	});
	$effect(() => {
		const question = ask();
		if (question) reader?.ask(question);
	});
	return {
		get answer() {
			return answer;
		}
	};
}
