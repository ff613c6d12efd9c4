<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { untrack } from 'svelte';
	import { callApi } from '../api';
	import Notice from '../form/Notice.svelte';
	import { Saving } from '../form/saving.svelte';
	import Tick from '../form/Tick.svelte';

	interface Props {
		hopId: string;
		members: { id: string; displayName: string; role: string }[];
		people: { id: string; displayName: string; role: string; disabled: boolean }[];
	}

	let { hopId, members, people }: Props = $props();
	let chosen = $state(untrack(() => members.map((member) => member.id)));
	const saving = new Saving();

	function save(): void {
		void saving.run(async () => {
			await callApi('PUT', `/hops/${hopId}/members`, { memberIds: chosen });
			await invalidateAll();
		});
	}
</script>

<section aria-labelledby="members-title" class="border-line border-t pt-4">
	<h2 id="members-title">Who works on this hop</h2>
	<p class="text-quiet mb-2 text-sm">Only they see it. You stay on it yourself.</p>
	<ul class="grid gap-x-6 sm:grid-cols-2">
		{#each people.filter((person) => !person.disabled) as person (person.id)}
			<li>
				<Tick
					checked={chosen.includes(person.id)}
					onpick={(on) =>
						(chosen = on
							? [...chosen, person.id]
							: chosen.filter((memberId) => memberId !== person.id))}
				>
					<span>{person.displayName}<span class="text-quiet">, {person.role}</span></span>
				</Tick>
			</li>
		{/each}
	</ul>
	{#if saving.message}<Notice kind="trouble">{saving.message}</Notice>{/if}
	<button class="btn mt-2" onclick={save} disabled={saving.busy}>Save who works on it</button>
</section>
