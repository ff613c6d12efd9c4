<script lang="ts" module>
	/** What this browser reads codes with; only some can, those of most phones among them. */
	interface Detector {
		detect(source: HTMLVideoElement): Promise<{ rawValue: string }[]>;
	}
	type MadeDetector = new () => Detector;
	const detectorHere = (): MadeDetector | undefined =>
		(globalThis as { BarcodeDetector?: MadeDetector }).BarcodeDetector;
	/** A frame is looked at this often, ms. */
	const LOOK_MS = 200;
</script>

<script lang="ts">
	import ScanLine from '@lucide/svelte/icons/scan-line';
	import { onMount } from 'svelte';
	import Sheet from '../align/Sheet.svelte';

	interface Props {
		/** What is read, as its field is called. */
		what: string;
		onread: (text: string) => void;
	}

	let { what, onread }: Props = $props();
	let here = $state(false);
	let open = $state(false);
	let video: HTMLVideoElement | undefined = $state();
	let problem: string | undefined = $state();
	onMount(() => {
		here = detectorHere() !== undefined && 'mediaDevices' in navigator;
	});

	$effect(() => {
		const Detector = detectorHere();
		if (!open || !video || !Detector) return;
		const screen = video;
		let gone = false;
		let stream: MediaStream | undefined;
		let timer: ReturnType<typeof setTimeout> | undefined;
		problem = undefined;
		const look = async (detector: Detector): Promise<void> => {
			const found = await detector.detect(screen).catch(() => []);
			const text = found[0]?.rawValue.trim();
			if (gone) return;
			if (text) {
				open = false;
				onread(text);
			} else timer = setTimeout(() => void look(detector), LOOK_MS);
		};
		void navigator.mediaDevices
			.getUserMedia({ video: { facingMode: 'environment' } })
			.then(async (got) => {
				if (gone) {
					for (const track of got.getTracks()) track.stop();
					return;
				}
				stream = got;
				screen.srcObject = got;
				await screen.play();
				await look(new Detector());
			})
			.catch(() => (problem = 'The camera cannot be used here: type it in.'));
		return () => {
			gone = true;
			clearTimeout(timer);
			for (const track of stream?.getTracks() ?? []) track.stop();
		};
	});
</script>

{#if here}
	<button type="button" class="btn px-3" onclick={() => (open = true)}
		><ScanLine size={20} /> Read its code</button
	>
	<Sheet bind:open title="Code of {what}" description="Hold the code flat in the picture.">
		<video bind:this={video} class="w-full rounded bg-black" muted playsinline></video>
		{#if problem}<p class="trouble mt-2 font-semibold" role="alert">▲ {problem}</p>{/if}
	</Sheet>
{/if}
