<script lang="ts">
	import type { UnitPlan } from '#core/hub/hubFigures';
	import { bearing, degrees, fixed } from '../format';
	import MountedFigures from './MountedFigures.svelte';

	let { figures }: { figures: UnitPlan } = $props();
	const { unit, marginDeg, airTime, airTimeThere } = $derived(figures);
</script>

<MountedFigures mounted={unit}>
	<dt class="text-quiet">Heading, tilt</dt>
	<dd class="num">{bearing(unit.headingDeg, 1)} true, {degrees(unit.tiltDeg, 1, true)}</dd>
	<dt class="text-quiet">Channel</dt>
	<dd class="num">{unit.frequencyGhz} GHz</dd>
	<dt class="text-quiet">Nearest to an edge</dt>
	<dd class="num">{marginDeg === null ? 'serves no terminal' : degrees(marginDeg, 1)}</dd>
	<dt class="text-quiet">Air time promised</dt>
	<dd class="num">{fixed(100 * airTime, 0)} % of {fixed(100 * airTimeThere, 0)} %</dd>
</MountedFigures>
