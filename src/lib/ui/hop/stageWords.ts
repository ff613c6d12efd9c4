import type { Stage, StageState } from '$core/stage/stages';

export const STAGE_WORDS: Record<Stage, string> = {
	prepare: 'Prepare',
	power: 'Power',
	align: 'Align',
	fix: 'Fix',
	accept: 'Accept'
};

export const STATE_WORDS: Record<StageState, string> = {
	done: 'done',
	open: 'open',
	waiting: 'waiting',
	later: 'later',
	trouble: 'trouble'
};
