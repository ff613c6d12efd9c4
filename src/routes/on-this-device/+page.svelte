<script lang="ts">
	import { onMount } from 'svelte';
	import { resolve } from '$app/paths';
	import ThemeSwitch from '$lib/ui/frame/ThemeSwitch.svelte';
	import { hopsOnDevice, type HopOnDevice } from '$lib/ui/hop/onDevice';
	import { readAllWaiting } from '$lib/ui/hop/outbox';
	import { moment } from '$lib/ui/moment.svelte';

	let hops: HopOnDevice[] | undefined = $state.raw();
	let waiting: Record<string, number> = $state({});
	let online = $state(false);

	onMount(() => {
		hops = hopsOnDevice();
		void readAllWaiting()
			.then(({ records, photos }) => {
				const counts: Record<string, number> = {};
				for (const { hopId } of [...records, ...photos]) counts[hopId] = (counts[hopId] ?? 0) + 1;
				waiting = counts;
			})
			.catch(() => undefined);
		const look = (): void => {
			online = navigator.onLine;
		};
		look();
		addEventListener('online', look);
		addEventListener('offline', look);
		return () => {
			removeEventListener('online', look);
			removeEventListener('offline', look);
		};
	});
</script>

<svelte:head><title>On this device · Skiaxis</title></svelte:head>
<main id="work" class="mx-auto flex max-w-2xl flex-col gap-5 px-5 py-10">
	<div class="flex items-start justify-between gap-4">
		<h1>On this device</h1>
		<ThemeSwitch />
	</div>
	<p class="text-quiet">
		{online
			? 'The page you asked for could not be fetched. What stands below is on this device.'
			: 'Without connection only what was kept on this device can be opened. It is listed here.'}
	</p>
	{#if hops?.length === 0}
		<p>
			No hop is on this device yet. With a connection, open a hop and press “Keep this hop on this
			device”, or open the work at a hub.
		</p>
	{:else if hops}
		<ul class="border-line border-t" data-testid="hops-on-device">
			{#each hops as hop (hop.hopId)}
				<li class="border-line flex flex-wrap items-center gap-x-4 gap-y-2 border-b py-3">
					<p class="min-w-0 flex-1 basis-60">
						<strong class="text-lg">{hop.name}</strong>
						<span class="text-quiet block text-sm">
							as it was on {moment(new Date(hop.at))}{waiting[hop.hopId]
								? `; ${waiting[hop.hopId]} of what was recorded here waits to be sent`
								: ''}
						</span>
					</p>
					{#if hop.hub}
						<a
							class="btn"
							data-sveltekit-reload
							href={resolve('/hubs/[hubId]/work', { hubId: hop.hopId })}>Go to this hub</a
						>
					{/if}
					{#each hop.ends as end (end)}
						<a
							class="btn end-{end.toUpperCase()}"
							data-sveltekit-reload
							href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
								hopId: hop.hopId,
								end,
								stage: 'align'
							})}><span class="text-end-own font-bold">{end.toUpperCase()}</span> Go to this end</a
						>
					{/each}
				</li>
			{/each}
		</ul>
	{/if}
	<div>
		<button class="btn btn-main" onclick={() => history.back()}>Back to where you were</button>
	</div>
</main>
