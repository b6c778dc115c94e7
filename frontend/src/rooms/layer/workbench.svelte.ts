import {
  api,
  ask,
  type Candidate,
  type Preview,
  type Recipe,
  type Wishes,
  type Zone,
} from '../../api/client';
import { Latest } from '../../parts/latest';
import { tried } from '../../parts/tried';
import { PlanDocument } from '../../plan/document.svelte';
import { Stage } from './stage.svelte';

/** What another school, setting or wish would bring; nothing is changed until it is kept. */
export class Proposal {
  now = $state.raw<{ wish: Wishes; found: Preview } | null>(null);
  #asked = new Latest();

  constructor(private readonly doc: PlanDocument) {}

  async consider(wish: Wishes) {
    const path = { id: this.doc.id };
    const found = await tried(
      this.#asked.of(ask(api.POST('/api/sequences/{id}/preview', { params: { path }, body: wish }))),
    );
    if (found) this.now = { wish, found };
  }

  async save() {
    if (this.now && (await this.doc.replan(this.now.wish))) this.now = null;
  }
}

/** Products that could take a step's place, looked at on a zone. */
export class Swap {
  now = $state.raw<{ step: string; list: Candidate[]; mix: Recipe | null } | null>(null);
  #asked = new Latest();

  constructor(private readonly doc: PlanDocument) {}

  /** Look on a zone of the step; on its largest where none is named. */
  async find(step: string, zone?: Zone) {
    if (this.now?.step !== step) this.now = null;
    const params = {
      path: { id: this.doc.id, step },
      query: { light: this.doc.light, ...(zone ? { zone } : {}) },
    };
    const found = await tried(
      this.#asked.of(ask(api.GET('/api/sequences/{id}/steps/{step}/candidates', { params }))),
    );
    if (found) this.now = { step, list: found.candidates, mix: found.mix ?? null };
  }
}

/** The Layer room on one plan: the document, what of it is looked at, and the questions asked beside it. */
export class WorkbenchState {
  readonly doc: PlanDocument;
  readonly stage: Stage;
  readonly proposal: Proposal;
  readonly swap: Swap;

  /** Opens on a step by its id ("bare" for bare skin), or else on the whole plan with its first step. */
  constructor(
    readonly id: string,
    opensOn: string | null = null,
  ) {
    this.doc = new PlanDocument(id, (found) => this.stage.follow(found));
    this.stage = new Stage(this.doc, opensOn);
    this.proposal = new Proposal(this.doc);
    this.swap = new Swap(this.doc);
  }
}
