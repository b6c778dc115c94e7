import { api, ask, type Mention, type PlanSummary, type Sitter, type SitterSummary } from '../../api/client';
import { notSure } from '../../parts/mentions';
import { notices } from '../../parts/notices.svelte';
import { reason } from '../../parts/reason';
import { sent } from '../../parts/sending';
import { tried } from '../../parts/tried';
import { words } from '../../parts/vocabulary.svelte';

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
  failed = $state<string | null>(null);
  /** Whether the sitter who is to be looked at did not come. */
  away = $state(false);
  importing = $state(false);
  /** Who would be erased, with what, while that is being asked: whoever was looked at when it was pressed. */
  goes = $state.raw<Goes | null>(null);
  /** Of the titles that name whoever would be erased, those that stay as they are. */
  titlesLeft = $state<string[]>([]);
  #wanted = '';

  async load() {
    this.failed = null;
    try {
      const [found] = await Promise.all([ask(api.GET('/api/sitters')), words.load()]);
      this.sitters = found.sitters;
    } catch (error) {
      this.failed = reason(error);
    }
  }

  async look(id: string) {
    this.#wanted = id;
    this.away = false;
    if (this.chosen?.id === id) return;
    const found = await tried(
      Promise.all([
        ask(api.GET('/api/sitters/{id}', { params: { path: { id } } })),
        ask(api.GET('/api/plans', { params: { query: { sitter: id } } })),
      ]),
    );
    // Answers may come in another order than they were asked for.
    if (this.#wanted !== id) return;
    if (found) [this.chosen, this.plans] = [found[0], found[1].plans];
    else this.away = true;
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
    await this.load();
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
