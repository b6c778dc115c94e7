<script lang="ts">
  import type { ProductDraft } from '../../api/client';
  import Field from '../../parts/Field.svelte';
  import Choice from '../../parts/Choice.svelte';
  import Help from '../../parts/Help.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import Drawdown from './Drawdown.svelte';
  import type { ShelfState } from './shelf.svelte';

  let { shelf, item }: { shelf: ShelfState; item: ProductDraft } = $props();
  const terms = (ids: string[]) => ids.map((id) => ({ id, words: id.replaceAll('_', ' ') }));
  const picks = [
    {
      name: 'texture',
      words: 'Texture',
      terms: terms([
        ...['liquid', 'cream', 'balm', 'gel', 'mousse', 'stick', 'mist'],
        ...['loose_powder', 'pressed_powder'],
      ]),
    },
    {
      name: 'base',
      words: 'Base',
      terms: terms(['water', 'silicone', 'oil', 'anhydrous', 'powder', 'alcohol']),
    },
    { name: 'finish', words: 'Finish', terms: terms(['matte', 'satin', 'dewy', 'shimmer', 'glitter']) },
  ] as const;
  const amounts = [
    { name: 'ml', words: 'Content, ml' },
    { name: 'g', words: 'Content, g' },
    { name: 'price', words: 'Price' },
    { name: 'dose_ml', words: 'One pump, ml' },
    { name: 'keeps_months', words: 'Keeps, months' },
  ] as const;

  function number(event: Event & { currentTarget: HTMLInputElement }): number | null {
    const found = event.currentTarget.valueAsNumber;
    return Number.isFinite(found) ? found : null;
  }

  function colour(place: 0 | 1 | 2, value: number | null) {
    const lab: [number, number, number] = [
      ...((item.lab as [number, number, number] | null) ?? [60, 10, 15]),
    ];
    if (value !== null) lab[place] = value;
    shelf.item.set({ lab, source: null, lab_sd: null });
  }
</script>

<section aria-label="Item" class="panel flex flex-col gap-3 p-3 lg:min-h-0 lg:overflow-auto">
  <h2 class="text-lg font-semibold">{shelf.item.known ? 'Item' : 'New item'}</h2>
  <Field
    label="Name"
    class="w-full"
    maxlength={120}
    value={item.name}
    oninput={(event) => shelf.item.set({ name: event.currentTarget.value })}
  />
  <div class="grid grid-cols-2 gap-2">
    <div>
      <p class="label">Sold as</p>
      <Choice
        label="Role"
        wide
        value={item.role}
        options={(words.all?.roles ?? []).map((role) => ({
          id: role.id as ProductDraft['role'],
          words: role.words,
        }))}
        onchoose={(role) => shelf.item.set({ role })}
      />
    </div>
    {#each picks as pick (pick.name)}
      <div>
        <p class="label">{pick.words}</p>
        <Choice
          label={pick.words}
          wide
          value={(item[pick.name] ?? 'satin') as string}
          options={pick.terms}
          onchoose={(value) =>
            shelf.item.set({ [pick.name]: value, ...(pick.name === 'base' ? { base_source: 'pack' } : {}) })}
        />
        {#if pick.name === 'base' && shelf.item.baseGuessed}
          <p class="label">
            ≈ guessed.
            <button
              class="underline"
              id="settle-base"
              type="button"
              onclick={() => shelf.item.set({ base_source: 'pack' })}>It is so on the pack</button
            >
          </p>
        {/if}
      </div>
    {/each}
  </div>
  <fieldset>
    <legend class="label">Colour, laid thick (CIE L*a*b*, D65), and cover in %</legend>
    <div class="grid grid-cols-4 gap-2">
      {#each ['L*', 'a*', 'b*'] as axis, place (axis)}
        <input
          type="number"
          class="field w-full"
          aria-label={axis}
          id={place ? undefined : 'settle-colour'}
          step="0.5"
          value={item.lab?.[place] ?? ''}
          onchange={(event) => colour(place as 0 | 1 | 2, number(event))}
        />
      {/each}
      <input
        type="number"
        class="field w-full"
        aria-label="Cover in percent"
        min={words.limit('cover').low * 100}
        max={words.limit('cover').high * 100}
        value={item.cover == null ? '' : Math.round(item.cover * 1000) / 10}
        onchange={(event) => {
          const found = number(event);
          shelf.item.set({ cover: found === null ? null : found / 100 });
        }}
      />
    </div>
  </fieldset>
  <Drawdown {shelf} />
  {#if shelf.item.film}
    {@const film = shelf.item.film}
    <div>
      <svg
        viewBox="0 0 240 70"
        class="w-full"
        role="img"
        aria-label="A film of 9 µm over black and white, and on light and deep skin; contrast ratio {Math.round(
          film.contrast_ratio * 100,
        )} %"
      >
        <rect width="60" height="70" fill="#000" /><rect
          y="15"
          width="60"
          height="40"
          fill={film.over_black}
        />
        <rect x="60" width="60" height="70" fill="#fff" /><rect
          x="60"
          y="15"
          width="60"
          height="40"
          fill={film.over_white}
        />
        <rect x="120" width="60" height="70" fill={film.light_skin} /><rect
          x="120"
          y="15"
          width="60"
          height="40"
          fill={film.over_light_skin}
        />
        <rect x="180" width="60" height="70" fill={film.deep_skin} /><rect
          x="180"
          y="15"
          width="60"
          height="40"
          fill={film.over_deep_skin}
        />
      </svg>
      <p class="label">
        9 µm over black and white, on light and on deep skin. Contrast ratio {(
          film.contrast_ratio * 100
        ).toFixed(1)} %.
      </p>
    </div>
  {/if}
  {#if item.lab}
    <div class="flex items-center gap-2">
      <Field
        label="Scattering exponent, empty for the usual"
        beside
        outer="grow justify-between gap-2"
        type="number"
        class="w-20"
        min={words.limit('scatter_exponent').low}
        max={words.limit('scatter_exponent').high}
        step="any"
        value={item.scatter_exponent ?? ''}
        onchange={(event) => shelf.item.set({ scatter_exponent: number(event) })}
      /><Help of="scattering" />
    </div>
  {/if}
  {#if item.lab && !shelf.item.film}
    <p class="label" role="status">No surface has this colour and cover, or the film is being worked out.</p>
  {/if}
  <div class="grid grid-cols-2 gap-2 sm:grid-cols-3">
    {#each amounts as each (each.name)}
      <Field
        label={each.words}
        type="number"
        class="w-full"
        min={words.limit(each.name).low}
        max={words.limit(each.name).high}
        step="any"
        value={item[each.name] ?? ''}
        onchange={(event) => shelf.item.set({ [each.name]: number(event) })}
      />
    {/each}
    <Field
      label="Left, %"
      type="number"
      class="w-full"
      min={words.limit('left').low * 100}
      max={words.limit('left').high * 100}
      value={item.left == null ? '' : Math.round(item.left * 1000) / 10}
      onchange={(event) => {
        const found = number(event);
        shelf.item.set({ left: found === null ? null : Math.min(1, Math.max(0, found / 100)) });
      }}
    />
    <Field
      label="Opened on"
      type="date"
      class="w-full"
      outer="col-span-2"
      value={item.opened_on ?? ''}
      onchange={(event) => shelf.item.set({ opened_on: event.currentTarget.value || null })}
    />
  </div>
  <Field
    label="Ingredients, pasted from the pack"
    id="settle-contents"
    class="w-full"
    rows={4}
    maxlength={8000}
    value={(item.ingredients ?? []).join(', ')}
    onchange={(event) => shelf.item.read(event.currentTarget.value)}
  />
  {#if shelf.item.list}
    <p aria-live="polite">
      {shelf.item.list.says}
      {#if shelf.item.list.allergens.length}<b class="block"
          >▲ Contains what avoid lists call {shelf.item.list.allergens.join(', ')}.</b
        >{/if}
    </p>
  {/if}
  <div class="flex flex-wrap gap-2">
    <button class="btn btn-main" disabled={shelf.busy || !item.name.trim()} onclick={() => shelf.item.save()}
      >Save item</button
    >
    {#if shelf.item.known}<button class="btn" disabled={shelf.busy} onclick={() => shelf.item.remove()}
        >Remove item</button
      >{/if}
    <button class="btn" onclick={() => shelf.item.write(null)}>Close</button>
  </div>
</section>
