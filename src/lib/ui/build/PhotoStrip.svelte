<script lang="ts">
	import Camera from '@lucide/svelte/icons/camera';
	import type { End } from '#core/ends';
	import type { LiveHop } from '../hop/liveHop.svelte';
	import { shrinkPhoto } from './shrink';

	interface Props {
		end: End;
		live: LiveHop;
		/** What the photo is of, in the record. */
		about: string;
		photoIds: string[];
		label?: string;
		readonly?: boolean;
	}

	let {
		end,
		live,
		about,
		photoIds = $bindable(),
		label = 'Photo',
		readonly = false
	}: Props = $props();
	let message: string | undefined = $state();
	let busy = $state(false);
	const MOST_BYTES = 40_000_000;

	async function take(event: Event): Promise<void> {
		const input = event.currentTarget as HTMLInputElement;
		const file = input.files?.[0];
		input.value = '';
		if (!file) return;
		message = undefined;
		if (file.size > MOST_BYTES) {
			message = `${file.name} has ${Math.round(file.size / 1e6)} MB; at most ${MOST_BYTES / 1e6} MB are taken.`;
			return;
		}
		busy = true;
		try {
			const small = await shrinkPhoto(file);
			photoIds = [...photoIds, await live.addPhoto(end, small, about, '')];
		} catch {
			message = `${file.name} is no picture that this device can read.`;
		}
		busy = false;
	}

	/** Pictures that still wait here are shown from the device. */
	const waiting = $derived(
		new Map(live.photosWaiting.map((photo) => [photo.id, URL.createObjectURL(photo.bytes)]))
	);
	$effect(() => {
		const shown = [...waiting.values()];
		return () => shown.forEach((url) => URL.revokeObjectURL(url));
	});
	const sourceOf = (id: string): string =>
		waiting.get(id) ?? `/api/v1/hops/${live.hopId}/photos/${id}?size=small`;
</script>

<div class="flex flex-wrap items-center gap-2">
	{#each photoIds as id (id)}
		<img
			src={sourceOf(id)}
			alt="Photo of {about.replaceAll('-', ' ')}"
			class="border-line h-16 w-20 rounded border object-cover"
		/>
	{/each}
	{#if !readonly && live.mayRecord}
		<label class="btn cursor-pointer focus-within:outline-3">
			<Camera size={20} aria-hidden="true" />
			{busy ? 'Taking …' : photoIds.length ? 'One more' : label}
			<input
				type="file"
				accept="image/*"
				class="sr-only"
				disabled={busy}
				onchange={(event) => void take(event)}
			/>
		</label>
	{/if}
	{#if message}<p class="trouble w-full text-sm font-semibold">▲ {message}</p>{/if}
</div>
