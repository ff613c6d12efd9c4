<script lang="ts">
	import { resolve } from '$app/paths';
	import type { End } from '#core/ends';
	import { WAITS_WORDS, type EndStanding } from '#core/stage/standing';
	import { STAGE_WORDS } from '../hop/stageWords';
	import { lengthWords } from '../timetable/lengthWords';
	import SmallMast from './SmallMast.svelte';

	interface Props {
		hopId: string;
		end: End;
		site: string;
		standing: EndStanding;
		/** Who is there, and when. */
		crew?: string | undefined;
		/** Now, ms; 0 where the page is not alive yet. */
		nowMs: number;
	}

	let { hopId, end, site, standing, crew, nowMs }: Props = $props();
	const waited = $derived(
		standing.waitsFor !== null && standing.since !== null && nowMs > 0
			? longFor((nowMs - Date.parse(standing.since)) / 1000)
			: ''
	);
	/** How long it waits: days where it is days. */
	function longFor(seconds: number): string {
		const days = Math.floor(seconds / 86_400);
		return days < 2 ? lengthWords(Math.max(0, seconds) / 60) : `${days} days`;
	}
</script>

<a
	href={resolve('/hops/[hopId]/[end=end]/[stage=stage]', {
		...{ hopId, end: end === 'A' ? 'a' : 'b', stage: standing.stage }
	})}
	class="end-{end} flex min-h-14 min-w-0 items-start gap-2 no-underline"
>
	<SmallMast {end} stage={standing.stage} state={standing.state} />
	<span class="min-w-0 text-sm">
		<span class="block truncate"
			><span class="text-end-own font-bold">{end}</span>
			{site}</span
		>
		<span class="block">
			<span class="font-semibold underline">{STAGE_WORDS[standing.stage]}</span>
			{#if standing.state === 'trouble'}<span class="trouble font-semibold">▲ trouble</span
				>{:else if standing.waitsFor !== null}<span class="font-semibold"
					>waits for {WAITS_WORDS[standing.waitsFor]}{waited ? ` for ${waited}` : ''}</span
				>{/if}
		</span>
		{#if standing.note}<span class="text-quiet line-clamp-2 block">{standing.note}</span>{/if}
		{#if crew}<span class="text-quiet block truncate">{crew}</span>{/if}
	</span>
</a>
