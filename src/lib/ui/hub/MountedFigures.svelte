<script lang="ts">
	import type { SteeredUnitPart } from '#core/catalogue/parts';
	import { mountingOf, type Mounted } from '#core/hub/hubInput';
	import type { Snippet } from 'svelte';
	import { measure } from '../units.svelte';

	interface Props {
		mounted: Mounted & { part: SteeredUnitPart; heightAglM: number };
		children: Snippet;
	}

	let { mounted, children }: Props = $props();
</script>

<!-- What whoever puts it up has to know. -->
<dl class="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1 text-sm">
	<dt class="text-quiet">Type</dt>
	<dd>{mounted.part.name}</dd>
	<dt class="text-quiet">Mounted by</dt>
	<dd>
		{mountingOf(mounted.part, mounted)?.name ?? '—'}{mounted.poleMm === null ||
		mounted.how === 'wall'
			? ''
			: `, pole of ${measure(mounted.poleMm, 'mm', 0)}`}
	</dd>
	<dt class="text-quiet">Height</dt>
	<dd class="num">{measure(mounted.heightAglM, 'm', 1)} above ground</dd>
	{@render children()}
</dl>
