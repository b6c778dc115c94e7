<script lang="ts">
  import { api, ask, type Schemas } from '../api/client';
  import type { CardPictures } from './card-pictures.svelte';
  import FileButton from './FileButton.svelte';
  import { notices } from './notices.svelte';
  import NumberField from './NumberField.svelte';
  import { sent } from './sending';
  import { tried } from './tried';
  import { reason } from './reason';

  /** A printer calibrated once: by its white, its black, and a grey that is known, laid in the window of a printed card. */
  let { pictures }: { pictures: CardPictures } = $props();
  const now = $derived(pictures.samples);
  let white = $state<number | null>(null);
  let black = $state<number | null>(null);
  let grey = $state(18);
  let found = $state.raw<Schemas['PrinterWire'] | null>(null);
  let refused = $state('');
  let busy = $state(false);
  const percent = (share: number | undefined) => Math.round((share ?? 0) * 1000) / 10;
  const own = $derived({
    white: (white ?? percent(now?.white)) / 100,
    black: (black ?? percent(now?.black)) / 100,
  });

  async function read(file: File) {
    busy = true;
    [found, refused] = [null, ''];
    try {
      found = await ask(
        api.POST('/api/card/grey', {
          params: { query: { size: pictures.size, known: grey / 100, ...own } },
          ...(await sent(file, 'application/octet-stream')),
        }),
      );
    } catch (error) {
      refused = reason(error);
    } finally {
      busy = false;
    }
  }

  async function save() {
    const note = found ? `Calibrated by a grey of ${grey} %` : 'Calibrated by white and black';
    const body = { ...own, middle: found?.middle ?? null, note };
    const samples = await tried(ask(api.PUT('/api/card/printer', { body })));
    if (!samples) return;
    pictures.calibrated(samples);
    notices.say(
      'The printer is calibrated: pictures are read by it from now on. House rules can take it back.',
    );
  }
</script>

<details class="mt-1">
  <summary class="cursor-pointer"
    >{now?.calibrated
      ? 'This printer is calibrated: calibrate another'
      : 'This printer was not calibrated, and colours are told less surely: calibrate it'}</summary
  >
  <p class="label my-1">
    What white paper and solid black of your printer give back, from the paper’s pack or a colour reader. Then
    lay a grey that you know, such as a photographer’s grey card of 18 %, over the window of a printed card,
    and take a picture: it tells how far dots grow.
  </p>
  <div class="flex flex-wrap items-end gap-2">
    <NumberField
      label="White, %"
      value={white ?? percent(now?.white)}
      of="card_percent"
      onset={(value) => ((white = value), (found = null))}
    />
    <NumberField
      label="Black, %"
      value={black ?? percent(now?.black)}
      of="card_percent"
      onset={(value) => ((black = value), (found = null))}
    />
    <NumberField
      label="Known grey, %"
      value={grey}
      of="card_percent"
      onset={(value) => ((grey = value), (found = null))}
    />
    <FileButton
      words="Picture of the grey"
      label="Picture of the known grey"
      accept="image/*,.heic,.heif"
      onfile={(file) => void read(file)}
    />
    <button class="btn" disabled={busy} onclick={save}>Save for this printer</button>
  </div>
  <p aria-live="polite">
    {#if busy}Reading the grey…{:else if refused}<b>▲</b> {refused}{:else if found}{found.says}{:else}<span
        class="label">Without a picture, white and black alone are saved.</span
      >{/if}
  </p>
</details>
