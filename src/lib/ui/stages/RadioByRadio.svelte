<script lang="ts" generics="Row extends string">
	import type { Draft } from '../form/draft.svelte';
	import Tick from '../form/Tick.svelte';

	interface Radio {
		key: string;
		name: string;
		/** What it is set to, in words. */
		words: string;
		/** What stands of it already, in words; it is not asked for then. */
		stands?: string;
		rows: { key: Row; what: string; why?: string }[];
	}

	interface Props {
		radios: Radio[];
		/** What was ticked, as `radio/row`; without it nothing is asked here. */
		draft?: Draft<{ ticked: string[] }>;
		/** Says of a radio that it no longer stands as it did. */
		onleft?: (key: string) => void;
	}

	let { radios, draft, onleft }: Props = $props();
	const ticked = $derived(draft?.values.ticked ?? []);
	const tickOf = (radio: string, row: Row): string => `${radio}/${row}`;
	const done = (radio: Radio): boolean =>
		radio.stands !== undefined ||
		radio.rows.every(({ key }) => ticked.includes(tickOf(radio.key, key)));
	/** The radio that somebody went back to. */
	let chosen: string | null = $state(null);
	const open = $derived(
		radios.find((radio) => radio.key === chosen && !radio.stands) ??
			radios.find((radio) => !done(radio)) ??
			// One alone stays open: there is no other to go on to.
			(radios.length === 1 ? radios[0] : undefined)
	);

	function tick(radio: Radio, row: Row, on: boolean): void {
		if (!draft) return;
		const others = ticked.filter((one) => one !== tickOf(radio.key, row));
		draft.values.ticked = on ? [...others, tickOf(radio.key, row)] : others;
		if (done(radio)) chosen = null;
	}
</script>

<ol class="border-line border-t" data-testid="radio-settings">
	{#each radios as radio (radio.key)}
		<li class="border-line border-b py-2" data-radio={radio.key}>
			{#if radios.length > 1}
				<div class="flex min-h-11 flex-wrap items-center justify-between gap-x-4">
					<p>
						<strong>{radio.name}</strong>
						<span class="num text-quiet text-sm">{radio.words}</span>
					</p>
					{#if radio.stands}
						<span class="flex items-center gap-3">
							<span class="text-sm font-semibold">{radio.stands}</span>
							{#if onleft}
								<button class="btn" onclick={() => onleft(radio.key)}
									>{radio.name} has left it again</button
								>
							{/if}
						</span>
					{:else if radio !== open}
						<span class="flex items-center gap-3">
							{#if done(radio)}
								<span class="text-sm font-semibold">Confirmed</span>
								<button class="btn" onclick={() => (chosen = radio.key)}>Change</button>
							{:else}
								<span class="text-quiet text-sm">Then this one</span>
							{/if}
						</span>
					{/if}
				</div>
			{/if}
			{#if radio === open}
				<ul class="flex flex-col">
					{#each radio.rows as row (row.key)}
						<li class="border-line border-t {radios.length === 1 ? 'first:border-t-0' : ''}">
							<Tick
								size="large"
								checked={ticked.includes(tickOf(radio.key, row.key))}
								onpick={(on) => tick(radio, row.key, on)}
							>
								<span>
									<span class="block text-lg font-semibold">{row.what}</span>
									{#if row.why}<span class="text-quiet block text-sm">{row.why}</span>{/if}
								</span>
							</Tick>
						</li>
					{/each}
				</ul>
			{/if}
		</li>
	{/each}
</ol>
