<script lang="ts">
	import { resolve } from '$app/paths';
	import type { NewerPart } from '#core/budget/newerParts';
	import { ENDS, type End } from '#core/ends';
	import { moment } from '../moment.svelte';
	import type { LiveHop } from '../hop/liveHop.svelte';

	interface Props {
		end: End;
		hopId: string;
		live: LiveHop | undefined;
		/** Parts of the revision that have changed in the catalogue since. */
		newerParts: readonly NewerPart[];
	}

	let { end, hopId, live, newerParts }: Props = $props();

	const sheetHref = (of: End): string =>
		resolve('/hops/[hopId]/[end=end]/sheet', { hopId, end: of === 'A' ? 'a' : 'b' });
</script>

{#if live}
	<section aria-labelledby="sheet-title" class="flex flex-wrap items-center gap-x-6 gap-y-3">
		<div class="min-w-0 flex-1 basis-72">
			<h2 id="sheet-title">Site sheets, plan revision {live.revision.number}</h2>
			<p class="text-quiet text-sm">
				Issued {moment(live.revision.issuedAt)}. Frozen: what is measured is kept against it.
			</p>
		</div>
		<div class="flex flex-wrap gap-3">
			<a class="btn btn-main" href={sheetHref(end)}>Open the sheet of {end}</a>
			{#each ENDS.filter((other) => other !== end) as other (other)}
				<a class="btn" href={sheetHref(other)}>Sheet of {other}</a>
			{/each}
		</div>
	</section>
{/if}

{#if newerParts.length}
	<section aria-labelledby="newer-title" data-testid="newer-parts">
		<h2 id="newer-title">Parts that have changed since</h2>
		<ul class="mt-1">
			{#each newerParts as one (one.end + one.kind + one.code)}
				<li>
					<strong class="num">{one.code}</strong> at {one.end}: {one.frozenVersion === null
						? 'planned before versions'
						: `version ${one.frozenVersion} is planned`}, version {one.version} is in the parts now{one.retired
						? ', retired'
						: ''}.
				</li>
			{/each}
		</ul>
		<p class="text-quiet text-sm">
			The revision in force keeps what it has; a new revision takes the newer one.
		</p>
	</section>
{/if}
