<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';

  /** Something to type into, with its label; what an input takes besides goes to the input. */
  interface Props extends Omit<HTMLInputAttributes, 'value' | 'class'> {
    label: string;
    value?: string | number | null;
    /** The label stands beside it instead of above. */
    beside?: boolean;
    /** Classes of the input, and of label and input together. */
    class?: string;
    outer?: string;
  }

  let {
    label,
    value = $bindable(),
    beside = false,
    class: own = '',
    outer = beside ? 'gap-2' : '',
    ...rest
  }: Props = $props();
</script>

<label class="flex {beside ? 'items-center' : 'flex-col'} {outer}"
  ><span class="label">{label}</span><input class="field {own}" {...rest} bind:value /></label
>
