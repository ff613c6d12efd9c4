<script lang="ts">
	interface Props {
		page: number;
		pages: number;
		count: number;
		q: string;
		what: string;
		/** Whether there are more than were counted. */
		more?: boolean;
		/** What the next page is asked for with, however far in it is. */
		next?: string | null;
		/** Further values of the address that a page further on keeps. */
		keep?: Record<string, string>;
	}

	let { page, pages, count, q, what, more = false, next = null, keep = {} }: Props = $props();
	const kept = $derived(
		Object.entries({ q, ...keep })
			.filter(([, value]) => value !== '')
			.map(([key, value]) => `${key}=${encodeURIComponent(value)}&`)
			.join('')
	);
	const href = (to: number): string => `?${kept}page=${to}`;
	const further = $derived(
		href(page + 1) + (next === null ? '' : `&after=${encodeURIComponent(next)}`)
	);
	const goesOn = $derived(next !== null || page < pages);
</script>

<div class="text-quiet flex flex-wrap items-center gap-4 pt-4 text-sm">
	<span>{more ? 'more than ' : ''}<span class="num">{count}</span> {what}</span>
	{#if pages > 1}
		<span
			>page <span class="num">{page}</span>{#if !more}&nbsp;of <span class="num">{pages}</span
				>{/if}</span
		>
		<!-- eslint-disable svelte/no-navigation-without-resolve -- a query on the page itself -->
		{#if page > 1}<a class="btn" href={href(page - 1)}>Earlier</a>{/if}
		{#if goesOn}<a class="btn" href={further}>Further</a>{/if}
		<!-- eslint-enable svelte/no-navigation-without-resolve -->
	{/if}
</div>
