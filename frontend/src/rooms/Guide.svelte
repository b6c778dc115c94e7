<script lang="ts">
  import { marked } from 'marked';
  import guide from '../../../docs/guide.md?raw';
  import RoomBar from '../parts/RoomBar.svelte';

  /** The guide of the docs, as it stands there, with its pictures. */
  const PICTURES = import.meta.glob<string>(
    '../../../docs/screenshots/{sitters,read-conditions,shelf,layer-step,sheet,weigh,pace,run,class,class-board,wear,drill,drill-students,house-rules}.png',
    { query: '?url', import: 'default', eager: true },
  );
  const pictured = guide.replace(/\((screenshots\/[\w-]+\.png)\)/g, (_, file: string) => {
    return `(${PICTURES[`../../../docs/${file}`] ?? ''})`;
  });
  const html = marked.parse(pictured, { async: false });
</script>

<svelte:head><title>Guide – Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar />
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <main class="min-h-0 grow overflow-auto" tabindex="0">
    <!-- The guide ships with the application: nothing in it comes from anybody else. -->
    <!-- eslint-disable-next-line svelte/no-at-html-tags -->
    <article class="guide mx-auto max-w-3xl p-6">{@html html}</article>
  </main>
</div>

<style>
  .guide :global {
    h1 {
      font-size: var(--text-2xl);
      font-weight: 700;
    }

    h2 {
      margin-top: 1.5rem;
      font-size: var(--text-lg);
      font-weight: 700;
    }

    p,
    ul {
      margin-block: 0.6rem;
    }

    ul {
      list-style: disc;
      padding-left: 1.25rem;
    }

    img {
      width: 100%;
      border: 1px solid var(--line);
    }

    code {
      background: var(--well);
    }
  }
</style>
