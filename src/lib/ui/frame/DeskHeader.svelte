<script lang="ts">
	import { resolve } from '$app/paths';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { onMount } from 'svelte';
	import { forgetOnDevice } from './device';
	import KeysButton from './KeysButton.svelte';
	import { shortcuts } from './shortcuts.svelte';
	import ThemeSwitch from './ThemeSwitch.svelte';
	import UnitSwitch from './UnitSwitch.svelte';

	interface Props {
		actor: { displayName: string; role: string } | undefined;
	}

	let { actor }: Props = $props();
	const links = $derived([
		...(['technician', 'trainee'].includes(actor?.role ?? '')
			? [{ href: resolve('/my-work'), label: 'My work' }]
			: []),
		{ href: resolve('/board'), label: 'Board' },
		{ href: resolve('/'), label: 'Hops' },
		{ href: resolve('/hubs'), label: 'Hubs' },
		{ href: resolve('/sites'), label: 'Sites' },
		...(['planner', 'administrator'].includes(actor?.role ?? '')
			? [{ href: resolve('/parts'), label: 'Parts' }]
			: []),
		{ href: resolve('/map'), label: 'Map' },
		{ href: resolve('/exchange'), label: 'Import and export' },
		{ href: resolve('/glossary'), label: 'Glossary' },
		...(actor?.role === 'administrator'
			? [
					{ href: resolve('/people'), label: 'People' },
					{ href: resolve('/installation'), label: 'Installation' }
				]
			: [])
	]);
	onMount(() =>
		shortcuts.use([
			{ key: 'w', does: 'My work', run: () => void goto(resolve('/my-work')) },
			{ key: 'b', does: 'The board', run: () => void goto(resolve('/board')) },
			{ key: 'h', does: 'All hops', run: () => void goto(resolve('/')) },
			{ key: 'm', does: 'The map', run: () => void goto(resolve('/map')) },
			{
				key: '/',
				does: 'Search this list',
				run: () => document.getElementById('list-search')?.focus()
			}
		])
	);
	const isHere = (href: string): boolean =>
		href === resolve('/') ? page.url.pathname === href : page.url.pathname.startsWith(href);
</script>

<header class="no-print border-line border-b">
	<div class="mx-auto flex max-w-6xl flex-wrap items-center gap-x-6 px-4 sm:gap-x-4">
		<a href={resolve('/')} class="flex items-center gap-2.5 py-3 text-xl font-bold no-underline">
			<svg viewBox="0 0 30 28" width="30" height="28" aria-hidden="true">
				<path
					d="M3 27 6 5h2l3 22M4.3 18h5.4M5.2 11h3.6M19 27l3-22h2l3 22M20.3 18h5.4M21.2 11h3.6"
					fill="none"
					stroke="currentColor"
					stroke-width="1.7"
				/>
				<path d="M8 6h14" stroke="var(--end-a)" stroke-width="2.6" />
			</svg>
			<span class="max-sm:sr-only">Skiaxis</span>
		</a>
		{#if actor}
			<!-- On a phone one row that is pushed aside, under the rest: the list itself stays in view. -->
			<nav
				class="flex gap-x-1 whitespace-nowrap max-sm:order-last max-sm:w-full max-sm:overflow-x-auto sm:flex-wrap"
				aria-label="Main"
			>
				{#each links as link (link.href)}
					<a
						href={link.href}
						aria-current={isHere(link.href) ? 'page' : undefined}
						class="flex min-h-12 items-center border-b-4 px-3 font-semibold no-underline sm:px-2 {isHere(
							link.href
						)
							? 'border-ink'
							: 'hover:border-line border-transparent'}">{link.label}</a
					>
				{/each}
			</nav>
		{/if}
		<div class="ml-auto flex items-center gap-2 sm:gap-0.5">
			<KeysButton />
			<UnitSwitch />
			<ThemeSwitch />
			{#if actor}
				<a
					class="flex min-h-12 flex-col justify-center text-right text-sm leading-tight no-underline"
					href={resolve('/account')}
				>
					<span class="block font-semibold underline">{actor.displayName}</span>
					<span class="text-quiet block">{actor.role}</span>
				</a>
				<form method="POST" action={resolve('/sign-out')} onsubmit={forgetOnDevice}>
					<button class="min-h-12 px-2 text-sm underline">Sign out</button>
				</form>
			{/if}
		</div>
	</div>
</header>
