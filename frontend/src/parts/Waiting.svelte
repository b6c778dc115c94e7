<script lang="ts">
  /** The sign that something is waited for. */
  interface Props {
    /** What, in words. */
    for: string;
  }

  let { for: what }: Props = $props();
</script>

<p role="status">{what}</p>
