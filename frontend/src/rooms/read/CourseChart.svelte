<script lang="ts">
  import type { Course } from '../../api/client';

  let { course }: { course: Course } = $props();
  const days = $derived(course.readings.map((each) => Date.parse(each.reading.day)));
  const values = $derived(course.readings.map((each) => each.reading.lab?.[0] ?? each.reading.value ?? 0));
  const unit = $derived(course.what === 'colour' ? 'L*' : course.what === 'oil' ? 'µg/cm²' : 'units');
  const low = $derived(Math.min(...values));
  const high = $derived(Math.max(...values));

  function x(day: number): number {
    const [first, last] = [days[0] ?? 0, days.at(-1) ?? 0];
    return last === first ? 150 : 20 + ((day - first) / (last - first)) * 260;
  }

  function y(value: number): number {
    return high === low ? 30 : 46 - ((value - low) / (high - low)) * 32;
  }

  const line = $derived(days.map((day, place) => `${x(day)},${y(values[place] ?? 0)}`).join(' '));
</script>

<svg
  viewBox="0 0 300 74"
  class="w-full max-w-md"
  role="img"
  aria-label="{course.words}, {course.what}: {course.readings
    .map((each, place) => `${each.reading.day} ${values[place]} ${unit}`)
    .join('; ')}"
>
  <polyline points={line} fill="none" stroke="var(--quiet)" stroke-width="1.5" />
  {#each course.readings as each, place (each.id)}
    {@const [cx, cy] = [x(days[place] ?? 0), y(values[place] ?? 0)]}
    <circle {cx} {cy} r="7" fill={each.hex ?? 'var(--well)'} stroke="var(--ink)" />
    <text x={cx} y={cy > 30 ? cy - 11 : cy + 18} text-anchor="middle" font-size="10" fill="var(--ink)"
      >{values[place]} {unit}</text
    >
    <text
      x={cx}
      y="71"
      font-size="10"
      fill="var(--quiet)"
      text-anchor={place === 0 && days.length > 1
        ? 'start'
        : place === days.length - 1 && place
          ? 'end'
          : 'middle'}>{each.reading.day}</text
    >
  {/each}
</svg>
