<script lang="ts">
	import { turnsOnRod } from '#core/budget/pointingPlan';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import { ENDS } from '#core/ends';
	import { bearing, degrees, fixed } from '../../format';
	import { measure } from '../../units.svelte';
	import { usePlanEditor } from '../editor.svelte';
	import PlanText from '../PlanText.svelte';
	import LandmarkMap from '../LandmarkMap.svelte';
	import Fold from '../../form/Fold.svelte';

	const editor = usePlanEditor();
	const values = $derived(editor.draft.values);
</script>

<div class="grid gap-4 sm:grid-cols-3">
	<PlanText
		label="Day of the work"
		field="workDate"
		type="date"
		bind:value={editor.draft.values.workDate}
	/>
	<PlanText
		label="Compass uncertainty"
		unit="°, one sigma"
		field="search.compassSigmaDeg"
		numeric
		bind:value={editor.draft.values.search.compassSigmaDeg}
	/>
	<PlanText
		label="Level uncertainty"
		unit="°, one sigma"
		field="search.levelSigmaDeg"
		numeric
		bind:value={editor.draft.values.search.levelSigmaDeg}
	/>
</div>

{#if editor.plan}
	{@const plan = editor.plan}
	<div class="mt-6 grid gap-x-10 gap-y-8 md:grid-cols-2">
		{#each ENDS as end (end)}
			{@const pointing = plan.pointing[end]}
			<section
				class="end-{end} border-t-4 pt-3"
				style:border-color="var(--end)"
				aria-label="Pointing of {end}"
			>
				<p class="text-end-own text-2xl leading-none font-bold">{end}</p>
				<dl class="mt-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
					<dt class="text-quiet">By compass</dt>
					<dd class="num text-lg font-bold">{bearing(pointing.azimuthCompassDeg, 1)}</dd>
					<dt class="text-quiet">True</dt>
					<dd class="num">
						{bearing(pointing.azimuthTrueDeg)}
						<span class="text-quiet"
							>declination {degrees(pointing.declinationDeg, 1, true)}, {pointing.magneticModel}</span
						>
					</dd>
					{#if pointing.azimuthGridDeg !== null}
						<dt class="text-quiet">On the grid</dt>
						<dd class="num">
							{bearing(pointing.azimuthGridDeg)}
							<span class="text-quiet"
								>convergence {degrees(pointing.gridConvergenceDeg, 2, true)}</span
							>
						</dd>
					{/if}
					<dt class="text-quiet">Tilt, digital level</dt>
					<dd class="num text-lg font-bold">
						{degrees(pointing.tiltDeg, 2, true)}
						<span class="text-quiet text-base font-normal"
							>{pointing.tiltDeg < 0 ? 'down' : 'up'}</span
						>
					</dd>
					{#each [['azimuth', 'Azimuth search'], ['tilt', 'Tilt search']] as const as [axis, label] (axis)}
						{@const window = pointing.window[axis]}
						<dt class="text-quiet">{label}</dt>
						<dd>
							<span class="num"
								>± {fixed(window.halfWidthDeg, 1)}°, {fixed(turnsOnRod(window), 1)} turns across</span
							>
							<span
								class="block text-sm {window.turnsRemaining < 0
									? 'trouble font-semibold'
									: 'text-quiet'}"
							>
								{#if window.turnsRemaining < 0}
									▲ the adjuster (± {fixed(window.travelTurns, 1)} turns) is {fixed(
										-window.turnsRemaining,
										1
									)} turns short
								{:else}
									{fixed(window.turnsRemaining, 1)} turns remain beyond it
								{/if}
							</span>
						</dd>
					{/each}
					<dt class="text-quiet">Landmarks</dt>
					<dd>
						{#each pointing.landmarks as landmark (landmark.name)}
							<span class="block">
								<strong>{landmark.name}</strong>
								<span class="num"
									>{measure(landmark.distanceKm, 'km', 2)}, {Math.abs(landmark.besideDeg) < 0.05
										? 'on the line'
										: `${fixed(Math.abs(landmark.besideDeg), 2)}° ${landmark.besideDeg > 0 ? 'right' : 'left'} of it`}</span
								>
							</span>
						{:else}
							<span class="text-quiet"
								>none within two beamwidths ({fixed(2 * plan.dish[end].beamwidthDeg, 1)}°) of the
								line</span
							>
						{/each}
					</dd>
				</dl>
				<div class="mt-3">
					<PlanText
						label="Landmark in words, for the sheet of {end}"
						field="ends.{end}.landmark"
						bind:value={editor.draft.values.ends[end].landmark}
					/>
				</div>
			</section>
		{/each}
	</div>
{/if}

<section class="mt-8" aria-labelledby="landmarks-title">
	<div class="flex items-center justify-between gap-4">
		<div>
			<h2 id="landmarks-title" class="text-base! font-bold">Landmarks</h2>
			<p class="text-quiet text-sm">
				Anything seen from an end; pick its position on the map or type it. Those near the line go
				on the sheet.
			</p>
		</div>
		<button
			type="button"
			class="btn"
			onclick={() =>
				editor.draft.values.landmarks.push({ name: '', latitudeDeg: '', longitudeDeg: '' })}
			><Plus size={18} /> Add a landmark</button
		>
	</div>
	<Fold class="mt-3" title="Pick one on the map">
		<LandmarkMap
			sites={editor.sites}
			onpick={(place) =>
				editor.draft.values.landmarks.push({
					name: `Landmark ${values.landmarks.length + 1}`,
					latitudeDeg: place.latitudeDeg.toFixed(6),
					longitudeDeg: place.longitudeDeg.toFixed(6)
				})}
		/>
	</Fold>
	{#each values.landmarks as landmark, i (i)}
		<div
			class="border-line mt-3 grid grid-cols-2 items-end gap-3 border-t pt-3 sm:grid-cols-[2fr_1fr_1fr_auto]"
		>
			<PlanText label="Name" field="landmarks.{i}.name" bind:value={landmark.name} />
			<PlanText
				label="Latitude"
				unit="°"
				numeric
				field="landmarks.{i}.latitudeDeg"
				bind:value={landmark.latitudeDeg}
			/>
			<PlanText
				label="Longitude"
				unit="°"
				numeric
				field="landmarks.{i}.longitudeDeg"
				bind:value={landmark.longitudeDeg}
			/>
			<button
				type="button"
				class="btn"
				aria-label="Remove {landmark.name || 'landmark'}"
				onclick={() => editor.draft.values.landmarks.splice(i, 1)}><Trash2 size={18} /></button
			>
		</div>
	{/each}
</section>
