export interface Shortcut {
  /** Keys as shown on the sheet and matched against events, such as "?" or "Ctrl+Z". */
  keys: string;
  does: string;
  run: () => void;
}

function named(event: KeyboardEvent): string {
  const parts: string[] = [];
  if (event.ctrlKey || event.metaKey) parts.push('Ctrl');
  if (event.altKey) parts.push('Alt');
  if (event.shiftKey && event.key.length > 1) parts.push('Shift');
  const letter = event.key.length === 1 && (event.ctrlKey || event.metaKey || event.altKey);
  parts.push(letter ? event.key.toUpperCase() : event.key);
  return parts.join('+');
}

function typing(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    !CHOSEN.includes((target as HTMLInputElement).type) &&
    target.closest('input, textarea, select, [role="combobox"]') !== null
  );
}

/** Inputs that take no letters: a letter or Enter pressed on them is a shortcut, while arrows, space and pages are theirs. */
const CHOSEN = ['checkbox', 'radio', 'range'];

function own(target: EventTarget | null, keys: string): boolean {
  if (!(target instanceof HTMLInputElement) || !CHOSEN.includes(target.type)) return false;
  return !/^([a-z]|Enter)$/i.test(keys) && (target.type === 'range' || keys !== 'PageDown');
}

/** Shortcuts as the rooms declare them; the sheet on "?" reads the same list, so help cannot drift. */
class Shortcuts {
  declared = $state.raw<Shortcut[]>([]);
  sheetOpen = $state(false);
  menuOpen = $state(false);

  /** Declare shortcuts for as long as a room is open; call the answer when it closes. */
  declare(list: Shortcut[]): () => void {
    this.declared = [...this.declared, ...list];
    return () => {
      this.declared = this.declared.filter((shortcut) => !list.includes(shortcut));
    };
  }

  handle(event: KeyboardEvent) {
    const keys = named(event);
    if (keys === 'Ctrl+K') {
      event.preventDefault();
      this.menuOpen = !this.menuOpen;
      return;
    }
    if (keys === '?' && !typing(event.target)) {
      this.sheetOpen = !this.sheetOpen;
      return;
    }
    if (typing(event.target) || own(event.target, keys) || document.querySelector('[role="dialog"]')) return;
    const found = this.declared.find((shortcut) => shortcut.keys === keys);
    if (!found) return;
    event.preventDefault();
    found.run();
  }
}

export const shortcuts = new Shortcuts();
