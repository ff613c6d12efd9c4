<script lang="ts" generics="Value extends string">
	import Check from '@lucide/svelte/icons/check';
	import ChevronsUpDown from '@lucide/svelte/icons/chevrons-up-down';
	import { Select } from 'bits-ui';

	interface Props {
		value: Value;
		options: readonly { value: Value; label: string }[];
		/** What it is, where no label of its own stands beside it. */
		label?: string;
		id?: string;
		name?: string;
		class?: string;
		/** As wide as what is chosen, rather than as its place. */
		fit?: boolean;
		describedBy?: string | undefined;
		invalid?: boolean;
	}

	let {
		value = $bindable(),
		options,
		label,
		id,
		name = '',
		class: extra = '',
		fit = false,
		describedBy,
		invalid = false
	}: Props = $props();

	const shown = $derived(options.find((option) => option.value === value)?.label ?? '');
	const items = $derived([...options]);

	function pick(chosen: string): void {
		const option = options.find((one) => one.value === chosen);
		if (!option) return;
		value = option.value;
		// As any control does when it is changed: what was said of it before is out of date.
		if (id) document.getElementById(id)?.dispatchEvent(new Event('input', { bubbles: true }));
	}
</script>

<!-- One of a list: a button that opens it, with arrows, first letters and Escape as one expects. -->
<Select.Root type="single" bind:value={() => value as string, pick} {items} {name}>
	<Select.Trigger
		{id}
		class="input flex items-center justify-between gap-2 text-left {fit ? 'w-auto!' : ''} {extra}"
		aria-label={label}
		aria-describedby={describedBy}
		aria-invalid={invalid}
	>
		<span class="truncate {fit ? '' : 'w-0 grow'}">{shown}</span>
		<ChevronsUpDown class="text-quiet h-4 w-4 shrink-0" aria-hidden="true" />
	</Select.Trigger>
	<Select.Portal>
		<Select.Content
			class="border-ink bg-card z-60 max-h-[min(20rem,var(--bits-select-content-available-height))] min-w-[var(--bits-select-anchor-width)] overflow-y-auto rounded-lg border-2 shadow-lg"
			sideOffset={4}
		>
			<Select.Viewport>
				{#each options as option (option.value)}
					<Select.Item
						value={option.value}
						label={option.label}
						class="data-highlighted:bg-land flex min-h-12 cursor-pointer items-center gap-2 px-3"
					>
						{#snippet children({ selected })}
							<Check
								class="h-4 w-4 shrink-0 {selected ? '' : 'invisible'}"
								aria-hidden="true"
							/>{option.label}
						{/snippet}
					</Select.Item>
				{/each}
			</Select.Viewport>
		</Select.Content>
	</Select.Portal>
</Select.Root>
