import type { Score } from '../../api/client';

/** One bar of a lane: from when to when, what it says, and the step it belongs to. */
export interface Bar {
  step: string;
  from: number;
  to: number;
  says: string;
  /** What is said where there is no room for words. */
  short: string;
  title: string;
  hex: string | null;
  kind: 'work' | 'clean' | 'wait' | 'tool';
  bound: boolean;
}

/** A lane of the score with its name, and its bars in as many rows as keep them from lying over one another. */
export interface Lane {
  id: string;
  words: string;
  rows: Bar[][];
}

/** Bars in rows without overlap: each in the first row that is free by then. */
export function inRows(bars: Bar[]): Bar[][] {
  const rows: Bar[][] = [];
  for (const bar of [...bars].sort((a, b) => a.from - b.from || b.to - a.to)) {
    const free = rows.find((row) => (row.at(-1)?.to ?? -Infinity) <= bar.from);
    if (free) free.push(bar);
    else rows.push([bar]);
  }
  return rows.length ? rows : [[]];
}

/** The lanes of a score: the hands, what rests in each region, and every tool. */
export function lanesOf(score: Score, region: (id: string) => string, tool: (of: string) => string): Lane[] {
  const bound = new Set(score.timetable.longest_chain);
  const tasks = score.timetable.tasks.map((task, place) => ({ task, said: score.tasks[place] }));
  const title = (words: string, where: string) => (where ? `${words}, ${where}` : words);
  const hands: Bar[] = tasks.map(({ task, said }) => ({
    step: task.step,
    from: task.start_s,
    to: task.end_s,
    says: said?.words ?? '',
    short: task.what === 'clean' ? '' : String(said?.number ?? ''),
    title: title(said?.words ?? '', said?.where ?? ''),
    hex: said?.hex ?? null,
    kind: task.what === 'clean' ? 'clean' : 'work',
    bound: task.what !== 'clean' && bound.has(task.step),
  }));
  const regions = new Map<string, Bar[]>();
  score.timetable.waits.forEach((wait, place) => {
    const said = score.waits[place];
    for (const each of said?.regions ?? []) {
      const filled = said?.filled.length ? `; meanwhile ${said.filled.join(', ').toLowerCase()}` : '';
      const bar: Bar = {
        step: wait.step,
        from: wait.from_s,
        to: wait.to_s,
        says: said?.words ?? '',
        short: String(said?.number ?? ''),
        title: `${said?.words ?? ''} rests ${said?.where ?? ''}${filled}`,
        hex: null,
        kind: 'wait',
        bound: false,
      };
      const own = regions.get(each) ?? [];
      // Several places of one region that rest alike are one bar.
      if (!own.some((other) => other.step === bar.step && other.from === bar.from && other.to === bar.to))
        regions.set(each, [...own, bar]);
    }
  });
  const tools = new Map<string, Bar[]>();
  tasks.forEach(({ task, said }) => {
    if (!task.of) return;
    const bar: Bar = {
      step: task.step,
      from: task.start_s,
      to: task.end_s,
      says: '',
      short: '',
      title: title(said?.words ?? '', said?.where ?? ''),
      hex: said?.hex ?? null,
      kind: task.what === 'clean' ? 'clean' : 'tool',
      bound: false,
    };
    tools.set(task.of, [...(tools.get(task.of) ?? []), bar]);
  });
  return [
    { id: 'hands', words: 'Hands', rows: inRows(hands) },
    ...[...regions].map(([id, bars]) => ({ id: `rest ${id}`, words: region(id), rows: inRows(bars) })),
    ...[...tools].map(([of, bars]) => ({ id: `tool ${of}`, words: tool(of), rows: inRows(bars) })),
  ];
}

/** Where time stands on paper: linear, but for long stretches in which no hand works, which are drawn short. */
export interface Axis {
  x: (seconds: number) => number;
  /** The second that lies at so many pixels. */
  at: (pixels: number) => number;
  width: number;
  /** Stretches that are drawn short: from when to when. */
  breaks: { from: number; to: number }[];
}

const SHORT = 64;
const LONG_IDLE = 120;

/** An axis of at least so many pixels, with at least so many for a minute of work. */
export function axisOf(score: Score, room: number, perMinute: number): Axis {
  const length = Math.max(1, score.timetable.length_s ?? 1);
  const breaks: Axis['breaks'] = [];
  let idle = 0;
  for (const task of [...score.timetable.tasks].sort((a, b) => a.start_s - b.start_s)) {
    if (task.start_s - idle > LONG_IDLE) breaks.push({ from: idle, to: task.start_s });
    idle = Math.max(idle, task.end_s);
  }
  const worked = length - breaks.reduce((sum, each) => sum + each.to - each.from, 0);
  const scale = Math.max((room - breaks.length * SHORT) / worked, perMinute / 60);
  const x = (seconds: number) => {
    let at = 0;
    let before = 0;
    for (const { from, to } of breaks) {
      if (seconds <= from) break;
      at += (from - before) * scale;
      if (seconds < to) return at + ((seconds - from) / (to - from)) * SHORT;
      at += SHORT;
      before = to;
    }
    return at + (Math.max(0, seconds) - before) * scale;
  };
  const at = (pixels: number) => {
    let [low, high] = [0, length];
    for (let step = 0; step < 30; step += 1) {
      const middle = (low + high) / 2;
      if (x(middle) < pixels) low = middle;
      else high = middle;
    }
    return (low + high) / 2;
  };
  return { x, at, width: x(length), breaks };
}

/** Seconds between the marks of the axis: few enough to be read at this width. */
export function markEvery(length: number, width: number): number {
  const most = Math.max(2, Math.floor(width / 70));
  return [60, 120, 300, 600, 900, 1800, 3600].find((each) => length / each <= most) ?? 7200;
}

/** Whether ink on this colour is dark. */
export function darkInk(hex: string): boolean {
  const [r, g, b] = [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255);
  const linear = (value: number) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);
  return 0.2126 * linear(r ?? 0) + 0.7152 * linear(g ?? 0) + 0.0722 * linear(b ?? 0) > 0.18;
}
