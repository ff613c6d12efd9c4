<script lang="ts">
	import { untrack } from 'svelte';
	import { callApi, troubleOf, uploadFile } from '../api';
	import { moment } from '../moment.svelte';
	import Notice from './Notice.svelte';
	import { pickedFile } from './pickedFile';

	interface Attachment {
		id: string;
		fileName: string;
		sizeBytes: number;
		note: string;
		uploadedAt: string | Date;
		uploadedBy: string;
	}

	interface Props {
		siteId: string;
		attachments: Attachment[];
		mayEdit: boolean;
	}

	let { siteId, attachments, mayEdit }: Props = $props();
	let list = $state(untrack(() => attachments));
	let problem: string | undefined = $state();
	let busy = $state(false);
	const MOST_BYTES = 12_000_000;

	async function add(event: Event): Promise<void> {
		const picked = pickedFile(event, MOST_BYTES);
		if (!picked) return;
		problem = 'problem' in picked ? picked.problem : undefined;
		if ('problem' in picked) return;
		const { file } = picked;
		busy = true;
		try {
			const query = new URLSearchParams({
				id: crypto.randomUUID(),
				fileName: file.name.slice(-160)
			});
			const added = await uploadFile<Attachment>(`/sites/${siteId}/attachments?${query}`, file);
			list = [added, ...list];
		} catch (error) {
			problem = troubleOf(error);
		} finally {
			busy = false;
		}
	}

	async function remove(attachment: Attachment): Promise<void> {
		problem = undefined;
		try {
			await callApi('DELETE', `/sites/${siteId}/attachments/${attachment.id}`);
			list = list.filter((other) => other.id !== attachment.id);
		} catch (error) {
			problem = troubleOf(error);
		}
	}
</script>

<section aria-labelledby="attachments-title" class="border-line mt-8 max-w-2xl border-t pt-4">
	<div class="flex items-center justify-between gap-4">
		<h2 id="attachments-title">Documents and pictures</h2>
		{#if mayEdit}
			<label class="btn focus-within:outline-3">
				{busy ? 'Sending …' : 'Attach a file'}
				<input
					type="file"
					class="sr-only"
					accept=".pdf,image/jpeg,image/png,image/webp"
					disabled={busy}
					onchange={add}
				/>
			</label>
		{/if}
	</div>
	{#if problem}<div class="mt-3"><Notice kind="trouble">{problem}</Notice></div>{/if}
	<ul class="mt-2">
		{#each list as attachment (attachment.id)}
			<li class="border-line flex flex-wrap items-center gap-x-4 border-b py-1.5">
				<a
					class="flex min-h-11 min-w-0 flex-1 items-center font-semibold break-all"
					href="/api/v1/sites/{siteId}/attachments/{attachment.id}">{attachment.fileName}</a
				>
				<span class="num text-quiet text-sm"
					>{Math.max(1, Math.round(attachment.sizeBytes / 1000))} kB</span
				>
				<span class="text-quiet text-sm"
					>{attachment.uploadedBy}, {moment(attachment.uploadedAt)}</span
				>
				{#if mayEdit}
					<button type="button" class="min-h-11 underline" onclick={() => void remove(attachment)}
						>Remove<span class="sr-only"> {attachment.fileName}</span></button
					>
				{/if}
			</li>
		{:else}
			<li class="text-quiet text-sm">None. Drawings, photographs of the mast, permits.</li>
		{/each}
	</ul>
</section>
