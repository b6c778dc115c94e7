<script lang="ts">
  import { api, ask, type ClassShown } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import ProgressDialog from '../../parts/ProgressDialog.svelte';
  import { saved } from '../../parts/sending';
  import { UnderWay } from '../../parts/under-way.svelte';

  /** One PDF for the room. */
  let { open = $bindable(), found }: { open: boolean; found: ClassShown } = $props();
  let paper = $state<'a4' | 'letter'>('a4');
  let large = $state(false);
  let mirrored = $state(false);
  let busy = $state(false);
  const way = new UnderWay('/api/handouts/progress');
  const PAPERS = [
    { id: 'a4', words: 'A4' },
    { id: 'letter', words: 'Letter' },
  ] as const;

  async function make() {
    busy = true;
    open = false;
    try {
      const pdf = await way.during('Making the handouts', () =>
        ask(
          api.GET('/api/classes/{id}/handouts.pdf', {
            params: { path: { id: found.id }, query: { paper, large, mirrored } },
            parseAs: 'blob',
          }),
        ),
      );
      saved(pdf as unknown as Blob, `${found.room.title}-handouts.pdf`);
    } catch (error) {
      notices.refuse(error);
    }
    busy = false;
  }
</script>

<Modal bind:open title="Handouts" wide="34">
  {#snippet about()}
    For you: the weigh-out, rounds and what to clean, cards, and “If your skin …”. For every student: the
    sheet on the face they work on, what differs there, a face to mark, and the slip for the second look.
  {/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={busy} onclick={() => void make()}>Make the PDF</button>
  {/snippet}
  <div class="flex flex-col gap-2">
    <Choice label="Paper" value={paper} options={[...PAPERS]} onchoose={(id) => (paper = id)} />
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="accent-[var(--accent)]" bind:checked={large} />Large type, on as many
      pages as it takes</label
    >
    <label class="flex items-center gap-2"
      ><input type="checkbox" class="accent-[var(--accent)]" bind:checked={mirrored} />Faces as the mirror
      shows them, for who works on themselves</label
    >
  </div>
</Modal>
<ProgressDialog {way} />
