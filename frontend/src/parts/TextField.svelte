<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';

  let {
    label,
    value = $bindable(),
    ...rest
  }: { label: string; value: string } & Omit<HTMLInputAttributes, 'value'> = $props();
</script>

<label class="flex flex-col"
  ><span class="label">{label}</span><input
    class="h-9 rounded-sm border border-line bg-well px-2"
    required
    {...rest}
    bind:value
  /></label
>
