import { flushSync, mount, unmount, type ComponentProps } from 'svelte';
import { afterEach, describe, expect, test, vi } from 'vitest';
import type { Stroke, Zone } from '../src/api/client';
import Face from '../src/parts/face/Face.svelte';
import { SHAPES } from '../src/parts/face/chart';
import { words } from '../src/parts/vocabulary.svelte';

const COLOURS = Object.fromEntries(SHAPES.map(({ zone }) => [zone, '#c09070']));
/** Chin and both cheek apples, at places of a made-up sheet. */
const ANCHORS = { chin: [160, 300], cheek_apple_r: [110, 230], cheek_apple_l: [210, 230] };
const STROKE: Stroke = {
  id: 'shade-1',
  kind: 'shade',
  moved_mm: [0, 0],
  points: [
    [100, 200],
    [120, 220],
  ],
  why: 'it narrows',
  zones: ['cheek_hollow_r'],
};

let shown: Record<string, unknown> | undefined;
const settled = () => new Promise((done) => setTimeout(done));

async function face(props: Omit<ComponentProps<typeof Face>, 'label'>): Promise<SVGSVGElement> {
  shown = mount(Face, { target: document.body, props: { label: 'Wren', ...props } });
  flushSync();
  await vi.dynamicImportSettled();
  await settled();
  flushSync();
  return document.querySelector('svg')!;
}

const fills = (drawing: SVGSVGElement) =>
  [...drawing.querySelectorAll('path')].map((path) => path.getAttribute('fill'));

afterEach(() => {
  if (shown) void unmount(shown);
  document.body.replaceChildren();
  words.all = null;
});

describe('what is drawn', () => {
  test('is a head in the colours of its zones, which tell their names', async () => {
    const drawing = await face({ drawn: { colours: COLOURS } });
    expect(drawing.getAttribute('role')).toBe('img');
    expect(drawing.getAttribute('aria-label')).toBe('Wren');
    expect(fills(drawing).filter((fill) => fill === '#c09070').length).toBeGreaterThanOrEqual(SHAPES.length);
    expect(drawing.querySelectorAll('title')).toHaveLength(SHAPES.length);
  });

  test('is a cast without colours, and a cast has no names to press', async () => {
    const drawing = await face({ drawn: {} });
    expect(fills(drawing)).toContain('var(--well)');
    expect(drawing.querySelectorAll('title')).toHaveLength(0);
  });
});

describe('what is shown', () => {
  test('lies on a cast in its colour, and in grey where it has none', async () => {
    const drawing = await face({
      drawn: {},
      shown: { places: { zones: ['chin', 'nose_tip'], colours: { chin: '#a01010', neck: '#00ff00' } } },
    });
    expect(fills(drawing)).toContain('#a01010');
    expect(fills(drawing)).toContain('var(--line)');
    expect(fills(drawing)).not.toContain('#00ff00');
  });

  test('are grades with their numbers, only where there is one', async () => {
    const drawing = await face({
      drawn: { colours: COLOURS },
      shown: { grade: (zone) => (zone === 'chin' ? 3 : zone === 'neck' ? 1 : 0) },
    });
    expect([...drawing.querySelectorAll('text')].map((text) => text.textContent).sort()).toEqual(['1', '3']);
  });

  test('are measures: greys, dots, and figures', async () => {
    const drawing = await face({
      drawn: {},
      shown: {
        measures: new Map([
          ['chin', { grey: '#3c3c3c', figure: '9.1', dark: true }],
          ['neck', { grey: '#fafafa', dotted: true }],
        ]),
      },
    });
    expect(fills(drawing)).toContain('#3c3c3c');
    expect(fills(drawing).some((fill) => fill?.startsWith('url('))).toBe(true);
    const [figure, ...rest] = drawing.querySelectorAll('text');
    expect([figure?.textContent, figure?.getAttribute('fill'), rest]).toEqual(['9.1', '#fff', []]);
  });

  test.each([
    [['chin'], 1],
    [SHAPES.map(({ zone }) => zone), 2],
  ] as [Zone[], number][])(
    'are the chosen zones outlined, or face and neck where it is nearly all',
    async (chosen, lines) => {
      const drawing = await face({ drawn: { colours: COLOURS }, shown: { chosen } });
      expect(drawing.querySelectorAll('g[stroke="var(--accent)"] path')).toHaveLength(2 * lines);
    },
  );

  test('are strokes', async () => {
    const drawing = await face({ drawn: { colours: COLOURS }, shown: { strokes: [STROKE] } });
    const points = [...drawing.querySelectorAll('polyline')].map((line) => line.getAttribute('points'));
    expect(points).toEqual(['100.0,200.0 120.0,220.0', '100.0,200.0 120.0,220.0']);
  });
});

describe('what can be pressed', () => {
  test('tells the zone under the pointer, and that it left', async () => {
    const onpoint = vi.fn();
    const drawing = await face({ drawn: { colours: COLOURS }, pressed: { point: { onpoint } } });
    const zones = drawing.querySelector('title')!.parentElement!.parentElement!;
    zones.querySelector('path')!.dispatchEvent(new PointerEvent('pointerenter'));
    zones.dispatchEvent(new PointerEvent('pointerleave'));
    expect(onpoint.mock.calls).toEqual([[expect.any(String)], [null]]);
    expect(SHAPES.map(({ zone }) => zone)).toContain(onpoint.mock.calls[0]![0]);
  });

  async function painter() {
    words.all = { anchors: ANCHORS } as never;
    const calls: string[] = [];
    const drawing = await face({
      drawn: { colours: COLOURS },
      pressed: {
        paint: {
          pointed: 'chin',
          told: (zone) => `${zone}: bare`,
          onpoint: (zone) => calls.push(`point ${zone}`),
          ontouch: (zone) => calls.push(`touch ${zone}`),
          onlift: () => calls.push('lift'),
          onpaint: (zone) => calls.push(`paint ${zone}`),
        },
      },
    });
    const zone = (name: Zone) => drawing.querySelector<SVGPathElement>(`[data-zone="${name}"]`)!;
    return { drawing, calls, zone };
  }

  test('is painted by a stroke of the pointer, and no zone after it is lifted', async () => {
    const { drawing, calls, zone } = await painter();
    expect(drawing.getAttribute('role')).toBe('group');
    expect(zone('chin').getAttribute('aria-label')).toBe('chin: bare');
    zone('chin').dispatchEvent(new PointerEvent('pointerdown', { bubbles: true }));
    zone('neck').dispatchEvent(new PointerEvent('pointerenter'));
    window.dispatchEvent(new PointerEvent('pointerup'));
    zone('jaw_l').dispatchEvent(new PointerEvent('pointerenter'));
    expect(calls).toEqual(['touch chin', 'point neck', 'touch neck', 'lift', 'point jaw_l']);
  });

  test('is not painted by another button than the first', async () => {
    const { calls, zone } = await painter();
    zone('chin').dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, button: 2 }));
    window.dispatchEvent(new PointerEvent('pointerup'));
    expect(calls).toEqual([]);
  });

  test('is painted by keys: arrows walk to the neighbour, Space paints', async () => {
    const { calls, zone } = await painter();
    const press = (key: string) =>
      document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    zone('cheek_apple_r').focus();
    press('ArrowRight');
    press(' ');
    expect(calls.filter((call) => call.startsWith('paint'))).toHaveLength(1);
    const walked = calls.at(-1)!.replace('paint ', '') as Zone;
    expect(walked).not.toBe('cheek_apple_r');
    expect(calls).toContain(`point ${walked}`);
  });

  test('are strokes, moved by arrow keys and put back by Home', async () => {
    const calls: unknown[] = [];
    const drawing = await face({
      drawn: { colours: COLOURS },
      shown: { strokes: [STROKE], chosenStroke: 'shade-1' },
      pressed: {
        move: {
          mm_a_unit: 0.6,
          told: (stroke) => `Shade. ${stroke.why}`,
          onchoose: (stroke) => calls.push(['choose', stroke.id]),
          onmove: (stroke, by) => calls.push(['move', stroke.id, by]),
          onreset: (stroke) => calls.push(['reset', stroke.id]),
        },
      },
    });
    const stroke = drawing.querySelector<SVGGElement>('[role="button"]')!;
    expect(stroke.getAttribute('aria-label')).toBe('Shade. it narrows');
    expect(stroke.getAttribute('aria-pressed')).toBe('true');
    for (const key of ['ArrowLeft', 'x', 'Home'])
      stroke.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    expect(calls).toEqual([
      ['move', 'shade-1', [-2, 0]],
      ['reset', 'shade-1'],
    ]);
  });
});
