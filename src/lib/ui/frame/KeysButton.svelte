<script lang="ts">
	import Keyboard from '@lucide/svelte/icons/keyboard';
	import { shortcuts } from './shortcuts.svelte';
</script>

<!-- For a desk: a phone has no keys. -->
<button
	type="button"
	class="hidden h-12 w-12 items-center justify-center rounded-lg lg:inline-flex"
	aria-label="Keys of this page"
	title="Keys of this page (?)"
	onclick={() => (shortcuts.list.open = true)}
>
	<Keyboard size={22} aria-hidden="true" />
</button>
