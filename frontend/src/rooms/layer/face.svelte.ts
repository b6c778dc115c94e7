import { api, ask, type Aim, type Look, type Version } from '../../api/client';
import { inOrder, type Colours } from '../../parts/face/colours';
import { Latest } from '../../parts/latest';
import { notices } from '../../parts/notices.svelte';
import { tried } from '../../parts/tried';
import type { WorkbenchState } from './workbench.svelte';

/** What the face of the plan is held against: nothing, bare skin, its aim, or another version; or how far off it is. */
export type Beside = 'nothing' | 'bare' | 'aim' | 'off' | `version ${number}`;

export class FaceState {
  beside = $state<Beside>('nothing');
  versions = $state.raw<Version[]>([]);
  look = $state.raw<Look | null>(null);
  aim = $state.raw<Aim | null>(null);
  #asked = new Latest();

  constructor(readonly bench: WorkbenchState) {}

  /** Versions worth holding it against: the named ones, and the one before the last change. */
  async listed() {
    const found = await tried(
      ask(api.GET('/api/sequences/{id}/versions', { params: { path: { id: this.bench.id } } })),
    );
    if (!found) return;
    const past = found.versions.filter((version) => !version.current);
    const last = past.find((version) => version.number < (this.bench.doc.plan?.revision ?? 0));
    this.versions = past.filter((version) => version.name || version === last);
  }

  called(version: Version): string {
    return version.name ?? 'Before the last change';
  }

  /** Ask what the choice needs, for the layer and the light shown; only the last answer counts. */
  async ask() {
    const { bench, beside } = this;
    this.#asked.drop();
    const query = { light: bench.doc.light };
    try {
      if (beside === 'off') {
        const params = { path: { id: bench.id }, query: { ...query, after: bench.stage.shown } };
        const found = await this.#asked.of(ask(api.GET('/api/sequences/{id}/aim', { params })));
        if (found) this.aim = found;
      } else if (beside.startsWith('version')) {
        const number = Number(beside.split(' ')[1]);
        const params = { path: { id: bench.id, number }, query };
        const found = await this.#asked.of(
          ask(api.GET('/api/sequences/{id}/versions/{number}/look', { params })),
        );
        if (found) this.look = found;
      }
    } catch (error) {
      this.beside = 'nothing';
      notices.refuse(error);
    }
  }

  /** What the face is held against, with its words; null where there is nothing yet. */
  get other(): { colours: Colours; words: string } | null {
    if (this.beside === 'bare') return { colours: this.bench.stage.coloursAt(-1), words: 'bare skin' };
    if (this.beside === 'aim') return { colours: this.bench.stage.aimedAt, words: 'aimed at' };
    if (!this.beside.startsWith('version') || !this.look) return null;
    return { colours: inOrder(this.look.colours), words: this.look.words };
  }
}
