<script lang="ts">
  import Drill from '../drill/Drill.svelte';

  /** What a student who is signed in sees: Drill, with their own practice. */
</script>

<Drill />
