<script lang="ts">
	import { CONFIGURATION_RULES } from '#core/budget/configuration';
	import type { ConfigurationKind } from '#core/budget/configurationKinds';
	import { boardsInOrder } from '#core/catalogue/chassis';
	import { ENDS, type End } from '#core/ends';
	import Plus from '@lucide/svelte/icons/plus';
	import Trash2 from '@lucide/svelte/icons/trash-2';
	import SelectField from '../form/SelectField.svelte';
	import { usePlanEditor } from './editor.svelte';
	import PlanText from './PlanText.svelte';

	const editor = usePlanEditor();
	const values = $derived(editor.draft.values);
	const radios = $derived(
		CONFIGURATION_RULES[values.configuration.kind as ConfigurationKind].radios
	);
	const serviceBoards = (end: End): { slot: number; ports: number }[] => {
		const code = values.ends[end].indoorUnitCode;
		const unit = editor.parts.indoorUnits.find((one) => one.code === code);
		return unit
			? boardsInOrder(unit).filter(({ kind }) => kind === 'ethernet' || kind === 'circuit')
			: [];
	};

	/** The first port of an end that no service has yet, as text for typing. */
	function freePort(end: End): { slot: string; port: string } {
		const taken = new Set(
			values.services.map((one) =>
				end === 'A' ? `${one.slotA}/${one.portA}` : `${one.slotB}/${one.portB}`
			)
		);
		const boards = serviceBoards(end);
		const places = boards.flatMap(({ slot, ports }) =>
			Array.from({ length: ports }, (_, i) => ({ slot: String(slot), port: String(i + 1) }))
		);
		const onFace = Array.from({ length: 64 }, (_, i) => ({ slot: '0', port: String(i + 1) }));
		const all = boards.length ? places : onFace;
		return all.find(({ slot, port }) => !taken.has(`${slot}/${port}`)) ?? { slot: '', port: '' };
	}
	function add(): void {
		const [a, b] = ENDS.map(freePort) as [ReturnType<typeof freePort>, ReturnType<typeof freePort>];
		values.services.push({
			...{ name: '', mbitS: '', radio: radios === 1 ? '1' : '0' },
			...{ slotA: a.slot, portA: a.port, slotB: b.slot, portB: b.port }
		});
	}
</script>

<section class="mt-8" aria-labelledby="services-title" data-testid="services">
	<div class="flex items-center justify-between gap-4">
		<h2 id="services-title" class="text-base! font-bold">Services and their ports</h2>
		<button type="button" class="btn" onclick={add}><Plus size={18} /> Add a service</button>
	</div>
	{#each values.services as service, i (i)}
		<div
			class="border-line mt-3 grid grid-cols-2 items-end gap-3 border-t pt-3 sm:grid-cols-4 lg:grid-cols-[2fr_1fr_1.4fr_1fr_1fr_1fr_1fr_auto]"
		>
			<PlanText label="Service" field="services.{i}.name" bind:value={service.name} />
			<PlanText label="Mbit/s" field="services.{i}.mbitS" bind:value={service.mbitS} />
			<SelectField
				label="Over"
				name="plan.services.{i}.radio"
				bind:value={service.radio}
				options={[
					{ value: '0', label: radios === 1 ? 'the radio' : 'all radios' },
					...Array.from({ length: radios }, (_, n) => ({
						value: String(n + 1),
						label: `radio ${n + 1}`
					}))
				]}
				error={editor.problemAt(`plan.services.${i}.radio`)}
			/>
			<PlanText label="Slot at A" field="services.{i}.slotA" bind:value={service.slotA} />
			<PlanText label="Port at A" field="services.{i}.portA" bind:value={service.portA} />
			<PlanText label="Slot at B" field="services.{i}.slotB" bind:value={service.slotB} />
			<PlanText label="Port at B" field="services.{i}.portB" bind:value={service.portB} />
			<button
				type="button"
				class="btn"
				aria-label="Remove service {i + 1}"
				onclick={() => values.services.splice(i, 1)}><Trash2 size={18} /></button
			>
		</div>
	{:else}
		<p class="text-quiet mt-1 text-sm">
			None named. Each service gets its port at both ends and the radio that carries it; the crew
			labels it, and proves it before acceptance.
		</p>
	{/each}
	{#if values.services.length}
		<p class="text-quiet mt-2 text-sm">Slot 0 is a closed unit’s own face.</p>
	{/if}
</section>
