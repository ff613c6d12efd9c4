<script lang="ts">
	import { onMount } from 'svelte';
	import { resolve } from '$app/paths';
	import { callApi } from '../api';
	import Notice from '../form/Notice.svelte';
	import { session } from '../session.svelte';

	/** Back from the page where one signs in, this page sees for itself whether it worked. */
	onMount(() => {
		const look = (): void => {
			if (session.ended && document.visibilityState === 'visible') {
				void callApi('GET', '/me').catch(() => undefined);
			}
		};
		document.addEventListener('visibilitychange', look);
		addEventListener('focus', look);
		return () => {
			document.removeEventListener('visibilitychange', look);
			removeEventListener('focus', look);
		};
	});
</script>

{#if session.ended}
	<div class="sticky top-0 z-40 px-3 pt-2" data-testid="session-ended">
		<Notice kind="trouble">
			<p class="font-semibold">Your session has ended. Nothing is lost, and nothing is sent.</p>
			<p class="mt-1">
				Sign in again beside this page, then come back to it: it goes on where you are.
			</p>
			<a
				class="btn btn-main mt-2"
				target="_blank"
				href="{resolve('/sign-in')}?next={encodeURIComponent(resolve('/signed-in'))}"
				>Sign in again</a
			>
		</Notice>
	</div>
{/if}
