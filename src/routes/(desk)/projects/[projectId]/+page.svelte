<script lang="ts">
	import { goto, invalidateAll } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { onMount } from 'svelte';
	import AssignSheet from '$lib/ui/crew/AssignSheet.svelte';
	import { dayWords } from '$lib/ui/crew/dayWords';
	import HopEnds from '$lib/ui/crew/HopEnds.svelte';
	import ProjectSchedule from '$lib/ui/crew/ProjectSchedule.svelte';
	import ProjectForm from '$lib/ui/crew/ProjectForm.svelte';
	import DeleteThis from '$lib/ui/form/DeleteThis.svelte';
	import Fold from '$lib/ui/form/Fold.svelte';
	import Pager from '$lib/ui/frame/Pager.svelte';

	let { data } = $props();
	const { project } = $derived(data);
	type Row = (typeof data.board.rows)[number];
	let nowMs = $state(0);
	onMount(() => {
		nowMs = Date.now();
		const clock = setInterval(() => (nowMs = Date.now()), 30_000);
		return () => clearInterval(clock);
	});
	let settingsOpen = $state(false);
	let assigning: Row | undefined = $state.raw();
	let assignOpen = $state(false);
</script>

<svelte:head><title>{project.name} · Skiaxis</title></svelte:head>

<div class="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-1">
	<h1>{project.name}</h1>
	<p class="text-quiet">
		{[project.region, project.dueDay === null ? '' : `due ${dayWords(project.dueDay)}`]
			.filter(Boolean)
			.join(' · ')}
	</p>
	<a class="inline-flex min-h-11 items-center" href="{resolve('/board')}?project={project.id}"
		>On the board</a
	>
</div>
{#if project.note}<p class="mb-4 max-w-prose">{project.note}</p>{/if}

<section class="mb-6" aria-labelledby="hops-title">
	<h2 id="hops-title">Hops</h2>
	{#if data.board.rows.length === 0}
		<p class="text-quiet py-4">
			No hop is in it yet.
			{#if data.mayEdit}
				Choose some
				<a href="{resolve('/board')}?project=none">on the board</a>
				and put them into it.
			{/if}
		</p>
	{:else}
		<ul>
			{#each data.board.rows as row (row.id)}
				<li
					class="border-line grid items-start gap-x-5 gap-y-2 border-b py-3 lg:grid-cols-[minmax(0,15rem)_minmax(0,1fr)_minmax(0,1fr)_auto]"
					data-hop={row.name}
				>
					<a
						class="inline-flex min-h-11 items-center font-semibold"
						href={resolve('/hops/[hopId]', { hopId: row.id })}>{row.name}</a
					>
					<HopEnds hop={row} {nowMs} />
					{#if data.mayEdit}
						<button
							type="button"
							class="btn"
							aria-label="Crews at {row.name}"
							onclick={() => {
								assigning = row;
								assignOpen = true;
							}}>Crews …</button
						>
					{/if}
				</li>
			{/each}
		</ul>
		<Pager
			page={data.board.page}
			pages={data.board.pages}
			count={data.board.count}
			q=""
			what={data.board.count === 1 ? 'hop' : 'hops'}
		/>
	{/if}
</section>

{#if data.board.rows.length}
	<ProjectSchedule
		projectId={project.id}
		kept={data.schedule}
		crews={data.crews}
		mayEdit={data.mayEdit}
		now={Math.floor(nowMs / 60_000)}
	/>
{/if}

{#if data.mayEdit}
	<Fold title="Name, region, due" bind:open={settingsOpen}>
		<div class="pt-3">
			{#key project.version}
				<ProjectForm
					{project}
					onsaved={() => {
						settingsOpen = false;
						void invalidateAll();
					}}
				/>
			{/key}
		</div>
	</Fold>
	<DeleteThis
		what="project"
		name={project.name}
		path="/projects/{project.id}"
		means="Its schedule is gone for good. Its hops stay, in no project."
		ongone={() => void goto(resolve('/projects'))}
	/>
{/if}
<AssignSheet
	bind:open={assignOpen}
	hop={assigning}
	crews={data.crews}
	today={data.today}
	onchanged={() => void invalidateAll()}
/>
