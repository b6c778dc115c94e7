import { api, ask, Refusal, type PlanSummary, type Sitter, type SitterSummary } from '../../api/client';
import { notices } from '../../parts/notices.svelte';
import { tried } from '../../parts/tried';

/** The sitters, the one looked at, and case files coming in. */
export class HomeState {
  sitters = $state<SitterSummary[] | null>(null);
  chosen = $state<Sitter | null>(null);
  /** The plans of the sitter who is looked at, favourites first. */
  plans = $state.raw<PlanSummary[]>([]);
  failed = $state<string | null>(null);
  importing = $state(false);
  /** What would be erased, while that is being asked. */
  goes = $state.raw<{ plans: number; revisions: number; classes: number; practice: number } | null>(null);

  async load() {
    this.failed = null;
    try {
      this.sitters = (await ask(api.GET('/api/sitters'))).sitters;
    } catch (error) {
      this.failed = error instanceof Refusal ? error.message : String(error);
    }
  }

  async look(id: string) {
    if (this.chosen?.id === id) return;
    try {
      const [sitter, { plans }] = await Promise.all([
        ask(api.GET('/api/sitters/{id}', { params: { path: { id } } })),
        ask(api.GET('/api/plans', { params: { query: { sitter: id } } })),
      ]);
      [this.chosen, this.plans] = [sitter, plans];
    } catch (error) {
      notices.refuse(error);
    }
  }

  /** Import a case file; the id of its plan, or null where it was refused (and nothing was changed). */
  async take(file: File): Promise<string | null> {
    this.importing = true;
    try {
      const found = await ask(
        api.POST('/api/cases', {
          body: (await file.arrayBuffer()) as never,
          bodySerializer: (body: unknown) => body as BodyInit,
          headers: { 'Content-Type': 'application/json' },
        }),
      );
      notices.say(`${file.name} is imported and planned, with ${found.kit_added} new kit items.`);
      return found.sequence_id;
    } catch (error) {
      notices.refuse(error);
      return null;
    } finally {
      this.importing = false;
    }
  }

  /** What would go with the sitter who is looked at. */
  async askToErase() {
    if (!this.chosen) return;
    const found = await tried(
      ask(api.GET('/api/sitters/{id}/belongings', { params: { path: { id: this.chosen.id } } })),
    );
    if (!found) return;
    this.goes = found;
  }

  async erase(): Promise<boolean> {
    const sitter = this.chosen;
    if (!sitter) return false;
    try {
      const gone = await ask(api.DELETE('/api/sitters/{id}', { params: { path: { id: sitter.id } } }));
      this.goes = null;
      if (gone.finished) notices.say(`${sitter.nickname} is erased, with every plan and from every backup.`);
      else
        notices.say(
          `${sitter.nickname} could not be erased from every file yet. Nabrel finishes it at the next start.`,
          true,
        );
      return true;
    } catch (error) {
      notices.refuse(error);
      return false;
    }
  }

  /** Once the address names nobody who is gone: the list anew, and nobody chosen who is not in it. */
  async leave() {
    await this.load();
    if (!this.sitters?.some((each) => each.id === this.chosen?.id)) this.chosen = null;
  }

  async favour(plan: PlanSummary) {
    try {
      const path = { id: plan.id };
      const body = { favourite: !plan.favourite };
      this.plans = (await ask(api.PUT('/api/plans/{id}/favourite', { params: { path }, body }))).plans;
    } catch (error) {
      notices.refuse(error);
    }
  }

  async plan(id: string): Promise<string | null> {
    try {
      return (await ask(api.POST('/api/sitters/{id}/sequences', { params: { path: { id } }, body: {} }))).id;
    } catch (error) {
      notices.refuse(error);
      return null;
    }
  }
}
