import type { Stage, StageState } from '#core/stage/stages';

export const STAGE_WORDS: Record<Stage, string> = {
	prepare: 'Prepare',
	build: 'Build',
	power: 'Power',
	align: 'Align',
	polarize: 'Polarize',
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
