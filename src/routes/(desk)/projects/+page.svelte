<script lang="ts">
	import { resolve } from '$app/paths';
	import { dayWords } from '$lib/ui/crew/dayWords';

	let { data } = $props();
</script>

<svelte:head><title>Projects · Skiaxis</title></svelte:head>

<div class="mb-5 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>Projects</h1>
	{#if data.mayEdit}
		<a class="btn btn-main" href={resolve('/projects/new')}>Begin a project</a>
	{/if}
	<a class="inline-flex min-h-11 items-center" href={resolve('/board')}>Board</a>
</div>
{#if data.projects.length === 0}
	<p class="text-quiet py-10">
		No project is begun yet.{data.mayEdit ? ' Begin one, then put hops into it on the board.' : ''}
	</p>
{:else}
	<ul class="border-line border-t">
		{#each data.projects as project (project.id)}
			{@const open = project.hops - project.accepted}
			{@const late = open > 0 && project.dueDay !== null && project.dueDay < data.today}
			<li class="border-line border-b">
				<a
					href={resolve('/(desk)/projects/[projectId]', { projectId: project.id })}
					class="hover:bg-card grid gap-x-6 gap-y-1 px-2 py-3 no-underline sm:grid-cols-[1fr_12rem_14rem]"
				>
					<span class="min-w-0">
						<span class="block truncate text-lg font-semibold">{project.name}</span>
						<span class="text-quiet block truncate text-sm">{project.region}</span>
					</span>
					<span class="text-sm">
						<span class="num">{project.accepted}</span> of
						<span class="num">{project.hops}</span>
						{project.hops === 1 ? 'hop' : 'hops'} accepted
					</span>
					<span class="text-sm {late ? 'trouble font-semibold' : 'text-quiet'}">
						{project.dueDay === null
							? ''
							: `${late ? '▲ Overdue, was due' : 'Due'} ${dayWords(project.dueDay)}`}
					</span>
				</a>
			</li>
		{/each}
	</ul>
{/if}
