<script lang="ts">
	import { onMount } from 'svelte';
	import Notice from '../form/Notice.svelte';
	import type { AlignBench } from './bench.svelte';
	import { runReplayMeter, runSerialMeter, serialAccess, type LoggedLevel } from './meters';
	import Sheet from './Sheet.svelte';
	import { parseLevelLog } from './levelLog';
	import Pick from '../form/Pick.svelte';

	const BAUD_RATES = ['1200', '2400', '9600', '19200', '38400', '57600', '115200'].map((rate) => ({
		value: rate,
		label: rate
	}));
	const LOG_SPEEDS = [
		{ value: '1', label: 'As recorded' },
		{ value: '5', label: 'Five times' },
		{ value: '20', label: 'Twenty times' }
	];

	interface Props {
		open: boolean;
		bench: AlignBench;
		practice: boolean;
	}

	let { open = $bindable(), bench, practice }: Props = $props();
	let hasSerial = $state(false);
	let baud = $state('9600');
	let problem: string | undefined = $state();
	let log: LoggedLevel[] | undefined = $state.raw();
	let speed = $state('1');
	onMount(() => {
		hasSerial = serialAccess() !== undefined;
	});

	async function connect(): Promise<void> {
		problem = undefined;
		try {
			const port = await serialAccess()!.requestPort();
			await bench.useMeter('serial', (listener) => runSerialMeter(port, Number(baud), listener));
			open = false;
		} catch (error) {
			problem =
				error instanceof DOMException && error.name === 'NotFoundError'
					? 'No port was chosen.'
					: `The port could not be opened: ${error instanceof Error ? error.message : 'unknown reason'}. Is another program using it?`;
		}
	}

	async function choose(event: Event & { currentTarget: HTMLInputElement }): Promise<void> {
		const file = event.currentTarget.files?.[0];
		log = undefined;
		problem = undefined;
		if (!file) return;
		if (file.size > 5_000_000) {
			problem = `The file has ${(file.size / 1e6).toFixed(0)} MB; a level log has at most 5. Nothing was taken.`;
			return;
		}
		const read = parseLevelLog(await file.text());
		if (read.kind === 'bad') problem = read.message;
		else log = read.log;
	}

	async function play(): Promise<void> {
		const rows = log!;
		await bench.useMeter('replay', (listener) =>
			Promise.resolve(runReplayMeter(rows, Number(speed), listener))
		);
		open = false;
	}

	async function use(source: 'hand' | 'simulated'): Promise<void> {
		await bench.stopMeter();
		bench.source = source;
		open = false;
	}
</script>

<Sheet bind:open title="Where readings come from" description="The meter of this end.">
	<div class="flex flex-col gap-5">
		<div class="flex flex-col gap-2">
			<button class="btn" aria-pressed={bench.source === 'hand'} onclick={() => void use('hand')}
				>Type readings</button
			>
			{#if practice}
				<button
					class="btn"
					aria-pressed={bench.source === 'simulated'}
					onclick={() => void use('simulated')}>Use the simulated meter</button
				>
			{/if}
		</div>
		<section aria-label="Bench meter">
			<h3 class="font-bold">Bench meter on a serial port</h3>
			{#if hasSerial}
				<p class="text-quiet text-sm">
					It must speak SCPI and stand on DC volts; it is asked five times a second.
				</p>
				<label for="baud" class="mt-2 block font-semibold">Speed of the port, baud</label>
				<Pick id="baud" class="mt-1" options={BAUD_RATES} bind:value={baud} />
				<button class="btn btn-main mt-3 w-full" onclick={() => void connect()}
					>Choose the port and connect</button
				>
			{:else}
				<p class="text-quiet text-sm">
					This browser gives no access to serial ports; type the readings, or use a browser that
					does.
				</p>
			{/if}
		</section>
		<section aria-label="Recorded level log">
			<h3 class="font-bold">Recorded level log</h3>
			<p class="text-quiet text-sm">
				CSV with the columns “elapsed_s” and “level_v”, played in its own time.
			</p>
			<label for="log-file" class="mt-2 block font-semibold">Log file</label>
			<input
				id="log-file"
				type="file"
				accept=".csv,text/csv"
				class="input mt-1 py-2.5!"
				onchange={choose}
			/>
			<label for="log-speed" class="mt-2 block font-semibold">Speed</label>
			<Pick id="log-speed" class="mt-1" options={LOG_SPEEDS} bind:value={speed} />
			<button class="btn btn-main mt-3 w-full" disabled={!log} onclick={() => void play()}
				>{log ? `Play ${log.length} readings` : 'Play it'}</button
			>
		</section>
		{#if problem}<Notice kind="trouble">{problem}</Notice>{/if}
	</div>
</Sheet>
