<script lang="ts">
	import type { FeatureCollection } from 'geojson';
	import type { GeoJSONSource, Map as LibreMap, Marker } from 'maplibre-gl';
	import { untrack } from 'svelte';
	import { callApi } from '../api';
	import { units } from '../units.svelte';
	import type { MapContent, RasterPlace } from './content';

	interface Props {
		extent: { west: number; south: number; east: number; north: number } | undefined;
		rasters: readonly RasterPlace[];
		focus: { latitudeDeg: number; longitudeDeg: number } | undefined;
		oncontent: (content: MapContent) => void;
		onpick: (place: { latitudeDeg: number; longitudeDeg: number }) => void;
		/** What a click on a hop does; without it every click picks a place. */
		onhop?: (id: string) => void;
	}

	let { extent, rasters, focus, oncontent, onpick, onhop }: Props = $props();
	let box: HTMLDivElement | undefined = $state();
	/** While the view goes somewhere by itself or by hand. */
	let moving = $state(false);
	let map: LibreMap | undefined = $state.raw();
	let labels: Marker[] = [];
	let failed = $state(false);
	let latest = 0;
	/** Names are drawn while there are this few. */
	const MOST_LABELS = 60;

	const lines = (content: MapContent): FeatureCollection => ({
		type: 'FeatureCollection',
		features: content.hops.map((hop) => ({
			type: 'Feature',
			properties: { id: hop.id, signed: hop.signed },
			geometry: { type: 'LineString', coordinates: shortWay(hop.from, hop.to) }
		}))
	});
	const points = (content: MapContent): FeatureCollection => ({
		type: 'FeatureCollection',
		features: [
			...content.sites.map((site) => ({ at: site, count: 1 })),
			...content.groups.map((group) => ({ at: group, count: group.count }))
		].map(({ at, count }) => ({
			type: 'Feature',
			properties: { radius: count === 1 ? 5 : 6 + 3 * Math.log10(count) },
			geometry: { type: 'Point', coordinates: [at.longitudeDeg, at.latitudeDeg] }
		}))
	});

	const hubs = (content: MapContent): FeatureCollection => ({
		type: 'FeatureCollection',
		features: content.hubs.map(({ longitudeDeg, latitudeDeg }) => ({
			type: 'Feature',
			properties: {},
			geometry: { type: 'Point', coordinates: [longitudeDeg, latitudeDeg] }
		}))
	});

	/** Across the antimeridian a line goes on beyond 180°, not once round the earth. */
	function shortWay(from: [number, number], to: [number, number]): [number, number][] {
		const turn = 360 * Math.round((to[0] - from[0]) / 360);
		return [from, [to[0] - turn, to[1]]];
	}

	/** An extent with some room about it. */
	function boundsOf(extent: NonNullable<Props['extent']>): [[number, number], [number, number]] {
		const { west, south, east, north } = extent;
		const edge = 0.15 * Math.max(0.05, east - west, north - south);
		return [
			[west - edge, south - edge],
			[east + edge, north + edge]
		];
	}

	async function refresh(): Promise<void> {
		const present = map;
		if (!present) return;
		const mine = ++latest;
		const bounds = present.getBounds();
		const query = new URLSearchParams({
			west: bounds.getWest().toFixed(5),
			south: Math.max(-90, bounds.getSouth()).toFixed(5),
			east: bounds.getEast().toFixed(5),
			north: Math.min(90, bounds.getNorth()).toFixed(5)
		});
		try {
			const content = await callApi<MapContent>('GET', `/map?${query}`);
			if (mine !== latest) return;
			failed = false;
			(present.getSource('hops') as GeoJSONSource | undefined)?.setData(lines(content));
			(present.getSource('sites') as GeoJSONSource | undefined)?.setData(points(content));
			(present.getSource('hubs') as GeoJSONSource | undefined)?.setData(hubs(content));
			await showNames(content);
			oncontent(content);
		} catch {
			failed = true;
		}
	}

	async function showNames(content: MapContent): Promise<void> {
		const libre = await import('./maplibre');
		labels.forEach((label) => label.remove());
		labels = [];
		const named =
			content.sites.length <= MOST_LABELS
				? content.sites.map((site) => ({ at: site, text: site.name }))
				: content.groups.map((group) => ({ at: group, text: String(group.count) }));
		for (const { at, text } of named) {
			const element = document.createElement('span');
			element.textContent = text;
			element.className = 'map-name';
			labels.push(
				new libre.Marker({ element, anchor: 'left', offset: [9, 0] })
					.setLngLat([at.longitudeDeg, at.latitudeDeg])
					.addTo(map!)
			);
		}
	}

	$effect(() => {
		if (!box) return;
		const holder = box;
		let made: LibreMap | undefined;
		let gone = false;
		const style = getComputedStyle(holder);
		const colour = (name: string): string => style.getPropertyValue(name).trim();
		const rasterList = untrack(() => rasters);
		const around = untrack(() => extent) ?? { west: -10, south: -10, east: 10, north: 10 };
		void import('./maplibre').then(
			(libre) => {
				if (gone) return;
				const own = new libre.LibreMap({
					container: holder,
					attributionControl: false,
					dragRotate: false,
					bounds: boundsOf(around),
					style: {
						version: 8,
						sources: {
							...Object.fromEntries(
								rasterList.map((raster) => [
									raster.id,
									{
										type: 'image' as const,
										url: `${location.origin}/api/v1/terrain/${raster.id}/picture`,
										coordinates: [
											[raster.west, raster.north],
											[raster.east, raster.north],
											[raster.east, raster.south],
											[raster.west, raster.south]
										] as [[number, number], [number, number], [number, number], [number, number]]
									}
								])
							),
							hops: { type: 'geojson', data: { type: 'FeatureCollection', features: [] } },
							sites: { type: 'geojson', data: { type: 'FeatureCollection', features: [] } },
							hubs: { type: 'geojson', data: { type: 'FeatureCollection', features: [] } }
						},
						layers: [
							{ id: 'sea', type: 'background', paint: { 'background-color': colour('--well-1') } },
							...[...rasterList].reverse().map((raster) => ({
								id: `terrain-${raster.id}`,
								type: 'raster' as const,
								source: raster.id,
								paint: { 'raster-fade-duration': 0 }
							})),
							{
								id: 'hops',
								type: 'line',
								source: 'hops',
								paint: {
									'line-color': colour('--ink'),
									'line-width': 2,
									'line-dasharray': [
										'case',
										['get', 'signed'],
										['literal', [1]],
										['literal', [3, 2]]
									]
								}
							},
							{
								id: 'hubs',
								type: 'circle',
								source: 'hubs',
								paint: {
									'circle-radius': 11,
									'circle-color': 'transparent',
									'circle-stroke-color': colour('--ink'),
									'circle-stroke-width': 2
								}
							},
							{
								id: 'sites',
								type: 'circle',
								source: 'sites',
								paint: {
									'circle-radius': ['get', 'radius'],
									'circle-color': colour('--card'),
									'circle-stroke-color': colour('--ink'),
									'circle-stroke-width': 2.5
								}
							}
						]
					}
				});
				made = own;
				own.addControl(
					new libre.ScaleControl({ unit: untrack(() => units.system) }),
					'bottom-left'
				);
				own.touchZoomRotate.disableRotation();
				own.getCanvas().setAttribute('aria-label', 'Map; arrow keys move it, plus and minus zoom');
				own.on('load', () => {
					map = own;
					void refresh();
				});
				own.on('movestart', () => (moving = true));
				own.on('moveend', () => {
					moving = false;
					void refresh();
				});
				own.on('click', (event) => {
					const hop = own.queryRenderedFeatures(
						[
							[event.point.x - 6, event.point.y - 6],
							[event.point.x + 6, event.point.y + 6]
						],
						{ layers: ['hops'] }
					)[0];
					if (hop && onhop) onhop(String(hop.properties.id));
					else onpick({ latitudeDeg: event.lngLat.lat, longitudeDeg: event.lngLat.wrap().lng });
				});
			},
			() => (failed = true)
		);
		return () => {
			gone = true;
			labels = [];
			map = undefined;
			made?.remove();
		};
	});

	$effect(() => {
		if (focus && map) {
			map.easeTo({
				center: [focus.longitudeDeg, focus.latitudeDeg],
				zoom: Math.max(map.getZoom(), 11)
			});
		}
	});
</script>

<div>
	<div
		bind:this={box}
		class="border-line h-[78dvh] min-h-80 w-full border"
		data-testid="map"
		data-ready={map !== undefined}
		data-moving={moving}
	></div>
	<div class="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
		<p class="text-quiet min-w-0 flex-1 basis-60 text-sm">
			{#if failed}<span class="trouble"
					>▲ The map cannot be shown or loaded just now; the lists beside it stay usable.</span
				>
			{:else}Solid lines are accepted hops, a ring about a site is a hub. {onhop
					? 'Click a hop to open it, the ground to pick a place.'
					: 'Click to pick a place.'}{/if}
		</p>
		<div class="flex gap-2" role="group" aria-label="View of the map">
			<button type="button" class="btn" onclick={() => map?.zoomIn()}>Closer</button>
			<button type="button" class="btn" onclick={() => map?.zoomOut()}>Wider</button>
			{#if extent}
				<button type="button" class="btn" onclick={() => map?.fitBounds(boundsOf(extent))}
					>Everything</button
				>
			{/if}
		</div>
	</div>
</div>

<style>
	:global(.maplibregl-map .maplibregl-ctrl-scale) {
		font-family: var(--font-mono);
		font-size: 0.85rem;
		color: var(--ink);
		background: none;
		border: solid var(--ink);
		border-width: 0 0 3px;
		padding: 0;
	}
	:global(.map-name) {
		font-family: var(--font-sans);
		font-size: 0.9rem;
		font-weight: 600;
		color: var(--ink);
		text-shadow:
			0 0 3px var(--paper),
			0 0 3px var(--paper),
			0 0 3px var(--paper);
		pointer-events: none;
	}
</style>
