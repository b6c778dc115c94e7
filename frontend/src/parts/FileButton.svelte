<script lang="ts">
  interface Props {
    words: string;
    /** What the file is, for who cannot see the button. */
    label: string;
    accept: string;
    /** The file that was chosen, or where several may be chosen at once, all of them. */
    onfile?: (file: File) => void;
    onfiles?: (files: File[]) => void;
  }

  /** A button that asks for a file. The same file may be chosen again. */
  let { words, label, accept, onfile, onfiles }: Props = $props();
  let picker = $state<HTMLInputElement>();

  function chosen() {
    const files = [...(picker?.files ?? [])];
    if (picker) picker.value = '';
    if (onfiles) onfiles(files);
    else if (files[0]) onfile?.(files[0]);
  }
</script>

<button class="btn" onclick={() => picker?.click()}>{words}</button>
<input
  bind:this={picker}
  type="file"
  {accept}
  multiple={Boolean(onfiles)}
  class="hidden"
  aria-label={label}
  onchange={chosen}
/>
