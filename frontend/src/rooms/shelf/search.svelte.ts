import type { Product } from '../../api/client';
import type { ShelfState } from './shelf.svelte';

const DEPTHS = ['very light', 'light', 'intermediate', 'tan', 'brown', 'dark'];

/** Which items of the shelf are shown. */
export class ShelfSearch {
  sought = $state('');
  role = $state('all');
  texture = $state('all');
  base = $state('all');
  depth = $state('all');

  constructor(private readonly shelf: ShelfState) {}

  /** What the items have in one field, each once, in shelf order. */
  found(field: 'role' | 'texture' | 'base'): string[] {
    const all = (this.shelf.kit?.items ?? []).map((item) => item[field] as string);
    return all.filter((each, place) => all.indexOf(each) === place);
  }

  get depths(): string[] {
    const all = Object.values(this.shelf.kit?.depths ?? {});
    return DEPTHS.filter((each) => all.includes(each as never));
  }

  get items(): Product[] {
    const { kit, kits } = this.shelf;
    const wanted = this.sought.trim().toLowerCase();
    const fits = (chosen: string, own: string | undefined) => chosen === 'all' || own === chosen;
    return (kit?.items ?? []).filter(
      (item) =>
        fits(this.role, item.role) &&
        fits(this.texture, item.texture) &&
        fits(this.base, item.base) &&
        fits(this.depth, kit?.depths[item.id]) &&
        (!kits.named || !kits.only || kits.holds(item)) &&
        (!wanted ||
          `${item.name} ${item.id} ${item.role} ${item.texture} ${item.base} ${item.finish ?? ''}`
            .replaceAll('_', ' ')
            .toLowerCase()
            .includes(wanted)),
    );
  }
}
