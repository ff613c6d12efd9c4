<script lang="ts">
	let { phone }: { phone: string } = $props();
	/** What a phone dials of what somebody typed. */
	const dialled = $derived(phone.replace(/[^0-9+]/g, ''));
</script>

<a class="num inline-flex min-h-11 items-center underline" href="tel:{dialled}">{phone}</a>
