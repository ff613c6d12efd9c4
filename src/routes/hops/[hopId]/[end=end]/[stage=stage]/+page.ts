import type { PageLoad } from './$types';

/** Each stage is a module of its own: who opens one does not wait for the script of the other six. */
const VIEWS = {
	/** Who may plan has the planning desk there, everybody else the sheets. */
	plan: async () => ({
		shown: 'plan' as const,
		View: (await import('$lib/ui/stages/PlanningDesk.svelte')).default
	}),
	prepare: async () => ({
		shown: 'prepare' as const,
		View: (await import('$lib/ui/stages/PrepareStage.svelte')).default
	}),
	build: async () => ({
		shown: 'build' as const,
		View: (await import('$lib/ui/stages/BuildStage.svelte')).default
	}),
	power: async () => ({
		shown: 'power' as const,
		View: (await import('$lib/ui/stages/PowerStage.svelte')).default
	}),
	align: async () => ({
		shown: 'align' as const,
		View: (await import('$lib/ui/stages/AlignStage.svelte')).default
	}),
	polarize: async () => ({
		shown: 'polarize' as const,
		View: (await import('$lib/ui/stages/PolarizeStage.svelte')).default
	}),
	fix: async () => ({
		shown: 'fix' as const,
		View: (await import('$lib/ui/stages/FixStage.svelte')).default
	}),
	accept: async () => ({
		shown: 'accept' as const,
		View: (await import('$lib/ui/stages/AcceptStage.svelte')).default
	})
};

export const load: PageLoad = async ({ data }) => ({
	...data,
	view: await VIEWS[data.planning ? 'plan' : data.stage]()
});
