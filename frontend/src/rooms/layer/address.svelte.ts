import { searchParams } from 'sv-router';
import { isActive } from '../../router';

/** What the address asks for under a name. */
export function asked(name: string): string | null {
  const found = searchParams.get(name);
  return found === null ? null : String(found);
}

/** The step that is chosen and what is open above the room, by the address: going back closes it, and a sent link opens it. */
export class LayerAddress {
  #opened = false;
  /** Going back out of a dialog has begun, and the address still is the dialog's: it must not be written now. */
  #leaving = false;

  get dialog(): string | null {
    return asked('open');
  }

  show(name: string) {
    this.#opened = true;
    searchParams.set('open', name);
  }

  close() {
    this.#leaving = this.#opened;
    if (this.#opened) history.back();
    else searchParams.delete('open', undefined, { replace: true });
    this.#opened = false;
  }

  /** Bring the step into the address; also after going back to an address that is older than the step chosen since. */
  showStep(plan: string, step: string | null) {
    if (this.dialog === null) this.#leaving = false;
    if (this.#leaving || asked('step') === step) return;
    if (!isActive('/plans/:id', { id: plan })) return;
    if (step === null) searchParams.delete('step', undefined, { replace: true });
    else searchParams.set('step', step, { replace: true });
  }
}
