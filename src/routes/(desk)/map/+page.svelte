<script lang="ts">
	import { measure } from '$lib/ui/units.svelte';
	import { goto, invalidateAll } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { callApi, troubleOf, uploadFile } from '$lib/ui/api';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { pickedFile } from '$lib/ui/form/pickedFile';
	import TextField from '$lib/ui/form/TextField.svelte';
	import { fixed } from '$lib/ui/format';
	import HopMap from '$lib/ui/map/HopMap.svelte';
	import type { MapContent } from '$lib/ui/map/content';

	let { data } = $props();
	let content: MapContent | undefined = $state.raw();
	let focus: { latitudeDeg: number; longitudeDeg: number } | undefined = $state.raw();
	let picked: { latitudeDeg: number; longitudeDeg: number } | undefined = $state();
	let problem: string | undefined = $state();
	let busy = $state(false);
	let name = $state('');
	const MOST_BYTES = 60_000_000;

	async function add(event: Event): Promise<void> {
		const chosen = pickedFile(event, MOST_BYTES);
		if (!chosen) return;
		problem = 'problem' in chosen ? chosen.problem : undefined;
		if ('problem' in chosen) return;
		const { file } = chosen;
		busy = true;
		try {
			const query = new URLSearchParams({
				name: name.trim() || file.name.replace(/\.tiff?$/i, '')
			});
			await uploadFile(`/terrain?${query}`, file);
			name = '';
			await invalidateAll();
		} catch (error) {
			problem = troubleOf(error);
		} finally {
			busy = false;
		}
	}

	async function remove(id: string): Promise<void> {
		problem = undefined;
		try {
			await callApi('DELETE', `/terrain/${id}`);
			await invalidateAll();
		} catch (error) {
			problem = troubleOf(error);
		}
	}
	const hopHref = (id: string): string => resolve('/hops/[hopId]', { hopId: id });
</script>

<svelte:head><title>Map · Skiaxis</title></svelte:head>

<h1 class="sr-only">Map of sites and hops</h1>
<div class="grid gap-6 lg:grid-cols-[minmax(0,1fr)_20rem]">
	<HopMap
		extent={data.extent}
		rasters={data.rasters}
		{focus}
		oncontent={(shown) => (content = shown)}
		onpick={(place) => (picked = place)}
		onhop={(hopId) => void goto(resolve('/hops/[hopId]', { hopId }))}
	/>
	<div class="flex max-h-[78dvh] min-h-0 flex-col gap-5 overflow-y-auto">
		{#if picked}
			<p class="border-line border-b pb-3" data-testid="picked">
				Picked <strong class="num"
					>{fixed(picked.latitudeDeg, 5)}°, {fixed(picked.longitudeDeg, 5)}°</strong
				>
				{#if data.mayEdit}
					<a
						class="btn mt-2 w-full"
						href="{resolve('/sites/new')}?latitude={picked.latitudeDeg.toFixed(
							6
						)}&longitude={picked.longitudeDeg.toFixed(6)}">Add a site here</a
					>
				{/if}
				<span class="mt-1 flex flex-wrap gap-x-4 text-sm">
					{#each ['a', 'b'] as const as place (place)}
						<a
							class="inline-flex min-h-11 items-center"
							href="{resolve('/possible')}?{place}={picked.latitudeDeg.toFixed(
								6
							)},{picked.longitudeDeg.toFixed(6)}">Place {place.toUpperCase()} of a possible link</a
						>
					{/each}
				</span>
			</p>
		{/if}
		<section aria-labelledby="hops-here">
			<h2 id="hops-here">Hops in view</h2>
			{#if content && content.hopCount === null}
				<p class="text-quiet text-sm">Too many to show at once: come closer.</p>
			{/if}
			<ul>
				{#each content?.hops.slice(0, 100) ?? [] as hop (hop.id)}
					<li class="border-line border-b">
						<a class="flex min-h-11 items-center py-1" href={hopHref(hop.id)}>{hop.name}</a>
					</li>
				{/each}
			</ul>
		</section>
		{#if content?.hubs.length}
			<section aria-labelledby="hubs-here">
				<h2 id="hubs-here">Hubs in view</h2>
				<ul>
					{#each content.hubs as hub (hub.id)}
						<li class="border-line flex items-center justify-between gap-2 border-b">
							<a
								class="flex min-h-11 items-center py-1"
								href={resolve('/(desk)/hubs/[hubId]', { hubId: hub.id })}>{hub.name}</a
							>
							<span class="num text-quiet text-sm"
								>{hub.terminals} {hub.terminals === 1 ? 'terminal' : 'terminals'}</span
							>
						</li>
					{/each}
				</ul>
			</section>
		{/if}
		<section aria-labelledby="sites-here">
			<h2 id="sites-here">
				Sites in view <span class="num text-quiet text-base font-normal"
					>{content?.groups.length ? 'about ' : ''}{content?.siteCount ?? ''}</span
				>
			</h2>
			{#if content?.groups.length}
				<p class="text-quiet text-sm">Drawn as groups: come closer to see each.</p>
			{/if}
			<ul>
				{#each content?.sites.slice(0, 100) ?? [] as site (site.id)}
					<li class="border-line flex items-center justify-between gap-2 border-b">
						<a
							class="flex min-h-11 items-center"
							href={resolve('/(desk)/sites/[siteId]', { siteId: site.id })}>{site.name}</a
						>
						<button
							type="button"
							class="min-h-11 px-2 text-sm underline"
							onclick={() => (focus = { ...site })}
							>Show<span class="sr-only"> {site.name} on the map</span></button
						>
					</li>
				{/each}
			</ul>
		</section>
		<section aria-labelledby="terrain-title">
			<h2 id="terrain-title">Terrain</h2>
			{#if problem}<div class="mt-2"><Notice kind="trouble">{problem}</Notice></div>{/if}
			<ul>
				{#each data.rasters as raster (raster.id)}
					<li class="border-line border-b py-2 text-sm">
						<strong class="block">{raster.name}</strong>
						<span class="num text-quiet"
							>{raster.columns} × {raster.rows}, {fixed(raster.stepLatitudeDeg * 3600, 1)}″, {fixed(
								raster.lowestM,
								0
							)} to {measure(raster.highestM, 'm', 0)}</span
						>
						{#if data.mayEdit}
							<button
								type="button"
								class="block min-h-11 underline"
								onclick={() => void remove(raster.id)}
								>Remove<span class="sr-only"> {raster.name}</span></button
							>
						{/if}
					</li>
				{:else}<li class="text-quiet text-sm">No raster yet.</li>{/each}
			</ul>
			{#if data.mayEdit}
				<div class="mt-3 flex flex-col gap-3">
					<TextField
						label="Name of the raster"
						name="rasterName"
						bind:value={name}
						hint="Empty takes the name of the file."
					/>
					<label class="btn focus-within:outline-3">
						{busy ? 'Reading the raster …' : 'Import a GeoTIFF'}
						<input
							type="file"
							accept=".tif,.tiff,image/tiff"
							class="sr-only"
							disabled={busy}
							onchange={add}
						/>
					</label>
				</div>
			{/if}
		</section>
	</div>
</div>
