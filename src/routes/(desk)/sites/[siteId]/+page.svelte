<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import SiteForm from '$lib/ui/form/SiteForm.svelte';
	import DeleteThis from '$lib/ui/form/DeleteThis.svelte';
	import Attachments from '$lib/ui/form/Attachments.svelte';
	import { fixed } from '$lib/ui/format';
	import { measure } from '$lib/ui/units.svelte';

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
		<dd class="num">{measure(data.site.groundAmslM, 'm', 1)} a.m.s.l.</dd>
		<dt class="text-quiet">Notes</dt>
		<dd>{data.site.notes || '—'}</dd>
		<dt class="text-quiet">Mount pipe</dt>
		<dd class="num">{measure(data.site.conditions.pipeDiameterMm, 'mm', 0)}</dd>
		<dt class="text-quiet">Top of the mast</dt>
		<dd class="num">{measure(data.site.conditions.mastHeightM, 'm', 1)} above ground</dd>
		<dt class="text-quiet">Supply</dt>
		<dd class="num">
			{data.site.conditions.supplyV === null ? '—' : `${fixed(data.site.conditions.supplyV, 0)} V`}
		</dd>
		{#each [['earthPoint', 'Earth point'], ['indoorPlace', 'Indoor place'], ['access', 'Access'], ['hazards', 'Hazards']] as const as [key, label] (key)}
			<dt class="text-quiet">{label}</dt>
			<dd>{data.site.conditions[key] || '—'}</dd>
		{/each}
	</dl>
{/if}
<Attachments siteId={data.site.id} attachments={data.attachments} mayEdit={data.mayEdit} />
{#if data.mayEdit}
	<DeleteThis
		what="site"
		name={data.site.name}
		path="/sites/{data.site.id}"
		means="It is gone for good, with its attachments. A site at which a hop or a hub stands is not deleted."
		ongone={() => void goto(resolve('/sites'))}
	/>
{/if}
