<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import ProjectForm from '$lib/ui/crew/ProjectForm.svelte';
</script>

<svelte:head><title>Begin a project · Skiaxis</title></svelte:head>
<h1 class="mb-5">Begin a project</h1>
<ProjectForm
	onsaved={(id) => void goto(resolve('/(desk)/projects/[projectId]', { projectId: id }))}
/>
