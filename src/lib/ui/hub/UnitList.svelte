<script lang="ts">
	import type { HubPlan } from '#core/hub/hubFigures';
	import { bearing, degrees, fixed } from '../format';
	import type { UnitForm } from './hubForm';

	interface Props {
		units: readonly UnitForm[];
		plan: HubPlan | undefined;
		onchoose: (id: string) => void;
	}

	let { units, plan, onchoose }: Props = $props();
</script>

<h2>Units</h2>
<ul class="border-line border-t">
	{#each units as unit, i (unit.id)}
		{@const figures = plan?.units.find((one) => one.unit.id === unit.id)}
		<li class="border-line border-b">
			<button
				type="button"
				class="flex min-h-14 w-full items-center gap-3 py-2 text-left"
				onclick={() => onchoose(unit.id)}
			>
				<span class="num border-ink grid h-7 w-7 place-items-center rounded-full border-2"
					>{i + 1}</span
				>
				<span class="grow">
					<strong>{unit.name}</strong>
					{#if figures}
						{@const { unit: set, terminals, airTime, airTimeThere } = figures}
						<span class="text-quiet num block text-sm"
							>{bearing(set.headingDeg, 1)}, tilt {degrees(set.tiltDeg, 1, true)}, {set.frequencyGhz}
							GHz</span
						>
						<span class="num block text-sm"
							>{terminals.length}
							{terminals.length === 1 ? 'terminal' : 'terminals'},
							<span class={airTime > airTimeThere ? 'trouble font-bold' : ''}
								>{fixed((100 * airTime) / airTimeThere, 0)} % of its air time promised</span
							></span
						>
					{/if}
				</span>
			</button>
		</li>
	{/each}
</ul>
