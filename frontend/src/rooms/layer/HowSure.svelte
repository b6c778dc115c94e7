<script lang="ts">
  import { api, ask } from '../../api/client';
  import Help from '../../parts/Help.svelte';
  import type { WorkbenchState } from './workbench.svelte';
  import { Resource } from '../../parts/resource.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import Awaited from '../../parts/Awaited.svelte';

  /** How sure the colours behind this plan are, and what it would take instead within what is unsure. */
  let { bench }: { bench: WorkbenchState } = $props();
  let open = $state(false);
  const plan = $derived(bench.doc.plan);
  const sure = new Resource(() =>
    ask(api.GET('/api/sequences/{id}/how-sure', { params: { path: { id: bench.id } } })),
  );
  const found = $derived(sure.value);
  // Asked again after every change: what is taken instead depends on the plan.
  whenever(
    () => open && plan && `${plan.id} ${plan.revision}`,
    (asked) => asked && void sure.load(),
  );
</script>

{#if plan && (plan.skin_sd || plan.guessed)}
  <details class="panel p-2.5" bind:open>
    <summary class="heading cursor-pointer"
      >How sure is this plan?
      <span class="label font-normal"
        >{plan.skin_sd ? `skin judged to within ΔE00 ${plan.skin_sd.toFixed(1)}` : ''}{plan.skin_sd &&
        plan.guessed
          ? '; '
          : ''}{plan.guessed ? `${plan.guessed} ${plan.guessed === 1 ? 'item' : 'items'} guessed` : ''}</span
      ></summary
    >
    {#if sure.failed || !found}
      <Awaited
        of={sure}
        waits="Planning it anew, each way it may be off…"
        says="It could not be told how sure this plan is"
      />
    {:else}
      {#if found.says}<p class="mt-1">{found.says} <Help of="sure" /></p>{/if}
      {#if found.otherwise.some((each) => each.then.length)}
        <dl class="mt-1 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
          {#each found.otherwise as each (each.if_skin)}
            <dt>If it is <b>{each.if_skin}</b></dt>
            <dd>
              {#if each.then.length}{each.then.join('; ')}{:else}the same plan{/if}
            </dd>
          {/each}
        </dl>
      {/if}
      {#if found.guessed.length}
        <p class="mt-1">
          Colour or cover only guessed: {found.guessed.join(', ')}. Measure them under Shelf.
        </p>
      {/if}
    {/if}
  </details>
{/if}
