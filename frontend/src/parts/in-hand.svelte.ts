import { untrack } from 'svelte';

/** A sitter or a plan, as the bar of rooms names it. */
export interface Named {
  id: string;
  name: string;
}

const KEY = 'nabrel in hand';

/** The sitter and the plan in hand: looked at last in this tab, and kept over a reload. */
class InHand {
  sitter = $state.raw<Named | null>(null);
  plan = $state.raw<Named | null>(null);

  constructor() {
    try {
      const stored = JSON.parse(sessionStorage.getItem(KEY) ?? '{}') as Partial<InHand>;
      this.sitter = stored.sitter ?? null;
      this.plan = stored.plan ?? null;
    } catch {
      // Without storage it is known once a room is opened.
    }
  }

  /** Take a sitter in hand; the plan of another one is put down. */
  takeSitter(sitter: Named, planId: string | null): void {
    const same = untrack(() => this.plan && this.sitter?.id === sitter.id);
    this.sitter = sitter;
    if (!same) this.plan = planId ? { id: planId, name: '' } : null;
    this.#remember();
  }

  /** Take a plan in hand with its sitter; it goes by its title. */
  takePlan(sitter: Named, plan: Named): void {
    this.sitter = sitter;
    // The sitter is named beside it: a title need not say it again.
    const short = plan.name.replace(sitter.name, '').replace(/^[\s,:–-]+/, '');
    this.plan = { id: plan.id, name: short || plan.name };
    this.#remember();
  }

  /** Put down whatever is in hand: it was erased. */
  putDown(): void {
    this.sitter = null;
    this.plan = null;
    this.#remember();
  }

  #remember(): void {
    try {
      // Not for an effect to follow: whoever takes something in hand would take it again and again.
      untrack(() => sessionStorage.setItem(KEY, JSON.stringify({ sitter: this.sitter, plan: this.plan })));
    } catch {
      // As above.
    }
  }
}

export const inHand = new InHand();
