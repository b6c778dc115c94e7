<script lang="ts">
  import Choice from '../../parts/Choice.svelte';
  import Help from '../../parts/Help.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { NEW, type FromPhoto } from './from-photo.svelte';

  /** Every film on the card: how it was taken, what was read, where it goes, and how far that is off what the shelf has. */
  let { photo }: { photo: FromPhoto } = $props();
  const roles = $derived(
    (words.all?.roles ?? []).filter((role) => words.all?.coloured_roles.includes(role.id)),
  );
  const percent = (share: number) => `${Math.round(share * 100)} %`;

  /** The shelf's items, the nearest to a film first. */
  function options(film: (typeof photo.films)[number]) {
    return [
      { id: NEW, words: 'A new item' },
      ...film.against.map((each) => ({
        id: each.item,
        words: photo.named(each.item),
        note: `ΔE00 ${each.de.toFixed(1)}`,
      })),
    ];
  }

  function crops(cell: string) {
    return photo.pictures.read.flatMap((each) => each.found.cells.find((own) => own.id === cell)?.crop ?? []);
  }

  /** Cells that something is on, and none of whose pictures could be read. */
  const unread = $derived(
    photo.pictures.read
      .flatMap((each) => each.found.cells)
      .filter((cell) => cell.filled && !photo.films.some((film) => film.cell === cell.id)),
  );
</script>

<table class="mt-2 block w-full text-sm sm:table">
  <thead class="hidden sm:table-header-group">
    <tr class="label text-left">
      <th class="p-1 font-normal">Cell</th>
      <th class="p-1 font-normal">Read, ± how sure <Help of="sure" /></th>
      <th class="p-1 font-normal">Goes to</th>
      <th class="p-1 font-normal">Against what the shelf has</th>
    </tr>
  </thead>
  <tbody class="block sm:table-row-group">
    {#each photo.films as film (film.cell)}
      {@const row = photo.rows[film.cell]!}
      {@const stored = photo.against(film)}
      <tr class="flex flex-wrap gap-x-3 border-t border-line py-1 align-top sm:table-row">
        <td class="p-1">
          <label class="flex items-center gap-1.5">
            <input
              type="checkbox"
              class="accent-[var(--accent)]"
              checked={row.take}
              aria-label="Take cell {film.cell}"
              onchange={(event) => photo.set(film.cell, { take: event.currentTarget.checked })}
            />
            <b>{film.cell}</b>
            {#each crops(film.cell) as crop (crop)}<img
                src={crop}
                alt="Cell {film.cell} as taken"
                class="h-9 w-10 shrink-0 rounded-control"
              />{/each}
          </label>
        </td>
        <td class="p-1 whitespace-nowrap">
          <span class="flex items-center gap-1.5"
            ><Swatch hex={film.hex} size={22} /><span
              >{film.lab.map((part) => part.toFixed(1)).join(' ')}<span class="label block"
                >± ΔE00 {film.lab_sd.toFixed(1)}, {film.depth}</span
              ></span
            ></span
          >
          {#if film.cover != null}cover {percent(film.cover)}{#if film.cover_sd != null}<span class="label"
                >&nbsp;± {percent(film.cover_sd)}</span
              >{/if}{/if}
          {#if film.because}<span class="block whitespace-normal"><b>◆</b> {film.because}</span>{/if}
        </td>
        <td class="p-1">
          <span class="flex w-64 max-w-full flex-wrap gap-1">
            <Choice
              wide
              label="Cell {film.cell} goes to"
              value={row.item}
              options={options(film)}
              onchoose={(item) => photo.set(film.cell, { item, take: true })}
            />
            {#if row.item === NEW}
              <input
                class="field min-w-0 grow basis-28"
                aria-label="Name of the product in cell {film.cell}"
                placeholder="Its name"
                maxlength="120"
                value={row.name}
                oninput={(event) =>
                  photo.set(film.cell, {
                    name: event.currentTarget.value,
                    take: event.currentTarget.value.trim() !== '',
                  })}
              />
              <Choice
                label="Role of cell {film.cell}"
                value={row.role}
                options={roles.map((each) => ({ id: each.id as typeof row.role, words: each.words }))}
                onchoose={(role) => photo.set(film.cell, { role })}
              />
            {/if}
          </span>
        </td>
        <td class="min-w-40 p-1">
          {#if stored}
            <span class="flex items-start gap-1.5"
              ><Swatch hex={photo.shelf.kit?.swatches[row.item] ?? ''} size={22} /><span
                >{#if stored.far}<b>▲</b>{/if}
                {stored.says}{#if !stored.far && !stored.surer}<span class="label block"
                    >What the shelf has is surer.</span
                  >{/if}</span
              ></span
            >
          {:else if row.item === NEW}
            <span class="label">New: the rest as it usually is for its role.</span>
          {/if}
        </td>
      </tr>
    {/each}
  </tbody>
</table>
{#if unread.length}
  <ul class="mt-1">
    {#each unread as cell (cell)}<li><b>▲ Cell {cell.id}.</b> {cell.because}</li>{/each}
  </ul>
{/if}
