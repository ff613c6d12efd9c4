<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import HopEditor from '$lib/ui/plan/HopEditor.svelte';

	let { data } = $props();
</script>

<svelte:head><title>Plan a new hop · Skiaxis</title></svelte:head>
<h1 class="mb-5">Plan a new hop</h1>
<HopEditor
	parts={data.parts}
	today={data.today}
	onsaved={(hop) =>
		void goto(
			resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
				hopId: hop.id,
				end: 'a',
				stage: 'prepare'
			})
		)}
/>
