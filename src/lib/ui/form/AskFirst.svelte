<script lang="ts">
	import Sheet from '../align/Sheet.svelte';

	interface Props {
		open: boolean;
		/** What is about to be done, as a question. */
		title: string;
		/** What cannot be undone about it. */
		means: string;
		/** What the button says that does it. */
		yes: string;
		onyes: () => void;
	}

	let { open = $bindable(), title, means, yes, onyes }: Props = $props();
</script>

<!-- Asked before what freezes or is gone for good; the way out is as large as the way on. -->
<Sheet bind:open {title} description={means}>
	<div class="mt-3 flex flex-col gap-3" data-testid="ask-first">
		<button
			type="button"
			class="btn btn-main"
			onclick={() => {
				open = false;
				onyes();
			}}>{yes}</button
		>
		<button type="button" class="btn" onclick={() => (open = false)}>Not yet</button>
	</div>
</Sheet>
