import { api, ask, type OwnedTool, type Tools } from '../../api/client';
import { clashes } from '../../parts/clash.svelte';
import { today } from '../../parts/today';
import { words } from '../../parts/vocabulary.svelte';
import type { ShelfState } from './shelf.svelte';

/** The tools, and whether they are clean. */
export class ToolsState {
  all = $state.raw<Tools | null>(null);

  constructor(private readonly shelf: ShelfState) {}

  async save(tool: OwnedTool) {
    await this.#change(
      () => {
        const query = { version: this.#of(tool.id)?.version ?? 0 };
        return ask(
          api.PUT('/api/kit/tools/{name}', { params: { path: { name: tool.id }, query }, body: tool }),
        );
      },
      () => {
        clashes.ask({
          name: tool.name || words.tool(tool.kind),
          mine: tool,
          theirs: this.#of(tool.id)?.tool ?? null,
          save: () => this.save(tool),
          take: () => undefined,
        });
      },
    );
  }

  async add(kind: OwnedTool['kind'], name: string) {
    let number = 1;
    while (this.#of(`tool-${number}`)) number += 1;
    await this.save({ id: `tool-${number}`, kind, name, state: 'clean', since: today() });
  }

  async remove(id: string) {
    await this.#change(() => {
      const query = { version: this.#of(id)?.version };
      return ask(api.DELETE('/api/kit/tools/{name}', { params: { path: { name: id }, query } }));
    });
  }

  #of(id: string) {
    return this.all?.tools.find((each) => each.tool.id === id);
  }

  #change(call: () => Promise<Tools>, stale?: () => void) {
    return this.shelf.work(call, (found) => (this.all = found), '', stale);
  }
}
