import { zonesOf } from '../../plan/steps';
import type { Step, Workbench, Zone } from '../../api/client';

/** Geometry of the section: pure layout of numbers the core computed. */
export interface Cell {
  zone: Zone;
  column: number;
  step: number;
  stepId: string;
  /** Bottom and thickness in µm of film; powder stands in film of the same mass. */
  from: number;
  um: number;
  powder: number;
  /** Powder as it was laid, where a later step dusts some of it off. */
  laid: number;
  hex: string;
}

export interface Column {
  zone: Zone;
  x: number;
  skin: string;
  limit: number;
  /** Of the finished base, which the ceiling is held against. */
  load: number;
  /** Of the layers as they are drawn: a bake lies higher until it is dusted off. */
  height: number;
  region: string;
}

/** What lies there as an instrument reads it. */
export function measured(cell: Cell): string {
  return cell.powder > 0 ? `${cell.powder.toFixed(2)} mg/cm² of powder` : `${cell.um.toFixed(1)} µm`;
}

export const COLUMN = 18;
export const GAP = 8;
/** Room for the names of the zones under the skin. */
export const NAMES = 42;

interface Named {
  id: Zone;
  region: string;
}

/** How high the drawing reaches: to every ceiling, to the films as they lie, or to a fixed height in µm. */
export const SCALES = ['ceilings', 'films', '10', '20', '40', '80'] as const;
export type Scale = (typeof SCALES)[number];

/** The height in µm that the drawing reaches to; ``tallest`` where several stand side by side on one scale. */
export function reachOf(columns: Column[], scale: Scale, tallest = 0): number {
  if (scale !== 'ceilings' && scale !== 'films') return Number(scale);
  const heights = columns.map((column) =>
    scale === 'films' ? column.height : Math.max(column.limit, column.height),
  );
  return Math.max(...heights, tallest, scale === 'films' ? 2 : 10) * 1.04;
}

/** Where things stand in the drawing, in its own units. */
export interface Frame {
  left: number;
  top: number;
  plot: number;
  skin: number;
  width: number;
  height: number;
  /** Units a µm. */
  scale: number;
  most: number;
}

export function frameOf(columns: Column[], most: number, plot: number, named: boolean): Frame {
  const [left, top, skin] = [34, 19, 18];
  return {
    left,
    top,
    plot,
    skin,
    width: (columns.at(-1)?.x ?? 0) + COLUMN + left + 4,
    height: top + plot + skin + (named ? NAMES : 3),
    scale: plot / most,
    most,
  };
}

export function yOf(frame: Frame, um: number): number {
  return frame.top + frame.plot - um * frame.scale;
}

/** Columns of the zones that are shown, under their cells; ``all`` is the order in which the core tells zones. */
export function columnsOf(plan: Workbench, all: Named[], shown: Named[], cells: Cell[]): Column[] {
  // Cells come from the skin up: the last of a zone is its top.
  const heights = new Map(cells.map((cell) => [cell.zone, cell.from + cell.um]));
  let x = 0;
  let region = '';
  return shown.map((zone) => {
    const index = all.indexOf(zone);
    if (region && zone.region !== region) x += GAP;
    region = zone.region;
    const forecast = plan.forecast[zone.id];
    const column = {
      zone: zone.id,
      x,
      skin: plan.stages[0]?.[index] ?? '#808080',
      limit: forecast?.limit_um ?? 0,
      load: forecast?.load_um ?? 0,
      height: heights.get(zone.id) ?? 0,
      region: zone.region,
    };
    x += COLUMN;
    return column;
  });
}

/** Layers of the zones that are shown, from the skin up, as they lie once a step is done; -1 for the finished base. */
export function cellsOf(plan: Workbench, all: Named[], shown: Named[], at: number): Cell[] {
  const height = shown.map(() => 0);
  const places = shown.map((zone) => all.indexOf(zone));
  const cells: Cell[] = [];
  plan.steps.forEach((step, s) => {
    shown.forEach((zone, z) => {
      const place = places[z] ?? 0;
      const um = plan.film[s]?.[place] ?? 0;
      const left = plan.powder[s]?.[place] ?? 0;
      const dusted = plan.dusted.find((each) => each.step === s && each.zone === zone.id);
      const laid = dusted?.laid_mg_cm2 ?? left;
      const powder = dusted && at >= s && at < dusted.until ? laid : left;
      if (um <= 0 && powder <= 0) return;
      const thick = um + powder * plan.powder_um_per_mg;
      cells.push({
        zone: zone.id,
        column: z,
        step: s,
        stepId: step.id,
        from: height[z] ?? 0,
        um: thick,
        powder,
        laid,
        hex: plan.stages[s + 1]?.[place] ?? '#808080',
      });
      height[z] = (height[z] ?? 0) + thick;
    });
  });
  return cells;
}

/** What still shows of shade or light at the end, drawn as a ghost of what lies beneath. */
export interface Ghost {
  cell: Cell;
  column: Column;
  percent: number;
  key: string;
}

export function ghostsOf(plan: Workbench, columns: Column[], cells: Cell[]): Ghost[] {
  return plan.read_through.flatMap((row) => {
    const cell = cells.find((each) => each.zone === row.zone && plan.steps[each.step]?.kind === row.kind);
    const column = columns.find((each) => each.zone === row.zone);
    return cell && column
      ? [{ cell, column, percent: Math.max(0, Math.round(row.percent)), key: row.zone + row.kind }]
      : [];
  });
}

export interface Cursor {
  /** Index of a column. */
  zone: number;
  step: number;
}

/** Where the arrow keys lead from a cell; null for other keys. */
export function walked(from: Cursor | null, key: string, columns: Column[], cells: Cell[]): Cursor | null {
  const sideways = { ArrowLeft: -1, ArrowRight: 1 }[key];
  const up = { ArrowUp: 1, ArrowDown: -1 }[key];
  if (sideways === undefined && up === undefined) return null;
  const start = from ?? { zone: sideways === undefined ? 0 : -1, step: -1 };
  const zone = Math.max(0, Math.min(columns.length - 1, start.zone + (sideways ?? 0)));
  const stack = cells.filter((cell) => cell.column === zone);
  if (sideways !== undefined) {
    const near = stack.find((cell) => cell.step >= start.step) ?? stack.at(-1);
    return { zone, step: near?.step ?? start.step };
  }
  const index = stack.findIndex((cell) => cell.step === start.step);
  const next = stack[Math.max(0, Math.min(stack.length - 1, index + (up ?? 0)))];
  return { zone, step: next?.step ?? start.step };
}

/** The place in the order for a cell held at a height in µm: over the layers of its column whose middle is lower. */
export function placeAt(cell: Cell, um: number, cells: Cell[]): number {
  const others = cells.filter((each) => each.column === cell.column && each.step !== cell.step);
  const under = others.filter((each) => each.from + each.um / 2 < um).at(-1);
  const over = others.find((each) => each.from + each.um / 2 >= um);
  if (under && under.step > cell.step) return under.step + 1;
  if (over && over.step < cell.step) return over.step;
  return cell.step;
}

export interface Drop {
  zone: Zone;
  x: number;
  um: number;
}

/** Where a held step would lie on each of its zones, in µm from the skin, if it stood before another (null: last). */
export function dropsOf(
  plan: Workbench,
  held: Step,
  before: string | null,
  columns: Column[],
  cells: Cell[],
): Drop[] {
  const at = plan.steps.findIndex((step) => step.id === before);
  const place = at < 0 ? plan.steps.length : at;
  return columns.flatMap((column, index) => {
    if (!zonesOf(held).includes(column.zone)) return [];
    const beneath = cells.filter(
      (cell) => cell.column === index && cell.step < place && cell.stepId !== held.id,
    );
    return [{ zone: column.zone, x: column.x, um: beneath.reduce((sum, cell) => sum + cell.um, 0) }];
  });
}
