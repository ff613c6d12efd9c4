<script lang="ts">
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import Papa from 'papaparse';
	import { ENDS, type End } from '#core/ends';
	import { inverseGeodesic } from '#core/geodesy/geodesic';
	import { isStaleProfile, pathFiguresOf } from '#core/budget/pathFigures';
	import type { HopPlanInput } from '#core/budget/planInput';
	import { untrack } from 'svelte';
	import type { SampledProfile } from '#core/path/samplePath';
	import { callApi, troubleOf } from '../../api';
	import { fixed } from '../../format';
	import Notice from '../../form/Notice.svelte';
	import { pickedFile } from '../../form/pickedFile';
	import SelectField from '../../form/SelectField.svelte';
	import TextField from '../../form/TextField.svelte';
	import { measure } from '../../units.svelte';
	import { usePlanEditor } from '../editor.svelte';
	import PlanText from '../PlanText.svelte';
	import HeightCurve from '../HeightCurve.svelte';
	import { profileOf } from '../planForm';
	import ProfileChart from '../ProfileChart.svelte';
	import { readObstacles, readProfile } from '../profileCsv';
	import Reflections from '../Reflections.svelte';

	const editor = usePlanEditor();
	const values = $derived(editor.draft.values);
	const profile = $derived(profileOf(values.profileJson));
	const MOST_BYTES = 3_000_000;
	let stepM = $state('50');
	let busy = $state(false);
	let message: { kind: 'trouble' | 'quiet'; text: string } | undefined = $state();
	let shown = $state(0);

	const number = (text: string, otherwise: number): number => {
		const value = Number(text);
		return text.trim() !== '' && Number.isFinite(value) ? value : otherwise;
	};
	const heightsAglM: Record<End, number> = $derived({
		A: number(values.ends.A.antennaHeightAglM, 1),
		B: number(values.ends.B.antennaHeightAglM, 1)
	});
	const groundAmslM: Record<End, number> = $derived({
		A: editor.sites.A?.groundAmslM ?? 0,
		B: editor.sites.B?.groundAmslM ?? 0
	});
	/** The plan as it was last whole: while a number is being typed the chart keeps what it shows. */
	let whole: HopPlanInput | undefined = $state.raw(untrack(() => editor.input));
	$effect(() => {
		if (editor.input) whole = editor.input;
	});
	const shownInput = $derived(editor.input ?? whole);
	const figures = $derived(shownInput && pathFiguresOf(shownInput));
	const verdict = $derived(figures?.verdict);
	const loss = $derived(figures?.loss);
	const needed = $derived(figures?.neededAglM);
	const stale = $derived(shownInput !== undefined && isStaleProfile(shownInput));

	function setHeight(end: End, aglM: number): void {
		editor.draft.values.ends[end].antennaHeightAglM = String(Number(aglM.toFixed(1)));
	}

	async function take(): Promise<void> {
		const { A, B } = editor.sites;
		if (!A || !B || busy) return;
		busy = true;
		message = undefined;
		try {
			const point = (site: typeof A) => ({
				latitudeDeg: site.latitudeDeg,
				longitudeDeg: site.longitudeDeg
			});
			const sampled = await callApi<SampledProfile>('POST', '/terrain/profile', {
				a: point(A),
				b: point(B),
				stepM
			});
			if (sampled.kind === 'no-terrain') {
				message = {
					kind: 'trouble',
					text: 'No raster knows this path. Take one in at the map, or import points.'
				};
				return;
			}
			editor.draft.values.profileJson = JSON.stringify(sampled.profile);
			message = {
				kind: 'quiet',
				text: `${sampled.profile.distancesM.length} points from ${sampled.profile.source}${sampled.withoutData ? `; ${sampled.withoutData} without data were filled from their neighbours` : ''}.`
			};
		} catch (error) {
			message = {
				kind: 'trouble',
				text: troubleOf(error)
			};
		} finally {
			busy = false;
		}
	}

	async function importCsv(event: Event): Promise<void> {
		const picked = pickedFile(event, MOST_BYTES);
		const { A, B } = editor.sites;
		if (!picked || !A || !B) return;
		if ('problem' in picked) {
			message = { kind: 'trouble', text: picked.problem };
			return;
		}
		const { file } = picked;
		const text = await file.text();
		const rows = Papa.parse<Record<string, string>>(text.trim(), {
			header: true,
			skipEmptyLines: true
		});
		const asObstacles = (rows.meta.fields ?? []).includes('height_m');
		if (asObstacles) {
			const read = readObstacles(rows);
			if (read.kind === 'problem') message = { kind: 'trouble', text: read.message };
			else {
				editor.draft.values.obstacles.push(...read.obstacles);
				message = { kind: 'quiet', text: `${read.obstacles.length} obstacles were added.` };
			}
			return;
		}
		const read = readProfile(rows, file.name, A, B, inverseGeodesic(A, B).lengthM);
		if (read.kind === 'problem') message = { kind: 'trouble', text: read.message };
		else {
			editor.draft.values.profileJson = JSON.stringify(read.profile);
			message = { kind: 'quiet', text: `${read.profile.distancesM.length} points were read.` };
		}
	}

	function addWater(): void {
		const km = (profile?.distancesM.at(-1) ?? 2000) / 1000;
		editor.draft.values.water.push({
			kind: 'sea',
			fromKm: (km / 4).toFixed(2),
			toKm: ((3 * km) / 4).toFixed(2),
			tideM: '0'
		});
	}

	function addObstacle(distanceKm: number): void {
		editor.draft.values.obstacles.push({
			name: `Obstacle ${values.obstacles.length + 1}`,
			kind: 'trees',
			distanceKm: distanceKm.toFixed(3),
			lengthM: '60',
			heightM: '15'
		});
	}
</script>

<div class="flex flex-wrap items-end gap-3">
	<div class="w-36">
		<TextField label="Step" quantity="m" name="stepM" bind:value={stepM} />
	</div>
	<button
		type="button"
		class="btn {profile && !stale ? '' : 'btn-main'}"
		disabled={busy || !editor.sites.A || !editor.sites.B}
		onclick={() => void take()}
		>{busy
			? 'Taking the profile …'
			: profile
				? 'Take the profile again'
				: 'Take the profile'}</button
	>
	<label class="btn focus-within:outline-3">
		Import points or obstacles
		<input type="file" accept=".csv,text/csv" class="sr-only" onchange={importCsv} />
	</label>
	{#if profile}
		<button type="button" class="btn" onclick={() => (editor.draft.values.profileJson = '')}
			>Throw the profile away</button
		>
	{/if}
</div>
{#if message}
	<div class="mt-3"><Notice kind={message.kind}>{message.text}</Notice></div>
{/if}
{#if stale}
	<div class="mt-3">
		<Notice kind="trouble">A site has moved since the profile was taken: take it again.</Notice>
	</div>
{/if}

{#if profile && verdict}
	{#if verdict.checks.length > 1}
		<ul class="border-line mt-4 border-t" aria-label="Rule drawn">
			{#each verdict.checks as check, i (i)}
				<li class="border-line border-b">
					<button
						type="button"
						class="flex min-h-11 w-full flex-wrap items-center gap-x-4 text-left {shown === i
							? 'font-semibold'
							: ''}"
						aria-pressed={shown === i}
						onclick={() => (shown = i)}
					>
						<span aria-hidden="true">{shown === i ? '●' : '○'}</span>
						<span class="num">k {fixed(check.kFactor, 2)}</span>
						<span
							>leaves <span class="num">{fixed(check.worstRatio, 2)} F1</span>, wants
							<span class="num">{fixed(check.wantedRatio, 1)} F1</span></span
						>
						<span class={check.holds ? '' : 'trouble'}
							>{check.holds ? '✓ holds' : '▲ does not hold'}</span
						>
					</button>
				</li>
			{/each}
		</ul>
	{/if}
	<div class="mt-2">
		<ProfileChart
			{verdict}
			{shown}
			siteNames={{ A: editor.sites.A?.name ?? 'A', B: editor.sites.B?.name ?? 'B' }}
			{heightsAglM}
			{groundAmslM}
			obstacles={shownInput?.path.obstacles ?? []}
			onheight={setHeight}
			onobstacle={(index, change) => {
				const obstacle = editor.draft.values.obstacles[index]!;
				if (change.distanceKm !== undefined) obstacle.distanceKm = change.distanceKm.toFixed(3);
				if (change.heightM !== undefined)
					obstacle.heightM = String(Number(change.heightM.toFixed(1)));
			}}
			onadd={addObstacle}
		/>
	</div>
	<div class="mt-4 grid gap-6 md:grid-cols-[18rem_1fr]">
		<HeightCurve
			{verdict}
			{groundAmslM}
			{heightsAglM}
			onheights={(heights) => ENDS.forEach((end) => setHeight(end, heights[end]))}
		/>
		<div data-testid="clearance">
			<p class="text-lg font-bold">
				{#if verdict.holds}Clear by {verdict.schoolInWords}{:else}<span
						class="trouble"
						aria-hidden="true">▲</span
					>
					Short by {verdict.schoolInWords}{/if}
			</p>
			<ul class="mt-1 flex flex-col gap-1">
				{#each verdict.checks as check, i (i)}
					<li>
						<strong>{check.holds ? 'holds' : 'fails'}</strong>: {check.why}: least
						<span class="num">{fixed(check.worstRatio, 2)} F1</span>
						at
						<span class="num"
							>{measure((check.clearance.worst?.distanceM ?? 0) / 1000, 'km', 2)}</span
						>
						from A{check.clearance.worst?.obstacle ? ` (${check.clearance.worst.obstacle})` : ''}.
						{#if check.beforeDish}In the near field of a dish, <span class="num"
								>{measure(check.beforeDish.distanceM, 'm', 0)}</span
							>
							from A, the whole dish must be free:
							<span class="num">{measure(check.beforeDish.beamRadiusM, 'm', 1)}</span> are wanted,
							<span class="num">{measure(check.beforeDish.clearanceM, 'm', 1)}</span> are there.{/if}
						{#if !check.holds}The ray must come up by <span class="num"
								>{measure(check.missingM, 'm', 1)}</span
							>.{/if}
					</li>
				{/each}
			</ul>
			{#if needed}
				<p class="mt-2">
					Least height with the other end as it is: A <strong class="num"
						>{measure(Math.max(0, needed.A), 'm', 1)}</strong
					>, B <strong class="num">{measure(Math.max(0, needed.B), 'm', 1)}</strong> above ground.
				</p>
			{/if}
			{#if loss}
				<p class="mt-2">
					Obstruction loss at k = {fixed(verdict.checks[0]!.kFactor, 2)}:
					<strong class="num">{fixed(loss.lossDb, 1)} dB</strong>
					by the complete delta-Bullington method (ITU-R P.526-15). It is in the budget.
				</p>
				{#if loss.lossDb > 0.05}
					<p class="text-quiet text-sm">
						{loss.edges === 1 ? 'One top reaches' : `${loss.edges} tops reach`} into the zone. For comparison
						only: a single knife edge <span class="num">{fixed(loss.singleEdgeDb, 1)} dB</span>, the
						quick rule <span class="num">{fixed(loss.quickRuleDb, 1)} dB</span>, a smooth earth
						<span class="num">{fixed(loss.sphericalDb, 1)} dB</span>.
					</p>
				{/if}
			{/if}
		</div>
	</div>
{:else if !editor.sites.A || !editor.sites.B}
	<p class="text-quiet mt-4">Choose both sites first.</p>
{:else if !profile}
	<p class="text-quiet mt-4 max-w-prose">
		There is no profile yet. Take it from the terrain, or import points as CSV with
		<code class="num">distance_m,ground_m</code>; obstacles with
		<code class="num">name,kind,distance_km,length_m,height_m</code>.
	</p>
{/if}

<div class="mt-6 grid gap-4 sm:grid-cols-2 lg:grid-cols-5">
	<SelectField
		label="School of clearance"
		name="plan.path.school"
		bind:value={editor.draft.values.school}
		options={[
			{ value: 'p530', label: 'ITU-R P.530' },
			{ value: 'practice', label: 'common practice' }
		]}
		error={editor.problemAt('plan.path.school')}
	/>
	<SelectField
		label="Kind of obstruction"
		name="plan.path.obstruction"
		bind:value={editor.draft.values.obstruction}
		options={[
			{ value: 'isolated', label: 'one isolated top' },
			{ value: 'extended', label: 'extended along the path' }
		]}
		error={editor.problemAt('plan.path.obstruction')}
	/>
	<PlanText label="k factor" field="kFactor" numeric bind:value={editor.draft.values.kFactor} />
	{#each ENDS as end (end)}
		<PlanText
			label="Antenna height at {end}"
			quantity="m"
			unit="a.g.l."
			field="ends.{end}.antennaHeightAglM"
			bind:value={editor.draft.values.ends[end].antennaHeightAglM}
		/>
	{/each}
</div>

<section class="mt-6" aria-labelledby="obstacles-title">
	<div class="flex items-center justify-between gap-4">
		<h2 id="obstacles-title" class="text-base! font-bold">Obstacles</h2>
		<button
			type="button"
			class="btn"
			onclick={() => addObstacle((profile?.distancesM.at(-1) ?? 2000) / 2000)}
			><Plus size={18} /> Add an obstacle</button
		>
	</div>
	{#each values.obstacles as obstacle, i (i)}
		<div
			class="border-line mt-3 grid grid-cols-2 items-end gap-3 border-t pt-3 sm:grid-cols-[2fr_1fr_1fr_1fr_1fr_auto]"
		>
			<PlanText label="Name" field="path.obstacles.{i}.name" bind:value={obstacle.name} />
			<SelectField
				label="Kind"
				name="plan.path.obstacles.{i}.kind"
				bind:value={obstacle.kind}
				options={[
					{ value: 'trees', label: 'trees' },
					{ value: 'building', label: 'building' },
					{ value: 'other', label: 'other' }
				]}
			/>
			<PlanText
				label="From A"
				quantity="km"
				field="path.obstacles.{i}.distanceKm"
				bind:value={obstacle.distanceKm}
			/>
			<PlanText
				label="Along"
				quantity="m"
				field="path.obstacles.{i}.lengthM"
				bind:value={obstacle.lengthM}
			/>
			<PlanText
				label="Height"
				quantity="m"
				field="path.obstacles.{i}.heightM"
				bind:value={obstacle.heightM}
			/>
			<button
				type="button"
				class="btn"
				aria-label="Remove {obstacle.name}"
				onclick={() => editor.draft.values.obstacles.splice(i, 1)}><Trash2 size={18} /></button
			>
		</div>
	{:else}
		<p class="text-quiet mt-1 text-sm">None. Trees and buildings are not in the terrain raster.</p>
	{/each}
</section>

<section class="mt-6" aria-labelledby="water-title">
	<div class="flex items-center justify-between gap-4">
		<h2 id="water-title" class="text-base! font-bold">Water under the path</h2>
		<button type="button" class="btn" onclick={addWater}><Plus size={18} /> Add water</button>
	</div>
	{#each values.water as water, i (i)}
		<div
			class="border-line mt-3 grid grid-cols-2 items-end gap-3 border-t pt-3 sm:grid-cols-[1fr_1fr_1fr_1fr_auto]"
		>
			<SelectField
				label="Kind"
				name="plan.path.water.{i}.kind"
				bind:value={water.kind}
				options={[
					{ value: 'sea', label: 'sea' },
					{ value: 'fresh', label: 'lake, river or flooded field' }
				]}
			/>
			<PlanText
				label="From A, nearer shore"
				quantity="km"
				field="path.water.{i}.fromKm"
				bind:value={water.fromKm}
			/>
			<PlanText
				label="From A, farther shore"
				quantity="km"
				field="path.water.{i}.toKm"
				bind:value={water.toKm}
			/>
			<PlanText
				label="Tide, low to high"
				quantity="m"
				field="path.water.{i}.tideM"
				bind:value={water.tideM}
			/>
			<button
				type="button"
				class="btn"
				aria-label="Remove water {i + 1}"
				onclick={() => editor.draft.values.water.splice(i, 1)}><Trash2 size={18} /></button
			>
		</div>
	{:else}
		<p class="text-quiet mt-1 text-sm">
			None. Sea, lakes and flooded fields reflect like a mirror; a raster cannot tell them from flat
			land.
		</p>
	{/each}
	<div class="mt-4 grid gap-4 sm:grid-cols-2 lg:grid-cols-5">
		<PlanText
			label="Roughness of land"
			quantity="m"
			field="path.groundRoughnessM"
			bind:value={editor.draft.values.groundRoughnessM}
		/>
	</div>
	{#if profile && editor.plan}<Reflections />{/if}
</section>
