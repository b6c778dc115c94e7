<script lang="ts">
  import type { Schemas } from '../../api/client';

  /** A sitter's bases through the season: hours until the sign came, forecast and seen, and below them the readings of oil. */
  let {
    course,
    oil,
    place,
  }: {
    course: readonly Schemas['CourseDayWire'][];
    oil: readonly Schemas['OilWire'][];
    place: string;
  } = $props();
  const WIDTH = 560;
  const LEFT = 30;
  const TOP = 8;
  const HIGH = 120;
  const BELOW = 60;
  const moments = $derived([
    ...course.map((day) => Date.parse(day.worn_from)),
    ...oil.map((each) => Date.parse(each.day)),
  ]);
  const first = $derived(Math.min(...moments));
  const last = $derived(Math.max(...moments));
  const top = $derived(
    Math.min(
      16,
      Math.ceil(Math.max(8, ...course.map((day) => Math.max(day.forecast_h, day.to_h ?? day.from_h)))),
    ),
  );
  const most = $derived(Math.max(1, ...oil.map((each) => each.value)));
  const x = (moment: string) =>
    LEFT + 10 + ((Date.parse(moment) - first) / Math.max(1, last - first)) * (WIDTH - LEFT - 40);
  const y = (hours: number) => TOP + HIGH - (Math.min(hours, top) / top) * HIGH;
  const yOil = (value: number) => TOP + HIGH + BELOW - (value / most) * (BELOW - 24);
  const day = (moment: string) => new Date(moment).toLocaleDateString([], { day: 'numeric', month: 'short' });
  const months = $derived(
    course.filter(
      (each, at) => at === 0 || day(each.worn_from).slice(-3) !== day(course[at - 1]!.worn_from).slice(-3),
    ),
  );
  const said = (each: Schemas['CourseDayWire']) =>
    each.to_h === null
      ? `not seen by ${each.from_h.toFixed(1)} h`
      : `seen between ${each.from_h.toFixed(1)} and ${each.to_h.toFixed(1)} h`;
</script>

<h3 class="mt-3 font-semibold">Through the season</h3>
<svg
  viewBox="0 0 {WIDTH} {TOP + HIGH + 18 + (oil.length ? BELOW + 4 : 0)}"
  class="w-full"
  aria-hidden="true"
  font-size="10"
>
  {#each [0, top / 2, top] as tick (tick)}
    <path d="M{LEFT} {y(tick)}H{WIDTH}" stroke="var(--line)" />
    <text x={LEFT - 4} y={y(tick) + 3} text-anchor="end" fill="var(--quiet)">{tick} h</text>
  {/each}
  {#each course as each (each.wear_id)}
    <path d="M{x(each.worn_from) - 5} {y(each.forecast_h)}h10" stroke="var(--ink)" stroke-width="2" />
    {#if each.to_h === null}
      <path
        d="M{x(each.worn_from)} {y(each.from_h)}V{y(top)}"
        stroke="var(--accent)"
        stroke-width="3"
        stroke-dasharray="2 3"
      />
    {:else}
      <path
        d="M{x(each.worn_from)} {y(each.from_h)}V{y(each.to_h)}"
        stroke="var(--accent)"
        stroke-width={each.temperature_c >= 25 ? 7 : 3}
      />
    {/if}
  {/each}
  {#each months as each (each.wear_id)}
    <text x={x(each.worn_from)} y={TOP + HIGH + 13} text-anchor="middle" fill="var(--quiet)"
      >{day(each.worn_from)}</text
    >
  {/each}
  {#if oil.length}
    <polyline
      points={oil.map((each) => `${x(each.day)},${yOil(each.value)}`).join(' ')}
      fill="none"
      stroke="var(--quiet)"
    />
    {#each oil as each (each.day + each.value)}
      <circle cx={x(each.day)} cy={yOil(each.value)} r="3.5" fill="var(--ink)" />
    {/each}
    <text x={LEFT + 10} y={TOP + HIGH + 18 + BELOW} fill="var(--quiet)"
      >Oil, {place.toLowerCase()}, up to {most} µg/cm²</text
    >
  {/if}
</svg>
<p class="label">
  Bar: between which hours it came first; broad on a day of 25 °C and more, dashed where it had not come.
  Stroke: forecast.
</p>
<details>
  <summary class="cursor-pointer">As a table</summary>
  <table class="w-full text-left">
    <thead class="label"
      ><tr
        ><th class="font-normal" scope="col">Put on</th><th class="font-normal" scope="col">°C</th><th
          class="font-normal"
          scope="col">Forecast</th
        ><th class="font-normal" scope="col">Seen</th></tr
      ></thead
    >
    <tbody>
      {#each course as each (each.wear_id)}
        <tr class="border-t border-line"
          ><td>{day(each.worn_from)}</td><td>{each.temperature_c}</td><td>{each.forecast_h.toFixed(1)} h</td
          ><td>{said(each)}</td></tr
        >
      {/each}
    </tbody>
  </table>
</details>
