<script lang="ts">
	import PossibleLink from '$lib/ui/possible/PossibleLink.svelte';

	let { data } = $props();
</script>

<svelte:head><title>Is a link possible? · Skiaxis</title></svelte:head>
<h1 class="mb-4">Is a link possible?</h1>
<PossibleLink radios={data.radios} mayPlan={data.mayPlan} />
