<script lang="ts">
	import { untrack } from 'svelte';
	import type { End } from '#core/ends';
	import { callApi, troubleOf } from '../api';
	import Sheet from '../align/Sheet.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import { clockText } from '../timetable/dayForm';
	import AssignForm from './AssignForm.svelte';
	import { dayWords } from './dayWords';

	interface Assignment {
		id: string;
		end: End;
		crewId: string;
		day: string;
		fromMin: number | null;
		note: string;
	}

	interface Props {
		open: boolean;
		hop: { id: string; name: string; sites: Record<End, string> } | undefined;
		crews: readonly { id: string; name: string }[];
		/** As `2026-06-15`: what is proposed. */
		today: string;
		/** Something was assigned or taken away. */
		onchanged: () => void;
	}

	let { open = $bindable(), hop, crews, today, onchanged }: Props = $props();
	let assignments: Assignment[] | undefined = $state.raw();
	let problem: string | undefined = $state();
	const taking = new Saving();
	const nameOf = (of: string): string => crews.find((crew) => crew.id === of)?.name ?? '';

	$effect(() => {
		const hopId = open ? hop?.id : undefined;
		if (hopId === undefined) return;
		untrack(() => {
			assignments = undefined;
			problem = undefined;
			void load(hopId);
		});
	});

	async function load(hopId: string): Promise<void> {
		try {
			const answer = await callApi<{ assignments: Assignment[] }>(
				'GET',
				`/hops/${hopId}/assignments`
			);
			if (hop?.id === hopId) assignments = answer.assignments;
		} catch (error) {
			problem = troubleOf(error);
		}
	}

	function changed(hopId: string): void {
		onchanged();
		void load(hopId);
	}

	async function takeAway(hopId: string, gone: Assignment): Promise<void> {
		const path = `/hops/${hopId}/assignments/${gone.id}`;
		if (await taking.run(() => callApi('DELETE', path))) changed(hopId);
	}
</script>

<Sheet bind:open title="Crews at {hop?.name ?? ''}" description="Who is at which end, and when.">
	{#if hop}
		<div class="flex flex-col gap-3">
			{#if problem}<p class="trouble text-sm" role="alert">{problem}</p>{/if}
			<SavingTrouble saving={taking} />
			{#if assignments && assignments.length}
				<ul class="border-line border-t" data-testid="assignments">
					{#each assignments as one (one.id)}
						<li class="border-line end-{one.end} flex items-center gap-3 border-b py-1">
							<span class="min-w-0 flex-1 text-sm">
								<span class="text-end-own font-bold">{one.end}</span>
								<strong>{nameOf(one.crewId)}</strong>, {dayWords(one.day)}{one.fromMin === null
									? ''
									: ` at ${clockText(one.fromMin)}`}
								{#if one.note}<span class="text-quiet block">{one.note}</span>{/if}
							</span>
							<button
								type="button"
								class="btn shrink-0"
								aria-label="Take {nameOf(one.crewId)} away from {one.end} on {dayWords(one.day)}"
								onclick={() => void takeAway(hop.id, one)}>Take away</button
							>
						</li>
					{/each}
				</ul>
			{:else if assignments}
				<p class="text-quiet text-sm">No crew is assigned yet.</p>
			{/if}
			{#if crews.length === 0}
				<p class="text-quiet text-sm">No crew is made yet: make one first, under Crews.</p>
			{:else}
				{#key hop.id}
					<AssignForm {hop} {crews} {today} onassigned={() => changed(hop.id)} />
				{/key}
			{/if}
		</div>
	{/if}
</Sheet>
