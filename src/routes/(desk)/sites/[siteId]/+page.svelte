<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import SiteForm from '$lib/ui/form/SiteForm.svelte';
	import { fixed } from '$lib/ui/format';

	let { data } = $props();
</script>

<svelte:head><title>{data.site.name} · Skiaxis</title></svelte:head>
<h1 class="mb-5">{data.site.name}</h1>
{#if data.mayEdit}
	<SiteForm site={data.site} onsaved={() => void goto(resolve('/sites'))} />
{:else}
	<dl class="grid max-w-lg grid-cols-[10rem_1fr] gap-y-2">
		<dt class="text-quiet">Latitude</dt>
		<dd class="num">{fixed(data.site.latitudeDeg, 6)}°</dd>
		<dt class="text-quiet">Longitude</dt>
		<dd class="num">{fixed(data.site.longitudeDeg, 6)}°</dd>
		<dt class="text-quiet">Ground height</dt>
		<dd class="num">{fixed(data.site.groundAmslM, 1)} m a.m.s.l.</dd>
		<dt class="text-quiet">Notes</dt>
		<dd>{data.site.notes || '—'}</dd>
	</dl>
{/if}
