<script lang="ts">
	import type { EChartsCoreOption, EChartsType } from 'echarts/core';
	import type { Attachment } from 'svelte/attachments';
	import type { Colour } from './axis';

	interface Props {
		label: string;
		class: string;
		/** What is drawn, in the colours of the theme by their names. */
		option: (colour: Colour) => EChartsCoreOption;
	}

	let { label, class: size, option }: Props = $props();
	let box: HTMLElement | undefined = $state();
	let chart: EChartsType | undefined = $state.raw();
	let themes = $state(0);

	/** The library is fetched when the first chart is shown; a theme that changes draws it anew. */
	const draw: Attachment<HTMLElement> = (node) => {
		let gone = false;
		let made: EChartsType | undefined;
		box = node;
		const size = new ResizeObserver(() => made?.resize());
		const theme = new MutationObserver(() => themes++);
		theme.observe(document.documentElement, { attributeFilter: ['data-theme'] });
		void import('./echartsParts').then(({ init }) => {
			if (gone) return;
			made = init(node);
			chart = made;
			size.observe(node);
		});
		return () => {
			gone = true;
			size.disconnect();
			theme.disconnect();
			made?.dispose();
			chart = undefined;
		};
	};

	$effect(() => {
		if (!chart || !box || themes < 0) return;
		const style = getComputedStyle(box);
		chart.setOption(
			option((name) => style.getPropertyValue(name).trim()),
			{ notMerge: true }
		);
	});
</script>

<div {@attach draw} class={size} role="img" aria-label={label}></div>
