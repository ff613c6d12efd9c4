<script lang="ts">
	import { resolve } from '$app/paths';
</script>

<svelte:head><title>Signed in · Skiaxis</title></svelte:head>
<main id="work" class="mx-auto flex max-w-xl flex-col gap-4 px-4 py-20">
	<h1>You are signed in</h1>
	<p>Close this page and go on in the one you came from: it has kept what you typed.</p>
	<div class="flex flex-wrap gap-3">
		<button class="btn btn-main" onclick={() => close()}>Close this page</button>
		<a class="btn" href={resolve('/')}>To the hops</a>
	</div>
</main>
