<script lang="ts">
	import Ruler from '@lucide/svelte/icons/ruler';
	import { units } from '../units.svelte';
</script>

<button
	type="button"
	class="flex min-h-12 items-center gap-1.5 px-2 text-sm"
	aria-label="Units: {units.system}. Change to {units.system === 'metric' ? 'imperial' : 'metric'}"
	onclick={() => units.choose(units.system === 'metric' ? 'imperial' : 'metric')}
>
	<Ruler size={18} aria-hidden="true" />{units.system === 'metric' ? 'm' : 'ft'}
</button>
