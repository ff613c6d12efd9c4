<script lang="ts">
	import Notice from './Notice.svelte';
</script>

<!-- In place of a part of a page that is fetched only when it is needed and could not be. -->
<Notice kind="trouble">
	This part of the page is not on this device. With a connection, reload the page and ask again.
</Notice>
