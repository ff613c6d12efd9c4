<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import SiteForm from '$lib/ui/form/SiteForm.svelte';
</script>

<svelte:head><title>Add a site · Skiaxis</title></svelte:head>
<h1 class="mb-5">Add a site</h1>
<SiteForm onsaved={() => void goto(resolve('/sites'))} />
