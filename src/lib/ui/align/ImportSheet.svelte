<script lang="ts">
	import type { Axis } from '#core/ends';
	import type { SweepSample } from '#core/sweep/analyseSweep';
	import Notice from '../form/Notice.svelte';
	import Sheet from './Sheet.svelte';
	import { LARGEST_CSV_BYTES, parseSweepCsv } from './sweepCsv';

	interface Props {
		open: boolean;
		onsweep: (axis: Axis, samples: SweepSample[]) => void;
	}

	let { open = $bindable(), onsweep }: Props = $props();
	let axis: Axis = $state('azimuth');
	let problem: string | undefined = $state();
	let ready: SweepSample[] | undefined = $state.raw();

	async function choose(event: Event & { currentTarget: HTMLInputElement }): Promise<void> {
		const file = event.currentTarget.files?.[0];
		ready = undefined;
		problem = undefined;
		if (!file) return;
		if (file.size > LARGEST_CSV_BYTES) {
			problem = `The file has ${(file.size / 1e6).toFixed(0)} MB; a sweep has at most 2. Nothing was taken.`;
			return;
		}
		const result = parseSweepCsv(await file.text());
		if (result.kind === 'bad') problem = result.message;
		else ready = result.samples;
	}

	function take(): void {
		if (!ready) return;
		onsweep(axis, ready);
		ready = undefined;
		open = false;
	}
</script>

<Sheet
	bind:open
	title="Import a sweep"
	description="A CSV file with the columns “elapsed_s”, “position_deg” and “level_v”."
>
	<div class="flex flex-col gap-4">
		<div class="grid grid-cols-2 gap-2" role="group" aria-label="Axis">
			{#each ['azimuth', 'tilt'] as const as option (option)}
				<button
					type="button"
					class="btn {axis === option ? 'btn-main' : ''}"
					aria-pressed={axis === option}
					onclick={() => (axis = option)}>{option}</button
				>
			{/each}
		</div>
		<div>
			<label for="sweep-file" class="font-semibold">File</label>
			<input
				id="sweep-file"
				type="file"
				accept=".csv,text/csv"
				class="input mt-1 py-2.5!"
				onchange={choose}
			/>
		</div>
		{#if problem}<Notice kind="trouble">{problem}</Notice>{/if}
		{#if ready}<p><span class="num">{ready.length}</span> readings are ready.</p>{/if}
		<button type="button" class="btn btn-main btn-big" disabled={!ready} onclick={take}>
			Take it as a sweep of {axis}
		</button>
	</div>
</Sheet>
