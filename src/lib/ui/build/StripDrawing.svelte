<script lang="ts">
	import type { ConnectorData } from '#core/catalogue/installation';

	let { connector }: { connector: ConnectorData } = $props();
	const longest = $derived(Math.max(...connector.strips.map((strip) => strip.mm)));
	const TAIL_MM = 18;
	const HEIGHT = 26;
	const fills = ['var(--ink)', 'var(--well-5)', 'var(--well-4)', 'var(--well-2)', 'var(--well-1)'];
</script>

<!-- One millimetre of the drawing is one millimetre on the screen where its size is known to it. -->
<figure>
	<svg
		viewBox="0 0 {longest + TAIL_MM + 2} {HEIGHT + 10 * connector.strips.length}"
		style:width="{(longest + TAIL_MM + 2) * 3.2}px"
		class="max-w-full"
		role="img"
		aria-label="Strip lengths from the cut end: {connector.strips
			.map((strip) => `${strip.layer} ${strip.mm} mm`)
			.join(', ')}"
	>
		{#each connector.strips as strip, i (strip.layer)}
			{@const half = 10 - i * (8 / connector.strips.length)}
			<rect
				x="0"
				y={HEIGHT / 2 - half}
				width={longest + TAIL_MM - strip.mm}
				height={half * 2}
				fill={fills[i % fills.length]}
				stroke="var(--ink)"
				stroke-width="0.4"
			/>
		{/each}
		<rect
			x="0"
			y={HEIGHT / 2 - 1.2}
			width={longest + TAIL_MM}
			height="2.4"
			fill="var(--paper)"
			stroke="var(--ink)"
			stroke-width="0.4"
		/>
		{#each connector.strips as strip, i (strip.layer)}
			{@const y = HEIGHT + 4 + i * 10}
			{@const cut = longest + TAIL_MM}
			<path
				d="M{cut - strip.mm} {HEIGHT / 2}V{y + 1.5}M{cut} {HEIGHT / 2}V{y + 1.5}M{cut -
					strip.mm} {y}H{cut}"
				stroke="var(--ink)"
				stroke-width="0.35"
				fill="none"
			/>
			<text x={cut - strip.mm - 1} y={y + 1.4} text-anchor="end" font-size="4.4" fill="var(--ink)"
				>{strip.mm}</text
			>
		{/each}
	</svg>
	<figcaption class="text-sm">
		{#each connector.strips as strip (strip.layer)}
			<span class="mr-3"><strong class="num">{strip.mm} mm</strong> {strip.layer}</span>
		{/each}
	</figcaption>
</figure>
