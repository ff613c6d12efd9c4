<script lang="ts">
	import { goto } from '$app/navigation';
	import { resolve } from '$app/paths';
	import { callApi } from '$lib/ui/api';
	import Notice from '$lib/ui/form/Notice.svelte';
	import { Saving } from '$lib/ui/form/saving.svelte';
	import TextField from '$lib/ui/form/TextField.svelte';
	import ThemeSwitch from '$lib/ui/frame/ThemeSwitch.svelte';

	let values = $state({ signInName: '', code: '', password: '' });
	const saving = new Saving();

	async function save(event: SubmitEvent): Promise<void> {
		event.preventDefault();
		const done = await saving.run(() => callApi('POST', '/password-resets', values));
		// eslint-disable-next-line svelte/no-navigation-without-resolve -- a query on a resolved path
		if (done) await goto(`${resolve('/sign-in')}?set=1`);
	}
</script>

<svelte:head><title>Set a new password · Skiaxis</title></svelte:head>
<main id="work" class="mx-auto flex min-h-dvh max-w-md flex-col justify-center gap-5 px-5 py-10">
	<div class="flex items-start justify-between">
		<h1>Set a new password</h1>
		<ThemeSwitch />
	</div>
	<p class="text-quiet">
		An administrator gives you the code; it works once, for a day. Wherever you are signed in, you
		will be signed out.
	</p>
	<form class="flex flex-col gap-4" onsubmit={save} novalidate {@attach saving.form}>
		{#if saving.message}<Notice kind="trouble">{saving.message}</Notice>{/if}
		<TextField
			label="Name"
			name="signInName"
			autocomplete="username"
			bind:value={values.signInName}
			error={saving.errorAt('signInName')}
		/>
		<TextField
			label="Code"
			name="code"
			autocomplete="one-time-code"
			hint="Four groups of four."
			bind:value={values.code}
			error={saving.errorAt('code')}
		/>
		<TextField
			label="New password"
			name="password"
			type="password"
			autocomplete="new-password"
			hint="At least 12 characters: a few words that do not belong together."
			bind:value={values.password}
			error={saving.errorAt('password')}
		/>
		<button class="btn btn-main" disabled={saving.busy}>Set it</button>
		<a class="text-sm" href={resolve('/sign-in')}>Back to sign in</a>
	</form>
</main>
