import type { Workbench, Zone } from '../../api/client';

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
  hex: string;
}

export interface Column {
  zone: Zone;
  x: number;
  skin: string;
  limit: number;
  load: number;
  region: string;
}

export const COLUMN = 18;
export const GAP = 8;
/** Powder drawn as film of the same mass: 1 mg/cm² stands 10 µm high. */
export const POWDER_UM = 10;

interface Named {
  id: Zone;
  region: string;
}

/** Columns of the zones that are shown; ``all`` is the order in which the core tells zones. */
export function columnsOf(plan: Workbench, all: Named[], shown: Named[]): Column[] {
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
      region: zone.region,
    };
    x += COLUMN;
    return column;
  });
}

export function cellsOf(plan: Workbench, all: Named[], shown: Named[]): Cell[] {
  const height = shown.map(() => 0);
  const places = shown.map((zone) => all.indexOf(zone));
  const cells: Cell[] = [];
  plan.steps.forEach((step, s) => {
    shown.forEach((zone, z) => {
      const place = places[z] ?? 0;
      const um = plan.film[s]?.[place] ?? 0;
      const powder = plan.powder[s]?.[place] ?? 0;
      if (um <= 0 && powder <= 0) return;
      const thick = um + powder * POWDER_UM;
      cells.push({
        zone: zone.id,
        column: z,
        step: s,
        stepId: step.id,
        from: height[z] ?? 0,
        um: thick,
        powder,
        hex: plan.stages[s + 1]?.[place] ?? '#808080',
      });
      height[z] = (height[z] ?? 0) + thick;
    });
  });
  return cells;
}
