import { api, ask, type Table } from '../../api/client';
import { notices } from '../../parts/notices.svelte';
import { sent } from '../../parts/sending';
import { tried } from '../../parts/tried';
import type { ShelfState } from './shelf.svelte';

/** A table of items on its way to the shelf: looked at first, then taken. */
export class TableImport {
  shown = $state.raw<{ file: File; found: Table } | null>(null);

  constructor(private readonly shelf: ShelfState) {}

  async preview(file: File) {
    this.shelf.busy = true;
    const found = await tried(sent(file, 'text/csv').then((body) => ask(api.POST('/api/kit/preview', body))));
    if (found) this.shown = { file, found };
    this.shelf.busy = false;
  }

  async take() {
    if (!this.shown) return;
    this.shelf.busy = true;
    const found = await tried(
      sent(this.shown.file, 'text/csv').then((body) =>
        ask(api.POST('/api/kit/table', { params: { query: { leave_out: true } }, ...body })),
      ),
    );
    if (found) {
      notices.say(`${found.added} added, ${found.changed} changed, ${found.left_out} left out.`);
      this.shown = null;
      await this.shelf.opening.load();
    }
    this.shelf.busy = false;
  }
}
