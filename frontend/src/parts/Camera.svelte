<script lang="ts">
  import { onDestroy } from 'svelte';
  import CameraIcon from '@lucide/svelte/icons/camera';

  /** The device's own camera: a live picture, and what it shows as a file when asked. Shown only where the browser has one. */
  let { ontaken }: { ontaken: (file: File) => void } = $props();
  const has = Boolean(globalThis.navigator?.mediaDevices?.getUserMedia);
  let stream = $state.raw<MediaStream | null>(null);
  let video = $state<HTMLVideoElement>();
  let says = $state('');
  let number = 1;

  $effect(() => {
    if (video && stream) video.srcObject = stream;
  });
  onDestroy(stop);

  async function start() {
    says = '';
    try {
      stream = await navigator.mediaDevices.getUserMedia({
        audio: false,
        video: { facingMode: 'environment', width: { ideal: 3840 }, height: { ideal: 2160 } },
      });
    } catch (error) {
      const name = error instanceof DOMException ? error.name : '';
      says =
        name === 'NotAllowedError'
          ? 'The browser may not use the camera: allow it for this page, or choose a file.'
          : name === 'NotFoundError'
            ? 'There is no camera here: choose a file.'
            : 'The camera could not be opened: another program may have it. Choose a file.';
    }
  }

  function stop() {
    for (const track of stream?.getTracks() ?? []) track.stop();
    stream = null;
  }

  function take() {
    if (!video?.videoWidth) return;
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [video.videoWidth, video.videoHeight];
    canvas.getContext('2d')?.drawImage(video, 0, 0);
    canvas.toBlob(
      (blob) => {
        if (blob) ontaken(new File([blob], `camera-${number++}.jpg`, { type: 'image/jpeg' }));
      },
      'image/jpeg',
      0.95,
    );
  }
</script>

{#if has}
  {#if stream}
    <div class="basis-full">
      <video
        bind:this={video}
        autoplay
        playsinline
        muted
        class="max-h-64 w-full rounded-control bg-well object-contain"
        aria-label="What the camera sees"
      ></video>
      <div class="mt-1 flex gap-2">
        <button class="btn btn-main" onclick={take}
          ><CameraIcon size={15} aria-hidden="true" />Take picture</button
        >
        <button class="btn" onclick={stop}>Close camera</button>
      </div>
    </div>
  {:else}
    <button class="btn" onclick={start}><CameraIcon size={15} aria-hidden="true" />Camera</button>
  {/if}
  {#if says}<p role="alert" class="basis-full"><b>▲</b> {says}</p>{/if}
{/if}
