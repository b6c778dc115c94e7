<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import Download from '@lucide/svelte/icons/download';

  let { planId }: { planId: string } = $props();
  const FORMS = $derived([
    { href: `/api/sequences/${planId}/file`, words: 'Plan as a file' },
    { href: `/api/sequences/${planId}/sheet.pdf`, words: 'Sheet as a PDF' },
    { href: `/api/sequences/${planId}/told`, words: 'Plan as text' },
  ]);
</script>

<DropdownMenu.Root>
  <DropdownMenu.Trigger class="btn px-2"><Download size={15} aria-hidden="true" />Export</DropdownMenu.Trigger
  >
  <DropdownMenu.Portal>
    <DropdownMenu.Content class="panel z-50 min-w-44 bg-well p-1 shadow-raised" align="end" sideOffset={4}>
      {#each FORMS as form (form.href)}
        <DropdownMenu.Item>
          {#snippet child({ props })}
            <a
              {...props}
              href={form.href}
              download
              class="block cursor-pointer rounded-control px-2 py-1.5 data-highlighted:bg-accent-soft"
              >{form.words}</a
            >
          {/snippet}
        </DropdownMenu.Item>
      {/each}
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
