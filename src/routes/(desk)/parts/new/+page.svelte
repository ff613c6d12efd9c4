<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { PART_KIND_NAMES, PART_KINDS } from '#core/catalogue/partKinds';
	import PartForm from '$lib/ui/parts/PartForm.svelte';

	let { data } = $props();
	const WHAT: Record<(typeof PART_KIND_NAMES)[number], string> = {
		radio: 'sends and receives; outdoor unit',
		dish: 'the antenna, without its mount',
		mount: 'bracket with adjusters and fasteners',
		coupling: 'joins radios to a dish',
		feeder: 'waveguide or coaxial, or none at all',
		cable: 'feeds the unit',
		'indoor-unit': 'stands between services and radios',
		'power-source': 'rectifier, battery or injector',
		'hub-unit': 'steers its beam to many terminals',
		terminal: 'radio and antenna in one: looks at a hub, or at another like it'
	};
</script>

<svelte:head><title>Add a part · Skiaxis</title></svelte:head>
{#if data.kind}
	<p class="text-quiet"><a href={resolve('/parts')}>Parts</a></p>
	<h1 class="mb-5">
		Add a {PART_KINDS[data.kind].one.toLowerCase()}{data.copyOf ? `, as ${data.copyOf.code}` : ''}
	</h1>
	{#key `${data.kind}/${data.copyOf?.code ?? ''}`}
		<PartForm
			kind={data.kind}
			copyOf={data.copyOf}
			onsaved={(id) => void goto(resolve('/(desk)/parts/[partId]', { partId: id }))}
		/>
	{/key}
{:else}
	<h1 class="mb-3">Which kind of part?</h1>
	<ul class="border-line max-w-2xl border-t">
		{#each PART_KIND_NAMES as kind (kind)}
			<li class="border-line border-b">
				<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- a query on the page itself -->
				<a class="flex min-h-14 items-baseline gap-3 py-3 no-underline" href="?kind={kind}">
					<strong class="w-36 shrink-0 underline">{PART_KINDS[kind].one}</strong>
					<span class="text-quiet">{WHAT[kind]}</span>
				</a>
			</li>
		{/each}
	</ul>
{/if}
