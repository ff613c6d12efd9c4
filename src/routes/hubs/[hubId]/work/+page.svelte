<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { page } from '$app/state';
	import { resolve } from '$app/paths';
	import Notice from '$lib/ui/form/Notice.svelte';
	import ImportNote from '$lib/ui/frame/ImportNote.svelte';
	import KeysButton from '$lib/ui/frame/KeysButton.svelte';
	import { mainButton, shortcuts } from '$lib/ui/frame/shortcuts.svelte';
	import ThemeSwitch from '$lib/ui/frame/ThemeSwitch.svelte';
	import UnitSwitch from '$lib/ui/frame/UnitSwitch.svelte';
	import { canKeep, keepOnDevice, noteHubOnDevice, onKept } from '$lib/ui/hop/onDevice';
	import RecordStrip from '$lib/ui/hop/RecordStrip.svelte';
	import HubBoard from '$lib/ui/hubwork/HubBoard.svelte';
	import { LiveHub } from '$lib/ui/hubwork/liveHub.svelte';
	import StationWork from '$lib/ui/hubwork/StationWork.svelte';
	import type { SignedTerminal } from '$lib/ui/hubwork/stageWords';

	let { data } = $props();
	const actor = $derived(data.actor);
	const revisionKey = $derived(data.revision ? `${data.hub.id}/${data.revision.id}` : undefined);
	// One live record for an issued plan: going from station to station keeps it.
	const live: LiveHub | undefined = $derived.by(() => {
		if (!revisionKey) return undefined;
		return untrack(
			() =>
				new LiveHub({
					hubId: data.hub.id,
					revision: { number: data.revision!.number, hub: data.revision!.hub },
					records: data.records,
					mayRecord: data.rights.record,
					practice: data.hub.practice,
					person: { id: data.actor?.userId ?? '', name: data.actor?.displayName ?? '' }
				})
		);
	});
	$effect(() => {
		const present = live;
		return untrack(() => present?.start());
	});

	/** The page is kept on the device, once a visit, for work without connection. */
	let kept = $state(false);
	onMount(() => {
		if (!canKeep()) return;
		const key = `${data.hub.id}/board/${data.revision?.id ?? 'none'}/${data.acceptances.length}`;
		const stop = onKept((known) => {
			if (known !== key) return;
			kept = true;
			noteHubOnDevice(data.hub.id, data.hub.name);
		});
		keepOnDevice([{ key, paths: [`/hubs/${data.hub.id}/work`] }]);
		return stop;
	});
	onMount(() =>
		shortcuts.use([
			{ key: 'n', does: 'To the next action; Enter presses it', run: () => mainButton()?.focus() }
		])
	);

	const at = $derived(
		live?.stations.find(({ station }) => station.id === page.url.searchParams.get('at'))
	);
	const accepted = $derived(
		new Map<string, SignedTerminal>(data.acceptances.map((one) => [one.terminal, one]))
	);
	const boardHref = $derived(resolve('/hubs/[hubId]/work', { hubId: data.hub.id }));
	const planHref = $derived(resolve('/(desk)/hubs/[hubId]', { hubId: data.hub.id }));
</script>

<svelte:head><title>{at?.station.name ?? 'Work'} · {data.hub.name} · Skiaxis</title></svelte:head>
<a class="skip" href="#work">Skip to the work</a>
<header class="border-line border-b print:hidden">
	<div class="mx-auto flex max-w-6xl flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2">
		<a
			class="min-h-11 content-center font-bold"
			href={at ? boardHref : planHref}
			data-testid="hub-back">← {at ? data.hub.name : 'Plan of the hub'}</a
		>
		<span class="text-quiet grow text-sm"
			>at {data.hub.siteName}{data.hub.practice ? ' · practice' : ''}</span
		>
		<div class="flex items-center gap-2"><KeysButton /><UnitSwitch /><ThemeSwitch /></div>
	</div>
	{#if live}
		<div class="mx-auto max-w-6xl px-4 pb-1">
			<RecordStrip {live} {kept} personName={actor?.displayName ?? ''} what="hub" />
		</div>
	{/if}
</header>
<main id="work" class="mx-auto max-w-6xl px-4 py-6">
	{#if !live}
		<h1>{data.hub.name}</h1>
		<div class="mt-4">
			<Notice>
				No plan of this hub is issued yet: there is nothing to be put up by. {data.rights.plan
					? 'Issue it from its plan.'
					: 'Ask who plans.'}
			</Notice>
		</div>
		<a class="btn btn-main mt-4" href={planHref}>Open its plan</a>
	{:else if at}
		{#key at.station.id}
			<StationWork
				{live}
				{at}
				hubName={data.hub.name}
				provenance={data.hub.provenance}
				signed={accepted.get(at.station.id)}
				maySign={data.rights.sign}
				signerName={actor?.displayName ?? ''}
			/>
		{/key}
	{:else}
		<h1 class="mb-4">{data.hub.name}</h1>
		<ImportNote provenance={data.hub.provenance} />
		<HubBoard {live} {accepted} />
	{/if}
</main>
