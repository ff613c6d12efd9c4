<script lang="ts">
	import {
		emptyGroup,
		emptyValue,
		type DraftFields,
		type DraftValue
	} from '#core/catalogue/partDraft';
	import type { FieldSpec, GroupSpec, NumberSpec } from '#core/catalogue/fieldSpec';
	import PatternBox from '../plan/PatternBox.svelte';
	import Field from '../form/Field.svelte';
	import SelectField from '../form/SelectField.svelte';
	import TextField from '../form/TextField.svelte';
	import type { Quantity } from '../units.svelte';
	import PartFields from './PartFields.svelte';
	import { rangeHint } from './rangeHint';
	import Tick from '../form/Tick.svelte';

	interface Props {
		fields: readonly FieldSpec[];
		values: DraftFields;
		/** Path of these fields, ending in a point. */
		inside: string;
		errorAt: (field: string) => string | undefined;
		/** What is doubtful at a field; shown, never in the way. */
		doubtAt: (field: string) => string | undefined;
		/** Fields of one row of a table: without hints, so that the row stays low. */
		compact?: boolean;
	}

	let { fields, values = $bindable(), inside, errorAt, doubtAt, compact = false }: Props = $props();

	const QUANTITIES: readonly string[] = ['m', 'mm', 'kg'] satisfies Quantity[];
	const quantityOf = (unit: string): Quantity | undefined =>
		QUANTITIES.includes(unit) ? (unit as Quantity) : undefined;
	const shown = $derived(
		fields.filter(
			(spec) => !(spec.type === 'group' && spec.when && values[spec.when.key] !== spec.when.is)
		)
	);
	const textOf = (key: string): string => String(values[key] ?? '');
	const listOf = (key: string): DraftValue[] => (values[key] as DraftValue[] | null) ?? [];
	const groupOf = (spec: GroupSpec): DraftFields | null => {
		const value = values[spec.key] as DraftFields | null;
		return value ?? (spec.when ? emptyGroup(spec) : null);
	};
	function set(key: string, value: DraftValue): void {
		values = { ...values, [key]: value };
	}
	function setRow(key: string, i: number, value: DraftValue): void {
		set(
			key,
			listOf(key).map((row, at) => (at === i ? value : row))
		);
	}
	function add(spec: Extract<FieldSpec, { type: 'list' | 'pairs' | 'table' }>): void {
		const row: DraftValue =
			spec.type === 'list'
				? ''
				: spec.type === 'pairs'
					? ['', '']
					: Object.fromEntries(spec.columns.map((column) => [column.key, emptyValue(column)]));
		set(spec.key, [...listOf(spec.key), row]);
	}
	function remove(key: string, i: number): void {
		set(
			key,
			listOf(key).filter((_, at) => at !== i)
		);
	}
	const hintOf = (spec: NumberSpec): string | undefined =>
		compact ? undefined : [spec.hint, rangeHint(spec)].filter(Boolean).join(' ');
</script>

{#snippet doubt(path: string)}
	{#if doubtAt(path) && !errorAt(path)}
		<p class="text-sm" data-doubt={path}><span aria-hidden="true">◇</span> {doubtAt(path)}</p>
	{/if}
{/snippet}

{#snippet rowError(path: string)}
	{#if errorAt(path)}
		<p class="trouble text-sm font-semibold">▲ {errorAt(path)}</p>
	{/if}
{/snippet}

{#each shown as spec (spec.key)}
	{@const path = `${inside}${spec.key}`}
	{#if spec.type === 'text'}
		<div class={compact ? '' : 'sm:col-span-2'}>
			<TextField
				label={spec.label}
				name={path}
				hint={compact ? undefined : spec.hint}
				bind:value={() => textOf(spec.key), (typed) => set(spec.key, typed)}
				error={errorAt(path)}
			/>
			{@render doubt(path)}
		</div>
	{:else if spec.type === 'number'}
		<div>
			<TextField
				label={spec.label}
				name={path}
				unit={quantityOf(spec.unit) ? undefined : spec.unit}
				quantity={quantityOf(spec.unit)}
				numeric
				hint={hintOf(spec)}
				bind:value={() => textOf(spec.key), (typed) => set(spec.key, typed)}
				error={errorAt(path)}
			/>
			{@render doubt(path)}
		</div>
	{:else if spec.type === 'choice'}
		<div>
			<SelectField
				label={spec.label}
				name={path}
				options={spec.options}
				bind:value={() => textOf(spec.key), (chosen) => set(spec.key, chosen)}
				error={errorAt(path)}
			/>
			{@render doubt(path)}
		</div>
	{:else if spec.type === 'flag'}
		<Tick checked={values[spec.key] === true} onpick={(on) => set(spec.key, on)}>
			<span class="font-semibold">{spec.label}</span>
		</Tick>
	{:else if spec.type === 'range'}
		<Field label={spec.label} name={path} unit={spec.unit} error={errorAt(path)}>
			{#snippet control({ id })}
				<div class="flex items-center gap-2">
					{#each [0, 1] as side (side)}
						<input
							id={side === 0 ? id : `${id}-to`}
							name="{path}.{side}"
							class="input num"
							inputmode="decimal"
							autocomplete="off"
							aria-label="{spec.label}, {side === 0 ? 'from' : 'to'}"
							aria-invalid={errorAt(`${path}.${side}`) !== undefined}
							value={String(listOf(spec.key)[side] ?? '')}
							oninput={(event) => setRow(spec.key, side, event.currentTarget.value)}
						/>
						{#if side === 0}<span>to</span>{/if}
					{/each}
				</div>
			{/snippet}
		</Field>
		{@render rowError(`${path}.0`)}
		{@render rowError(`${path}.1`)}
		{@render doubt(path)}
	{:else if spec.type === 'pattern'}
		<div class="sm:col-span-2">
			<p class="font-semibold">{spec.label}</p>
			{#if spec.hint}<p class="text-quiet text-sm">{spec.hint}</p>{/if}
			<PatternBox
				end="A"
				polarization="vertical"
				modelBeamwidthDeg={undefined}
				bind:patternJson={() => textOf(spec.key), (json) => set(spec.key, json)}
			/>
			{@render rowError(path)}
		</div>
	{:else if spec.type === 'group'}
		{@const group = groupOf(spec)}
		<fieldset class="border-line border-t pt-3 sm:col-span-2" data-group={path}>
			<legend class="float-left w-full text-lg font-bold">{spec.label}</legend>
			<div class="clear-both">
				{#if spec.hint}<p class="text-quiet text-sm">{spec.hint}</p>{/if}
				{#if spec.absent}
					<Tick
						checked={group !== null}
						onpick={(on) => set(spec.key, on ? emptyGroup(spec) : null)}
					>
						<span
							>{spec.absent === 'null'
								? 'It has one'
								: 'The figures are known and stand here'}</span
						>
					</Tick>
				{/if}
				{@render rowError(path)}
				{#if group}
					<div class="mt-2 grid gap-4 sm:grid-cols-2">
						<PartFields
							fields={spec.fields}
							bind:values={() => group, (typed) => set(spec.key, typed)}
							inside="{path}."
							{errorAt}
							{doubtAt}
						/>
					</div>
				{/if}
			</div>
		</fieldset>
	{:else}
		{@const rows = listOf(spec.key)}
		<fieldset class="border-line border-t pt-3 sm:col-span-2" data-group={path}>
			<legend class="float-left w-full text-lg font-bold">{spec.label}</legend>
			<div class="clear-both flex flex-col gap-2">
				{#if spec.hint}<p class="text-quiet text-sm">{spec.hint}</p>{/if}
				{@render rowError(path)}
				{@render doubt(path)}
				{#each rows as row, i (i)}
					<div
						class="flex items-end gap-2 {spec.type === 'table' ? 'border-line border-b pb-3' : ''}"
					>
						{#if spec.type === 'list'}
							<div class="min-w-0 flex-1">
								<TextField
									label="{spec.item.label} {i + 1}"
									name="{path}.{i}"
									unit={spec.item.type === 'number' ? spec.item.unit : undefined}
									numeric={spec.item.type === 'number'}
									bind:value={() => String(row ?? ''), (typed) => setRow(spec.key, i, typed)}
									error={errorAt(`${path}.${i}`)}
								/>
							</div>
						{:else if spec.type === 'pairs'}
							{#each spec.columns as column, side (side)}
								<div class="min-w-0 flex-1">
									<TextField
										label="{column.label} {i + 1}"
										name="{path}.{i}.{side}"
										unit={column.unit}
										numeric
										bind:value={
											() => String((row as DraftValue[])[side] ?? ''),
											(typed) =>
												setRow(
													spec.key,
													i,
													(row as DraftValue[]).map((cell, at) => (at === side ? typed : cell))
												)
										}
										error={errorAt(`${path}.${i}.${side}`)}
									/>
								</div>
							{/each}
						{:else if spec.type === 'table'}
							<div
								class="grid min-w-0 flex-1 gap-3"
								style:grid-template-columns="repeat(auto-fit, minmax(9.5rem, 1fr))"
							>
								<PartFields
									fields={spec.columns}
									bind:values={() => row as DraftFields, (typed) => setRow(spec.key, i, typed)}
									inside="{path}.{i}."
									{errorAt}
									{doubtAt}
									compact
								/>
							</div>
						{/if}
						{#if rows.length > spec.fewest}
							<button
								type="button"
								class="btn px-3"
								aria-label="Remove {spec.label.toLowerCase()} {i + 1}"
								onclick={() => remove(spec.key, i)}>Remove</button
							>
						{/if}
					</div>
				{/each}
				{#if rows.length < spec.most}
					<div>
						<button type="button" class="btn" onclick={() => add(spec)}
							>Add {rows.length ? 'another' : 'one'}</button
						>
					</div>
				{/if}
			</div>
		</fieldset>
	{/if}
{/each}
