/** A press that becomes a drag once the pointer has moved; the click that ends a drag chooses nothing. */
export class Dragging<T> {
  #pressed: { what: T; y: number; id: number } | null = null;
  #dragged = false;

  constructor(readonly begin: (what: T) => void) {}

  /** Touch scrolls; a step is carried there with the buttons. */
  down(event: PointerEvent, what: T) {
    this.#dragged = false;
    if (event.button || event.pointerType === 'touch') return;
    this.#pressed = { what, y: event.clientY, id: event.pointerId };
  }

  /** What is being dragged by this pointer, if anything is. */
  moved(event: PointerEvent): T | null {
    const pressed = this.#pressed;
    if (!pressed || event.pointerId !== pressed.id) return null;
    if (!this.#dragged && Math.abs(event.clientY - pressed.y) >= 6) {
      this.#dragged = true;
      this.begin(pressed.what);
    }
    return this.#dragged ? pressed.what : null;
  }

  /** The pointer is up or gone: whether a drag ended with it. */
  up(): boolean {
    const ended = this.#dragged && this.#pressed !== null;
    this.#pressed = null;
    return ended;
  }

  get underway(): boolean {
    return this.#dragged && this.#pressed !== null;
  }

  /** Whether a click is one of its own, and not the end of a drag. */
  clicked(): boolean {
    const own = !this.#dragged;
    this.#dragged = false;
    return own;
  }
}
