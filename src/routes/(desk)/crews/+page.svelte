<script lang="ts">
	import { resolve } from '$app/paths';
	import { skillsOf } from '#core/schedule/crew';
	import PhoneLink from '$lib/ui/crew/PhoneLink.svelte';
	import { clockText } from '$lib/ui/timetable/dayForm';

	let { data } = $props();
	type Crew = (typeof data.crews)[number];
	function skillWords(crew: Crew): string {
		const { climber, rigger, acceptor } = skillsOf(crew);
		return [
			climber ? `${climber} ${climber === 1 ? 'climbs' : 'climb'}` : 'nobody climbs',
			...(rigger ? [`${rigger} ${rigger === 1 ? 'runs' : 'run'} a lift`] : []),
			...(acceptor ? [`${acceptor} ${acceptor === 1 ? 'signs' : 'sign'}`] : [])
		].join(', ');
	}
</script>

<svelte:head><title>Crews · Skiaxis</title></svelte:head>

<div class="mb-5 flex flex-wrap items-center gap-x-6 gap-y-3">
	<h1>Crews</h1>
	{#if data.mayEdit}<a class="btn btn-main" href={resolve('/crews/new')}>Make a crew</a>{/if}
	<a class="inline-flex min-h-11 items-center" href={resolve('/durations')}>Work times</a>
</div>
{#if data.crews.length === 0}
	<p class="text-quiet py-10">
		No crew is made yet.{data.mayEdit
			? ' Make one with its people: then it can be assigned to an end and a day.'
			: ''}
	</p>
{:else}
	<ul class="border-line border-t">
		{#each data.crews as crew (crew.id)}
			<li class="border-line grid gap-x-6 gap-y-1 border-b px-2 py-3 sm:grid-cols-[1fr_1fr]">
				<div>
					<h2 class="text-lg">
						{#if data.mayEdit}
							<a
								class="inline-flex min-h-11 items-center"
								href={resolve('/(desk)/crews/[crewId]', { crewId: crew.id })}>{crew.name}</a
							>
						{:else}{crew.name}{/if}
					</h2>
					<p class="text-quiet text-sm">
						{[crew.region, `${clockText(crew.fromMin)} to ${clockText(crew.toMin)}`, crew.zone]
							.filter(Boolean)
							.join(' · ')}
					</p>
					<p class="text-sm">{skillWords(crew)}</p>
					{#if crew.equipment.length}
						<p class="text-quiet text-sm">With {crew.equipment.join(', ')}</p>
					{/if}
				</div>
				<ul class="text-sm">
					{#each crew.people as person (person.id)}
						<li class="flex min-h-11 flex-wrap items-center gap-x-3">
							<span class="font-semibold">{person.name}</span>
							{#if person.phone}
								<PhoneLink phone={person.phone} />
							{/if}
						</li>
					{/each}
				</ul>
			</li>
		{/each}
	</ul>
{/if}
