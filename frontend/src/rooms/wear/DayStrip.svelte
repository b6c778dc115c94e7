<script lang="ts">
  import type { Schemas } from '../../api/client';
  import { after } from './hours';

  /** The day as a strip for each part of the face: the hours forecast, when it was really seen, and every look as a mark. */
  let { record }: { record: Schemas['WearWire'] } = $props();
  const WIDTH = 560;
  const LEFT = 118;
  const ROW = 26;
  const rows = $derived(record.spans);
  const looks = $derived(record.looks.map((look) => look.after_min / 60));
  const last = $derived(
    Math.min(
      16,
      Math.max(8, ...looks, ...rows.map((row) => row.forecast_h), ...rows.map((row) => row.to_h ?? 0)) + 1,
    ),
  );
  const x = (hours: number) => LEFT + (Math.min(hours, last) / last) * (WIDTH - LEFT - 8);
  const ticks = $derived(Array.from({ length: Math.floor(last / 2) + 1 }, (_, place) => 2 * place));
  const looked = $derived(
    record.looks.length
      ? `Marks at the top: looks after ${record.looks.map((look) => after(look.after_min)).join(', ')}.`
      : '',
  );
  const name = (row: Schemas['SpanWire']) => `${row.words}, ${row.sign === 'shine' ? 'shine' : 'colour'}`;
</script>

<svg viewBox="0 0 {WIDTH} {rows.length * ROW + 22}" class="w-full" aria-hidden="true" font-size="11">
  {#each ticks as tick (tick)}
    <path d="M{x(tick)} 16V{rows.length * ROW + 20}" stroke="var(--line)" />
    <text x={x(tick)} y="11" text-anchor="middle" fill="var(--quiet)">{tick} h</text>
  {/each}
  {#each looks as look (look)}
    <path d="M{x(look)} 14l-4 -6h8z" fill="var(--ink)" />
  {/each}
  {#each rows as row, place (`${row.region} ${row.sign}`)}
    {@const y = 20 + place * ROW}
    <text x="0" y={y + 13} fill="var(--ink)">{name(row)}</text>
    <rect x={x(0)} y={y + 3} width={x(row.forecast_h) - x(0)} height="8" fill="var(--line)" />
    {#if row.learnt_h !== null}
      <path d="M{x(row.learnt_h)} {y + 1}v12" stroke="var(--ink)" stroke-width="2" />
    {/if}
    {#if row.looked}
      <rect x={x(0)} y={y + 12} width={x(row.from_h ?? 0) - x(0)} height="8" fill="var(--accent)" />
      {#if row.to_h !== null}
        <rect
          x={x(row.from_h ?? 0)}
          y={y + 12.5}
          width={Math.max(2, x(row.to_h) - x(row.from_h ?? 0))}
          height="7"
          fill="none"
          stroke="var(--accent)"
          stroke-dasharray="3 2"
        />
      {/if}
    {/if}
  {/each}
</svg>
<p class="label">
  Upper bar: forecast. Lower bar: seen without it; dashed, it came somewhere in between.{record.spans.some(
    (row) => row.learnt_h !== null,
  )
    ? ' Stroke across the upper bar: the forecast now, with what was learnt.'
    : ''}
  {looked}
</p>
<ul class="mt-2 flex flex-col gap-1">
  {#each rows.filter((row) => row.looked) as row (`${row.region} ${row.sign}`)}
    <li>{row.words}: {row.says}</li>
  {:else}
    <li>Nobody has looked yet: forecast and what is seen will stand side by side here.</li>
  {/each}
</ul>
