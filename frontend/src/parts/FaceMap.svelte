<script lang="ts">
  import type { Zone } from '../api/client';
  import { HAIR, NECK, OUTLINE, SHAPES, WIDTH } from './face';
  import { words } from './vocabulary.svelte';

  interface Props {
    /** Colour of each zone, computed by the core. */
    colours: Record<Zone, string>;
    /** Zones to outline: those of the chosen step. */
    chosen?: readonly Zone[];
    label: string;
    onpoint?: (zone: Zone | null) => void;
  }

  let { colours, chosen = [], label, onpoint }: Props = $props();
  const uid = $props.id();
  const behind = SHAPES.filter((shape) => shape.behind);
  const front = SHAPES.filter((shape) => !shape.behind);
  const mirror = `translate(${WIDTH} 0) scale(-1 1)`;
  const turned = (mirrored: boolean) => (mirrored ? mirror : undefined);
  const picked = $derived(SHAPES.filter((shape) => chosen.includes(shape.zone)));
</script>

<svg viewBox="28 14 264 386" class="h-full w-full" role="img" aria-label={label}>
  <defs>
    <clipPath id="{uid}-face"><path d={OUTLINE} /></clipPath>
    <clipPath id="{uid}-neck"><path d={NECK} /></clipPath>
    <filter id="{uid}-soft" x="-20%" y="-20%" width="140%" height="140%"
      ><feGaussianBlur stdDeviation="6" /></filter
    >
    <filter id="{uid}-shadow" x="-40%" y="-40%" width="180%" height="180%"
      ><feGaussianBlur stdDeviation="6" /></filter
    >
  </defs>

  <path d={HAIR} fill="var(--line)" />
  <g>
    {#each behind.filter((shape) => shape.zone.startsWith('ear')) as shape (shape.zone)}
      <path d={shape.path} transform={turned(shape.mirrored)} fill={colours[shape.zone]} />
    {/each}
  </g>
  <g clip-path="url(#{uid}-neck)">
    <path d={NECK} fill={colours.neck} />
    <g filter="url(#{uid}-soft)">
      {#each behind.filter((shape) => !shape.zone.startsWith('ear')) as shape (shape.zone)}
        <path d={shape.path} fill={colours[shape.zone]} />
      {/each}
    </g>
    <ellipse cx="160" cy="318" rx="72" ry="34" fill="#000" opacity="0.16" filter="url(#{uid}-shadow)" />
  </g>
  <g clip-path="url(#{uid}-face)">
    <path d={OUTLINE} fill={colours.forehead_centre} />
    <g filter="url(#{uid}-soft)">
      {#each front as shape (shape.zone)}
        <path
          d={shape.path}
          transform={turned(shape.mirrored)}
          fill={colours[shape.zone]}
          stroke={colours[shape.zone]}
          stroke-width="5"
        />
      {/each}
    </g>
    <g fill="#000" filter="url(#{uid}-shadow)" opacity="0.1">
      <path d={OUTLINE} fill="none" stroke="#000" stroke-width="12" />
      <ellipse cx="160" cy="291" rx="20" ry="5" />
      <path d="M146 150 C141 168 148 190 141 222 L149 222 C152 196 150 170 154 150 Z" />
      <path d="M174 150 C179 168 172 190 179 222 L171 222 C168 196 170 170 166 150 Z" />
      <ellipse cx="160" cy="246" rx="18" ry="4" />
    </g>
  </g>

  {#each [false, true] as mirrored (mirrored)}
    <g transform={turned(mirrored)}>
      <path d="M84 151 C98 138 124 136 145 147 C126 143 102 144 86 155 Z" fill="#1c1a18" opacity="0.62" />
      <path d="M96 176 C105 163 130 163 141 177 C130 185 106 185 96 176 Z" fill="#e9e7e4" />
      <circle cx="119" cy="174.5" r="7.4" fill="#4a4038" />
      <circle cx="119" cy="174.5" r="3.2" fill="#111" />
      <circle cx="121.4" cy="172" r="1.3" fill="#fff" />
      <path
        d="M93 178 C104 162 131 161 142 178"
        fill="none"
        stroke="#1c1a18"
        stroke-width="2"
        stroke-linecap="round"
      />
      <path
        d="M98 168 C108 158 129 157 139 168"
        fill="none"
        stroke="#000"
        stroke-opacity="0.22"
        stroke-width="1.2"
      />
      <path
        d="M148 236 C150 240 155 240 156 237"
        fill="none"
        stroke="#000"
        stroke-opacity="0.4"
        stroke-width="2.2"
        stroke-linecap="round"
      />
      <path
        d="M139 229 C136 236 140 241 145 240"
        fill="none"
        stroke="#000"
        stroke-opacity="0.22"
        stroke-width="1.4"
      />
    </g>
  {/each}
  <path d={SHAPES.find((shape) => shape.zone === 'lips')?.path} fill="#8e2f3a" opacity="0.3" />
  <path
    d="M131 265 C145 269 152 266 160 268 C168 266 175 269 189 265"
    fill="none"
    stroke="#000"
    stroke-opacity="0.38"
    stroke-width="1.5"
  />

  <g fill="none" stroke="var(--accent)" stroke-width="1.6" stroke-dasharray="4 2.5">
    {#each picked as shape (shape.zone)}
      <path
        d={shape.path}
        transform={turned(shape.mirrored)}
        stroke="#fff"
        stroke-width="3"
        stroke-dasharray="none"
        opacity="0.75"
      />
      <path d={shape.path} transform={turned(shape.mirrored)} />
    {/each}
  </g>
  <g fill="transparent" role="presentation" onpointerleave={() => onpoint?.(null)}>
    {#each [...behind, ...front] as shape (shape.zone)}
      <path
        d={shape.path}
        transform={turned(shape.mirrored)}
        role="presentation"
        onpointerenter={() => onpoint?.(shape.zone)}
      >
        <title>{words.zone(shape.zone)}</title>
      </path>
    {/each}
  </g>
</svg>
