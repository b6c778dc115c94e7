import { api, ask, Refusal, type BookRule, type House, type HouseParameter } from '../../api/client';
import { clashes } from '../../parts/clash.svelte';
import { InTurn } from '../../parts/in-turn';
import { notices } from '../../parts/notices.svelte';
import { words } from '../../parts/vocabulary.svelte';
import { Resource } from '../../parts/resource.svelte';

/** The words once each, in their order. */
function once(list: string[]): string[] {
  return list.filter((word, place) => list.indexOf(word) === place);
}

/** The state of the House rules room: the book, the search in it, and what fires in the open plan. */
export class HouseState {
  book = $state.raw<House | null>(null);
  sought = $state('');
  family = $state('all');
  decidedOnly = $state(false);
  /** How often each rule speaks in the open plan; null where none is open. */
  speaks = $state.raw<Record<string, number> | null>(null);
  planName = $state('');
  #turn = new InTurn();

  get families(): string[] {
    return once((this.book?.rules ?? []).map((rule) => rule.family));
  }

  get rules(): BookRule[] {
    const wanted = this.sought.trim().toLowerCase();
    return (this.book?.rules ?? []).filter(
      (rule) =>
        (this.family === 'all' || rule.family === this.family) &&
        (!this.decidedOnly ||
          rule.decision ||
          this.parametersOf(rule).some((each) => each.value !== each.default)) &&
        (!wanted ||
          `${rule.id} ${rule.statement} ${rule.reason} ${rule.other_view} ${rule.parameters.join(' ').replaceAll('_', ' ')}`
            .toLowerCase()
            .includes(wanted)),
    );
  }

  /** How many rules of a family speak in the open plan. */
  speakingIn(family: string): number {
    const spoken = this.speaks ?? {};
    return (this.book?.rules ?? []).filter((rule) => rule.family === family && spoken[rule.id]).length;
  }

  /** Parameters that no rule asks about, by subject. */
  get otherParameters(): { subject: string; parameters: HouseParameter[] }[] {
    const wanted = this.sought.trim().toLowerCase();
    const rest = (this.book?.parameters ?? []).filter(
      (each) =>
        !each.rules.length &&
        (!this.decidedOnly || each.value !== each.default) &&
        (!wanted || `${each.words} ${each.why}`.toLowerCase().includes(wanted)),
    );
    return once(rest.map((each) => each.subject)).map((subject) => ({
      subject,
      parameters: rest.filter((each) => each.subject === subject),
    }));
  }

  parametersOf(rule: BookRule): HouseParameter[] {
    return (this.book?.parameters ?? []).filter((each) => rule.parameters.includes(each.name));
  }

  readonly opening = new Resource(async () => {
    [this.book] = await Promise.all([ask(api.GET('/api/house')), words.load()]);
    if (this.planId) await this.#look(this.planId);
  });

  /** ``planId`` is the plan that is open, whose findings are counted. */
  constructor(readonly planId: string | null) {}

  async #look(planId: string) {
    const plan = await ask(
      api.GET('/api/sequences/{id}', { params: { path: { id: planId }, query: { light: 'daylight' } } }),
    );
    const counted: Record<string, number> = {};
    for (const finding of plan.findings) counted[finding.rule] = (counted[finding.rule] ?? 0) + 1;
    this.speaks = counted;
    this.planName = plan.title || plan.nickname;
  }

  #rule(id: string): BookRule | undefined {
    return this.book?.rules.find((each) => each.id === id);
  }

  #parameter(name: string): HouseParameter | undefined {
    return this.book?.parameters.find((each) => each.name === name);
  }

  async decideRule(rule: BookRule, change: Partial<NonNullable<BookRule['decision']>>) {
    const body = { off: false, severity: null, note: '', ...rule.decision, ...change };
    await this.#change(
      () => {
        const query = { version: this.#rule(rule.id)?.version };
        return ask(api.PUT('/api/house/rules/{name}', { params: { path: { name: rule.id }, query }, body }));
      },
      () => {
        clashes.ask({
          name: `the rule: ${rule.statement}`,
          mine: body,
          theirs: this.#rule(rule.id)?.decision ?? { off: false, severity: null, note: '' },
          save: () => this.decideRule({ ...rule, decision: body }, {}),
          take: () => undefined,
        });
      },
    );
  }

  async decideParameter(parameter: HouseParameter, value: number, note = parameter.note) {
    const { name, words: told } = parameter;
    await this.#change(
      () => {
        const query = { version: this.#parameter(name)?.version };
        return ask(
          api.PUT('/api/house/parameters/{name}', {
            params: { path: { name }, query },
            body: { value, note },
          }),
        );
      },
      () => {
        const theirs = this.#parameter(name);
        clashes.ask({
          name: told,
          mine: { value, note },
          theirs: theirs ? { value: theirs.value, note: theirs.note } : null,
          save: () => this.decideParameter(parameter, value, note),
          take: () => undefined,
        });
      },
    );
  }

  async resetRule(rule: BookRule) {
    await this.#change(() => {
      const query = { version: this.#rule(rule.id)?.version };
      return ask(api.DELETE('/api/house/rules/{name}', { params: { path: { name: rule.id }, query } }));
    });
  }

  async resetParameter(parameter: HouseParameter) {
    await this.#change(() => {
      const query = { version: this.#parameter(parameter.name)?.version };
      return ask(
        api.DELETE('/api/house/parameters/{name}', { params: { path: { name: parameter.name }, query } }),
      );
    });
  }

  async undo(number: number) {
    await this.#change(() =>
      ask(api.DELETE('/api/house/taken-over/{number}', { params: { path: { number } } })),
    );
  }

  async resetAll() {
    await this.#change(() => ask(api.DELETE('/api/house')));
    notices.say('Every rule and number is as in the book again.');
  }

  async #change(call: () => Promise<House>, stale?: () => void) {
    try {
      this.book = await this.#turn.run(call);
    } catch (error) {
      if (error instanceof Refusal && error.stale) {
        this.book = await ask(api.GET('/api/house')).catch(() => this.book);
        if (stale) stale();
        else notices.say('Somebody else decided it meanwhile. This is their version: look again.', true);
      } else {
        notices.refuse(error);
        this.book = this.book && { ...this.book };
      }
    }
  }
}
