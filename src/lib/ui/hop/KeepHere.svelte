<script lang="ts">
	import { onMount } from 'svelte';
	import { STAGES } from '#core/stage/stages';
	import { moment } from '../moment.svelte';
	import {
		canKeep,
		hopsOnDevice,
		keepOnDevice,
		noteOnDevice,
		onKept,
		takeOffDevice,
		type HopOnDevice
	} from './onDevice';

	interface Props {
		hop: { id: string; name: string };
		/** What tells this state of the hop from a later one: its plan and whether it is accepted. */
		standing: string;
	}

	let { hop, standing }: Props = $props();
	const ends = ['a', 'b'] as const;
	let possible = $state(false);
	let busy = $state(false);
	let late = $state(false);
	let here: HopOnDevice | undefined = $state.raw();
	const whole = $derived(here?.ends.length === ends.length);
	/** A server that has not given all pages by then is as good as none. */
	const PATIENCE_MS = 60_000;
	let patience: ReturnType<typeof setTimeout> | undefined;

	const look = (): void => {
		here = hopsOnDevice().find(({ hopId }) => hopId === hop.id);
	};
	const keyOf = (end: string): string => `${hop.id}/${end}/${standing}`;

	onMount(() => {
		possible = canKeep();
		look();
		return onKept((key) => {
			const end = ends.find((one) => keyOf(one) === key);
			if (!end) return;
			noteOnDevice(hop.id, hop.name, end);
			look();
			if (whole) busy = false;
		});
	});

	function keep(): void {
		busy = true;
		late = false;
		// A device short of room drops what it may; what a crew needs on the tower is not to be dropped.
		void navigator.storage.persist().catch(() => undefined);
		const base = `/hops/${hop.id}`;
		keepOnDevice(
			ends.map((end) => ({
				key: keyOf(end),
				paths: ['/', base, ...['sheet', ...STAGES].map((page) => `${base}/${end}/${page}`)]
			}))
		);
		clearTimeout(patience);
		patience = setTimeout(() => {
			late = busy;
			busy = false;
		}, PATIENCE_MS);
	}

	async function takeOff(): Promise<void> {
		busy = true;
		await takeOffDevice(hop.id);
		busy = false;
		look();
	}
</script>

{#if possible}
	<section class="border-line flex flex-wrap items-center gap-x-4 gap-y-2 border-t pt-4">
		{#if whole}
			<p class="min-w-0 flex-1 basis-60" data-testid="on-this-device">
				<strong>Both ends are on this device</strong>
				<span class="text-quiet block text-sm"
					>since {moment(new Date(here!.at))}: all stages and both site sheets open without
					connection.</span
				>
			</p>
			<button type="button" class="btn" disabled={busy} onclick={takeOff}
				>{busy ? 'Taking it off …' : 'Take it off this device'}</button
			>
		{:else}
			<p class="text-quiet min-w-0 flex-1 basis-60 text-sm">
				{here
					? `Only end ${here.ends.join(', ').toUpperCase()} is on this device yet.`
					: 'For a site without connection, bring it onto this device before you leave.'}
				{#if late}<strong class="text-ink block" role="alert"
						>Not everything came. Try again with a better connection.</strong
					>{/if}
			</p>
			<button type="button" class="btn" disabled={busy} onclick={keep}
				>{busy ? 'Bringing it here …' : 'Keep this hop on this device'}</button
			>
		{/if}
	</section>
{/if}
