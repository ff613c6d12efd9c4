<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { PART_KINDS } from '#core/catalogue/partKinds';
	import { callApi } from '$lib/ui/api';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import { moment } from '$lib/ui/moment.svelte';
	import PartForm from '$lib/ui/parts/PartForm.svelte';

	let { data } = $props();
	const { part } = $derived(data);
	const retiring = new Saving();
	let savedVersion: number | undefined = $state();

	async function setRetired(retired: boolean): Promise<void> {
		await retiring.run(async () => {
			await callApi('POST', `/parts/${part.id}/retirement`, { version: part.version, retired });
			await invalidateAll();
		});
	}
</script>

<svelte:head><title>{part.data.code} · Parts · Skiaxis</title></svelte:head>

<p class="text-quiet"><a href={resolve('/parts')}>Parts</a></p>
<div class="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2">
	<h1 class="flex-1">
		<span class="num">{part.data.code}</span>
		{part.data.name}
	</h1>
	{#if data.mayEdit}
		<a class="btn" href="{resolve('/parts/new')}?copy={part.id}">Copy it</a>
		<button class="btn" disabled={retiring.busy} onclick={() => void setRetired(!part.retired)}
			>{part.retired ? 'Take it back into use' : 'Retire it'}</button
		>
	{/if}
</div>
<p class="text-quiet mb-4">
	{PART_KINDS[part.kind].one}, version
	<span class="num" data-testid="version">{part.version}</span>{part.updatedBy
		? `, by ${part.updatedBy}`
		: ''}, {moment(part.updatedAt)}.
</p>
{#if retiring.message}<Notice kind="trouble">{retiring.message}</Notice>{/if}
{#if part.retired}
	<Notice>Retired: it can no longer be chosen. Plans that have it keep it.</Notice>
{/if}
{#if savedVersion === part.version}
	<Notice
		>Saved as version {part.version}. Plans that were issued keep the version they have; a new
		revision takes this one.</Notice
	>
{/if}

{#if data.mayEdit}
	{#key `${part.id}/${part.version}`}
		<PartForm
			kind={part.kind}
			{part}
			onsaved={() => {
				savedVersion = part.version + 1;
				void invalidateAll();
			}}
		/>
	{/key}
{:else}
	<pre class="num border-line overflow-x-auto border-t pt-3 text-sm">{JSON.stringify(
			part.data,
			null,
			2
		)}</pre>
{/if}

<section aria-labelledby="versions-title" class="border-line mt-8 border-t pt-3">
	<h2 id="versions-title">Versions</h2>
	<ul class="mt-1" data-testid="versions">
		{#each data.versions as version (version.version)}
			<li class="border-line flex flex-wrap gap-x-4 border-b py-1.5">
				<strong class="num w-8">{version.version}</strong>
				<span class="text-quiet">{moment(version.madeAt)}</span>
				<span>{version.madeBy}</span>
				<span>{version.note || '—'}</span>
			</li>
		{/each}
	</ul>
</section>
