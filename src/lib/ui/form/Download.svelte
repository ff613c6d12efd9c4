<script lang="ts" module>
	/** How much of an answer has come, to whoever wants to say so. */
	async function readWhole(response: Response, told: (share: number) => void): Promise<Blob> {
		const total = Number(response.headers.get('content-length'));
		const type = response.headers.get('content-type') ?? '';
		// Of what is packed on its way the length says nothing of what arrives.
		const known = total > 0 && !response.headers.has('content-encoding');
		if (!response.body || !known) return response.blob();
		const reader = response.body.getReader();
		const pieces: BlobPart[] = [];
		for (let got = 0; ;) {
			const { done, value } = await reader.read();
			if (done) break;
			pieces.push(value);
			got += value.length;
			told(Math.min(1, got / total));
		}
		return new Blob(pieces, { type });
	}

	/** The name that the server gives a file, or the end of its address. */
	function nameOf(response: Response): string {
		const given = /filename="([^"]+)"/.exec(response.headers.get('content-disposition') ?? '');
		return given?.[1] ?? new URL(response.url).pathname.split('/').at(-1) ?? 'file';
	}
</script>

<script lang="ts">
	import { fetchFile, troubleOf } from '../api';
	import { saveFile } from '../saveFile';

	interface Props {
		/** Address of the file: a plain link where the page is not alive yet. */
		href: string;
		label: string;
		main?: boolean;
	}

	let { href, label, main = false }: Props = $props();
	let phase: 'idle' | 'making' | 'coming' = $state('idle');
	let percent = $state(0);
	let problem: string | undefined = $state();

	/** Fetched here, so that what takes long says so, and what fails does not end as a file of its error. */
	async function take(event: MouseEvent): Promise<void> {
		event.preventDefault();
		if (phase !== 'idle') return;
		phase = 'making';
		problem = undefined;
		try {
			const response = await fetchFile(href);
			const name = nameOf(response);
			const file = await readWhole(response, (share) => {
				phase = 'coming';
				percent = Math.round(100 * share);
			});
			saveFile(file, name);
		} catch (error) {
			problem = troubleOf(error);
		} finally {
			phase = 'idle';
		}
	}
</script>

<span class="inline-flex max-w-full flex-col gap-1">
	<!-- eslint-disable-next-line svelte/no-navigation-without-resolve -- a file, not a page -->
	<a
		class="btn {main ? 'btn-main' : ''}"
		{href}
		download
		aria-busy={phase !== 'idle'}
		onclick={(event) => void take(event)}
		>{phase === 'idle'
			? label
			: phase === 'making'
				? `${label}: being made …`
				: `${label}: ${percent} %`}</a
	>
	{#if problem}<span class="trouble text-sm font-semibold" role="alert">▲ {problem}</span>{/if}
</span>
