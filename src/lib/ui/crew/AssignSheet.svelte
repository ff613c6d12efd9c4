<script lang="ts">
	import { ENDS, type End } from '#core/ends';
	import { callApi, troubleOf } from '../api';
	import Sheet from '../align/Sheet.svelte';
	import Pick from '../form/Pick.svelte';
	import { Saving } from '../form/saving.svelte';
	import SavingTrouble from '../form/SavingTrouble.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import { clockMinute, clockText } from '../timetable/dayForm';
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
		crews: readonly { id: string; name: string; fromMin: number }[];
		/** As `2026-06-15`: what is proposed. */
		today: string;
		/** Something was assigned or taken away. */
		onchanged: () => void;
	}

	let { open = $bindable(), hop, crews, today, onchanged }: Props = $props();
	let assignments: Assignment[] | undefined = $state.raw();
	let problem: string | undefined = $state();
	let end: End = $state('A');
	let crewId = $state('');
	let day = $state('');
	let at = $state('');
	let note = $state('');
	/** Made with the form, so that a repeat makes no second one. */
	let id = $state('');
	const saving = new Saving();
	const crewOptions = $derived(crews.map((crew) => ({ value: crew.id, label: crew.name })));
	const nameOf = (of: string): string => crews.find((crew) => crew.id === of)?.name ?? '';

	$effect(() => {
		if (!open || !hop) return;
		const { id: hopId } = hop;
		assignments = undefined;
		problem = undefined;
		saving.problems = [];
		saving.message = undefined;
		id = crypto.randomUUID();
		crewId ||= crews[0]?.id ?? '';
		day ||= today;
		void load(hopId);
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

	async function assign(): Promise<void> {
		if (!hop) return;
		const { id: hopId } = hop;
		const fromMin = at.trim() === '' ? null : (clockMinute(at) ?? at);
		const body = { end, crewId, day, fromMin, note };
		const done = await saving.run(() => callApi('PUT', `/hops/${hopId}/assignments/${id}`, body));
		if (!done) return;
		id = crypto.randomUUID();
		note = '';
		// The other end is what one thinks of next.
		end = end === 'A' ? 'B' : 'A';
		onchanged();
		await load(hopId);
	}

	async function takeAway(gone: Assignment): Promise<void> {
		if (!hop) return;
		const { id: hopId } = hop;
		if (!(await saving.run(() => callApi('DELETE', `/hops/${hopId}/assignments/${gone.id}`)))) {
			return;
		}
		onchanged();
		await load(hopId);
	}
</script>

<Sheet bind:open title="Crews at {hop?.name ?? ''}" description="Who is at which end, and when.">
	{#if hop}
		<div class="flex flex-col gap-3">
			{#if problem}<p class="trouble text-sm" role="alert">{problem}</p>{/if}
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
								onclick={() => void takeAway(one)}>Take away</button
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
				<form
					class="flex flex-col gap-3"
					onsubmit={(event) => {
						event.preventDefault();
						void assign();
					}}
					novalidate
					{@attach saving.form}
				>
					<SavingTrouble {saving} />
					<div class="flex items-center gap-3">
						<span class="text-sm font-semibold" id="assign-end">End</span>
						<Pick
							label="End"
							options={ENDS.map((one) => ({ value: one, label: `${one}, ${hop.sites[one]}` }))}
							bind:value={end}
						/>
					</div>
					<SelectField
						label="Crew"
						name="crewId"
						options={crewOptions}
						bind:value={crewId}
						error={saving.errorAt('crewId')}
					/>
					<div class="grid grid-cols-2 gap-3">
						<TextField
							label="Day"
							name="day"
							type="date"
							bind:value={day}
							error={saving.errorAt('day')}
						/>
						<TextField
							label="To be there at"
							name="fromMin"
							hint="Empty: when it begins"
							bind:value={at}
							error={saving.errorAt('fromMin')}
						/>
					</div>
					<TextField
						label="Note"
						name="note"
						hint="The key, whom to call at the gate"
						bind:value={note}
						error={saving.errorAt('note')}
					/>
					<button class="btn btn-main" disabled={saving.busy}
						>{saving.busy ? 'Saving …' : `Put it at ${end}`}</button
					>
				</form>
			{/if}
		</div>
	{/if}
</Sheet>
