<script lang="ts">
	import type { End } from '#core/ends';
	import { callApi } from '../api';
	import type { RasterPlace } from '../map/content';
	import HopMap from '../map/HopMap.svelte';
	import type { PickedSite } from './planForm';

	interface Props {
		sites: Record<End, PickedSite | undefined>;
		onpick: (place: { latitudeDeg: number; longitudeDeg: number }) => void;
	}

	let { sites, onpick }: Props = $props();
	const extent = $derived.by(() => {
		const { A, B } = sites;
		if (!A || !B) return undefined;
		return {
			west: Math.min(A.longitudeDeg, B.longitudeDeg),
			east: Math.max(A.longitudeDeg, B.longitudeDeg),
			south: Math.min(A.latitudeDeg, B.latitudeDeg),
			north: Math.max(A.latitudeDeg, B.latitudeDeg)
		};
	});
	const rasters = callApi<RasterPlace[]>('GET', '/terrain').catch((): RasterPlace[] => []);
</script>

{#await rasters}
	<p class="text-quiet">Loading the map …</p>
{:then list}
	<HopMap {extent} rasters={list} focus={undefined} oncontent={() => undefined} {onpick} />
{/await}
