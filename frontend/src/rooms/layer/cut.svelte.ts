import type { Workbench, Zone } from '../../api/client';
import { view } from '../../parts/view.svelte';
import { words } from '../../parts/vocabulary.svelte';
import { namesOf } from '../../plan/steps';
import type { Moving } from './moving.svelte';
import {
  cellsOf,
  columnsOf,
  frameOf,
  ghostsOf,
  measured,
  reachOf,
  type Cell,
  type Cursor,
  type Scale,
} from './section';

/** What is cut, and how it is shown. */
export interface Given {
  plan: Workbench;
  at: number;
  pointed: Zone | null;
  /** Height of the scale in µm, where several sections stand on one scale. */
  tallest?: number;
  /** Height of the drawing over the skin, in its own units. */
  plot?: number;
  /** With the names of zones under the skin. */
  named?: boolean;
  /** Lets layers be dragged to another place in the order. */
  moving?: Moving;
}

/** The cut through the base: its columns and cells to scale, the cell that the cursor is on, and what is told of it. */
export class Cut {
  sides = $state<'both' | 'l' | 'r'>('both');
  scale = $state<Scale>('ceilings');
  cursor = $state<Cursor | null>(null);
  readonly #given: () => Given;
  readonly #zones = $derived(words.all?.zones ?? []);
  readonly #shown = $derived(
    this.#zones.filter((zone) => this.sides === 'both' || !zone.side || zone.side === this.sides),
  );

  /** ``given`` is read field by field as each is needed: pointing at a zone does not cut anew. */
  constructor(given: () => Given) {
    this.#given = given;
  }

  readonly cells = $derived.by(() => {
    const { plan, at } = this.#given();
    return cellsOf(plan, this.#zones, this.#shown, at);
  });

  readonly columns = $derived.by(() => columnsOf(this.#given().plan, this.#zones, this.#shown, this.cells));

  readonly ghosts = $derived.by(() => ghostsOf(this.#given().plan, this.columns, this.cells));

  readonly frame = $derived.by(() => {
    const { tallest = 0, plot = 320, named = true } = this.#given();
    return frameOf(this.columns, reachOf(this.columns, this.scale, tallest), plot, named);
  });

  readonly focus = $derived.by((): Cell | null => {
    const at = this.cursor;
    return at && (this.cells.find((cell) => cell.column === at.zone && cell.step === at.step) ?? null);
  });

  readonly told = $derived(this.focus ? this.#cellTold(this.focus) : this.#zoneTold());

  #cellTold(cell: Cell): string {
    const { plan } = this.#given();
    const step = plan.steps[cell.step];
    const product = step ? namesOf(step, plan.products) : '';
    const figures = view.instrument ? ` · ${measured(cell)} · shows ${cell.hex}` : '';
    return `${words.zone(cell.zone)} · ${words.step(step?.kind ?? '')}${product ? `, ${product}` : ''}${figures}. ${step?.why?.[0] ?? ''}`;
  }

  #zoneTold(): string {
    const { pointed, moving } = this.#given();
    const column = this.columns.find((each) => each.zone === pointed);
    if (column)
      return `${words.zone(column.zone)}: ${column.load.toFixed(1)} µm of the ${column.limit.toFixed(1)} µm it carries.`;
    const how =
      'Each column is a zone, cut through: skin at the foot, layers to scale, each in the colour it shows.';
    return moving ? `${how} Arrow keys walk, Space picks a zone, a layer can be dragged.` : how;
  }
}
