<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { page } from '$app/state';
	import SiteForm from '$lib/ui/form/SiteForm.svelte';

	/** A place picked on the map comes in the address. */
	function placeOf(url: URL): { latitudeDeg: string; longitudeDeg: string } | undefined {
		const [latitudeDeg, longitudeDeg] = ['latitude', 'longitude'].map((name) =>
			url.searchParams.get(name)
		);
		return latitudeDeg && longitudeDeg ? { latitudeDeg, longitudeDeg } : undefined;
	}
</script>

<svelte:head><title>Add a site · Skiaxis</title></svelte:head>
<h1 class="mb-5">Add a site</h1>
<SiteForm place={placeOf(page.url)} onsaved={() => void goto(resolve('/sites'))} />
