import { api, ask, type Mention, type PlanSummary, type Sitter, type SitterSummary } from '../../api/client';
import { notSure } from '../../parts/mentions';
import { notices } from '../../parts/notices.svelte';
import { sent } from '../../parts/sending';
import { tried } from '../../parts/tried';
import { words } from '../../parts/vocabulary.svelte';
import { Resource } from '../../parts/resource.svelte';

interface Goes {
  sitter: { id: string; nickname: string };
  plans: number;
  revisions: number;
  classes: number;
  practice: number;
  named: number;
  mentions: Mention[];
}

/** The sitters, the one looked at, and case files coming in. */
export class HomeState {
  sitters = $state<SitterSummary[] | null>(null);
  chosen = $state<Sitter | null>(null);
  /** The plans of the sitter who is looked at, favourites first. */
  plans = $state.raw<PlanSummary[]>([]);
  importing = $state(false);
  /** Who would be erased, with what, while that is being asked: whoever was looked at when it was pressed. */
  goes = $state.raw<Goes | null>(null);
  /** Of the titles that name whoever would be erased, those that stay as they are. */
  titlesLeft = $state<string[]>([]);
  #wanted = '';

  readonly listing = new Resource(
    () => Promise.all([ask(api.GET('/api/sitters')), words.load()]),
    ([found]) => (this.sitters = found.sitters),
  );

  /** The sitter who is looked at; the one before is shown until they come. */
  readonly opening = new Resource(
    () =>
      Promise.all([
        ask(api.GET('/api/sitters/{id}', { params: { path: { id: this.#wanted } } })),
        ask(api.GET('/api/plans', { params: { query: { sitter: this.#wanted } } })),
      ]),
    ([sitter, { plans }]) => ([this.chosen, this.plans] = [sitter, plans]),
  );

  look(id: string) {
    this.#wanted = id;
    this.opening.forget();
    if (this.chosen?.id !== id) void this.opening.load();
  }

  /** Import a case file; the id of its plan, or null where it was refused (and nothing was changed). */
  async take(file: File): Promise<string | null> {
    this.importing = true;
    const found = await tried(
      sent(file, 'application/json').then((body) => ask(api.POST('/api/cases', body))),
    );
    this.importing = false;
    if (found) notices.say(`${file.name} is imported and planned, with ${found.kit_added} new kit items.`);
    return found?.sequence_id ?? null;
  }

  /** What would go with the sitter who is looked at. */
  async askToErase() {
    if (!this.chosen) return;
    const { id, nickname } = this.chosen;
    const found = await tried(ask(api.GET('/api/sitters/{id}/belongings', { params: { path: { id } } })));
    if (!found) return;
    this.goes = { sitter: { id, nickname }, ...found };
    this.titlesLeft = notSure(found.mentions);
  }

  async erase(): Promise<boolean> {
    const sitter = this.goes?.sitter;
    if (!sitter) return false;
    const params = { path: { id: sitter.id }, query: { leave: this.titlesLeft } };
    const gone = await tried(ask(api.DELETE('/api/sitters/{id}', { params })));
    if (!gone) return false;
    this.goes = null;
    if (gone.finished) notices.say(`${sitter.nickname} is erased, with every plan and from every backup.`);
    else
      notices.say(
        `${sitter.nickname} could not be erased from every file yet. Nabrel finishes it at the next start.`,
        true,
      );
    return true;
  }

  /** Once the address names nobody who is gone: the list anew, and nobody chosen who is not in it. */
  async leave() {
    await this.listing.load();
    if (!this.sitters?.some((each) => each.id === this.chosen?.id)) this.chosen = null;
  }

  async favour(plan: PlanSummary) {
    const path = { id: plan.id };
    const body = { favourite: !plan.favourite };
    const found = await tried(ask(api.PUT('/api/plans/{id}/favourite', { params: { path }, body })));
    if (found) this.plans = found.plans;
  }

  async plan(id: string): Promise<string | null> {
    const params = { path: { id } };
    const found = await tried(ask(api.POST('/api/sitters/{id}/sequences', { params, body: {} })));
    return found?.id ?? null;
  }
}
