const KEY = 'nabrel first steps';

/** The path through a first plan: on until it is left, over a reload too. */
class FirstSteps {
  on = $state(false);

  constructor() {
    try {
      this.on = localStorage.getItem(KEY) === 'on';
    } catch {
      // Without storage the path lasts as long as the page.
    }
  }

  start(): void {
    this.#set(true);
  }

  leave(): void {
    this.#set(false);
  }

  #set(on: boolean): void {
    this.on = on;
    try {
      if (on) localStorage.setItem(KEY, 'on');
      else localStorage.removeItem(KEY);
    } catch {
      // As above.
    }
  }
}

export const firstSteps = new FirstSteps();
