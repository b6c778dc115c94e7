<script lang="ts">
  import type { HTMLInputAttributes, HTMLTextareaAttributes } from 'svelte/elements';

  /** Something to type into, with its label; what an input takes besides goes to the input. */
  interface Props extends Omit<HTMLInputAttributes, 'value' | 'class'> {
    label: string;
    value?: string | number | null;
    /** So many lines, where more than one is to be typed. */
    rows?: number;
    /** The label stands beside it instead of above. */
    beside?: boolean;
    /** Classes of the input, and of label and input together. */
    class?: string;
    outer?: string;
  }

  let {
    label,
    value = $bindable(),
    rows,
    beside = false,
    class: own = '',
    outer = beside ? 'gap-2' : '',
    ...rest
  }: Props = $props();
</script>

<label class="flex {beside ? 'items-center' : 'flex-col'} {outer}"
  ><span class="label">{label}</span>{#if rows}<textarea
      class="field h-auto p-2 {own}"
      {rows}
      {...rest as HTMLTextareaAttributes}
      bind:value></textarea>{:else}<input class="field {own}" {...rest} bind:value />{/if}</label
>
