const KEY = 'nabrel view';

/** How amounts are told: in the words of the hand, or as an instrument reads them (µm, mg/cm², ΔE00). */
class View {
  instrument = $state(false);

  constructor() {
    try {
      this.instrument = localStorage.getItem(KEY) === 'instrument';
    } catch {
      // Without storage it is chosen anew in every tab.
    }
  }

  switch(): void {
    this.instrument = !this.instrument;
    try {
      localStorage.setItem(KEY, this.instrument ? 'instrument' : 'hand');
    } catch {
      // As above.
    }
  }
}

export const view = new View();
