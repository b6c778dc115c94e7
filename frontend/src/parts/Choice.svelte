<script lang="ts" generics="T extends string">
  import { Select } from 'bits-ui';
  import ChevronDown from '@lucide/svelte/icons/chevron-down';
  import Check from '@lucide/svelte/icons/check';

  interface Option {
    id: T;
    words: string;
    note?: string;
  }

  interface Props {
    label: string;
    value: T;
    options: Option[];
    onchoose: (value: T) => void;
    wide?: boolean;
    /** Called when the list is about to be shown. */
    onopen?: () => void;
  }

  let { label, value, options, onchoose, wide = false, onopen }: Props = $props();
  const shown = $derived(options.find((option) => option.id === value)?.words ?? value.replaceAll('_', ' '));
</script>

<Select.Root
  type="single"
  onOpenChange={(shown) => shown && onopen?.()}
  bind:value={
    // The value shown is always the one given: a choice that is not kept leaves no trace.
    () => value,
    (next) => {
      if (next && next !== value) onchoose(next as T);
    }
  }
  items={options.map((option) => ({ value: option.id, label: option.words }))}
>
  <Select.Trigger class="btn justify-between {wide ? 'w-full' : ''}" aria-label="{label}: {shown}">
    <span class="truncate first-letter:uppercase">{shown}</span>
    <ChevronDown size={14} class="shrink-0" aria-hidden="true" />
  </Select.Trigger>
  <Select.Portal>
    <Select.Content
      class="panel z-50 max-h-80 min-w-44 overflow-auto bg-well p-1 shadow-raised"
      sideOffset={3}
      align="start"
    >
      {#each options as option (option.id)}
        <Select.Item
          value={option.id}
          label={option.words}
          class="flex cursor-pointer items-center gap-2 rounded-control px-2 py-1 text-sm data-highlighted:bg-accent-soft"
        >
          {#snippet children({ selected })}
            <Check size={14} class={selected ? '' : 'invisible'} aria-hidden="true" />
            <span class="first-letter:uppercase">{option.words}</span>
            {#if option.note}<span class="label ml-auto pl-3">{option.note}</span>{/if}
          {/snippet}
        </Select.Item>
      {/each}
    </Select.Content>
  </Select.Portal>
</Select.Root>
