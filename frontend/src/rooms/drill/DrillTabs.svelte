<script lang="ts">
  import { p } from '../../router';
  import { session } from '../../parts/session.svelte';

  /** The parts of the Drill room; a student has the first alone. */
  let { at }: { at: 'practise' | 'students' | 'sets' } = $props();
  const tabs = [
    { id: 'practise', words: 'Practise', href: p('/drill') },
    { id: 'students', words: 'Students', href: p('/drill/students') },
    { id: 'sets', words: 'Sets and tests', href: p('/drill/sets') },
  ] as const;
</script>

{#if session.role !== 'student'}
  <nav class="flex gap-1" aria-label="Parts of Drill">
    {#each tabs as tab (tab.id)}
      <a
        class="btn {tab.id === at ? 'border-accent font-semibold' : ''}"
        aria-current={tab.id === at ? 'page' : undefined}
        href={tab.href}>{tab.words}</a
      >
    {/each}
  </nav>
{/if}
