<script lang="ts">
	interface Props {
		page: number;
		pages: number;
		count: number;
		q: string;
		what: string;
		/** Further values of the address that a page further on keeps. */
		more?: Record<string, string>;
	}

	let { page, pages, count, q, what, more = {} }: Props = $props();
	const kept = $derived(
		Object.entries({ q, ...more })
			.filter(([, value]) => value !== '')
			.map(([key, value]) => `${key}=${encodeURIComponent(value)}&`)
			.join('')
	);
	const href = (to: number): string => `?${kept}page=${to}`;
</script>

<div class="text-quiet flex flex-wrap items-center gap-4 pt-4 text-sm">
	<span><span class="num">{count}</span> {what}</span>
	{#if pages > 1}
		<span>page <span class="num">{page}</span> of <span class="num">{pages}</span></span>
		<!-- eslint-disable svelte/no-navigation-without-resolve -- a query on the page itself -->
		{#if page > 1}<a class="btn" href={href(page - 1)}>Earlier</a>{/if}
		{#if page < pages}<a class="btn" href={href(page + 1)}>Further</a>{/if}
		<!-- eslint-enable svelte/no-navigation-without-resolve -->
	{/if}
</div>
