<script lang="ts">
  interface Props {
    words: string;
    /** What the file is, for who cannot see the button. */
    label: string;
    accept: string;
    onfile: (file: File) => void;
  }

  /** A button that asks for a file. The same file may be chosen again. */
  let { words, label, accept, onfile }: Props = $props();
  let picker = $state<HTMLInputElement>();

  function chosen() {
    const file = picker?.files?.[0];
    if (picker) picker.value = '';
    if (file) onfile(file);
  }
</script>

<button class="btn" onclick={() => picker?.click()}>{words}</button>
<input bind:this={picker} type="file" {accept} class="hidden" aria-label={label} onchange={chosen} />
