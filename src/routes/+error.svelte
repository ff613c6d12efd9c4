<script lang="ts">
	import { resolve } from '$app/paths';
	import { page } from '$app/state';
</script>

<svelte:head><title>{page.status} · Skiaxis</title></svelte:head>
<main id="work" class="mx-auto flex max-w-xl flex-col gap-4 px-4 py-20">
	<p class="num text-quiet text-lg">{page.status}</p>
	<h1>{page.error?.message}</h1>
	<p><a class="btn" href={resolve('/')}>Back to the hops</a></p>
</main>
