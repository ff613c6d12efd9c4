import type { BuildStepState } from '#core/tower/buildState';
import type { Phase } from '#core/tower/buildSteps';

export const PHASE_WORDS: Record<Phase, string> = {
	office: 'In the office',
	receive: 'Receive',
	assemble: 'Assemble on the ground',
	polarization: 'Set the polarization',
	raise: 'Raise',
	mount: 'Mount at the dish',
	foot: 'At the foot of the run',
	indoors: 'Indoors',
	earth: 'Earth',
	cable: 'Cable',
	waveguide: 'Waveguide',
	weatherproof: 'Weatherproof',
	'power-up': 'Power up'
};

export const STATE_MARK: Record<BuildStepState['state'], string> = {
	done: '✓',
	skipped: '–',
	trouble: '▲',
	open: '',
	blocked: ''
};
