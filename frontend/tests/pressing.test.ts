import { beforeEach, describe, expect, test, vi } from 'vitest';
import { Draft } from '../src/parts/draft.svelte';
import { notices } from '../src/parts/notices.svelte';
import { shortcuts } from '../src/parts/shortcuts.svelte';
import { Dragging } from '../src/rooms/layer/dragging';

function pointer(y: number, more: Partial<PointerEvent> = {}): PointerEvent {
  return { clientY: y, pointerId: 1, button: 0, pointerType: 'mouse', ...more } as PointerEvent;
}

describe('dragging', () => {
  test('begins once the pointer has moved, and its click chooses nothing', () => {
    const begun: string[] = [];
    const dragging = new Dragging<string>((what) => begun.push(what));
    dragging.down(pointer(100), 'step 3');
    expect(dragging.moved(pointer(104))).toBeNull();
    expect(dragging.moved(pointer(107))).toBe('step 3');
    expect(dragging.moved(pointer(101))).toBe('step 3');
    expect(begun).toEqual(['step 3']);
    expect(dragging.underway).toBe(true);
    expect(dragging.up()).toBe(true);
    expect(dragging.clicked()).toBe(false);
    expect(dragging.clicked()).toBe(true);
  });

  test('is not begun by a touch, another button or another pointer', () => {
    const dragging = new Dragging<string>(() => expect.unreachable());
    dragging.down(pointer(100, { pointerType: 'touch' }), 'a');
    expect(dragging.moved(pointer(200))).toBeNull();
    dragging.down(pointer(100, { button: 2 }), 'a');
    expect(dragging.moved(pointer(200))).toBeNull();
    dragging.down(pointer(100), 'a');
    expect(dragging.moved(pointer(200, { pointerId: 2 }))).toBeNull();
    expect(dragging.up()).toBe(false);
  });
});

describe('shortcuts', () => {
  function press(key: string, more: KeyboardEventInit = {}, target: Element = document.body): KeyboardEvent {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
    target.addEventListener('keydown', (heard) => shortcuts.handle(heard as KeyboardEvent), { once: true });
    target.dispatchEvent(event);
    return event;
  }

  beforeEach(() => {
    document.body.innerHTML = '';
    shortcuts.declared = [];
    shortcuts.sheetOpen = shortcuts.menuOpen = false;
  });

  test('run while their room is open, and are told by the same list', () => {
    const run = vi.fn();
    const close = shortcuts.declare([{ keys: 'Ctrl+Z', does: 'Undo', run }]);
    expect(press('z', { ctrlKey: true }).defaultPrevented).toBe(true);
    expect(press('z', { metaKey: true }).defaultPrevented).toBe(true);
    press('z');
    expect(run).toHaveBeenCalledTimes(2);
    close();
    press('z', { ctrlKey: true });
    expect(run).toHaveBeenCalledTimes(2);
    expect(shortcuts.declared).toEqual([]);
  });

  test('leave typing and dialogs alone', () => {
    const run = vi.fn();
    shortcuts.declare([{ keys: 'b', does: 'Build', run }]);
    document.body.innerHTML = '<input id="name" />';
    const field = document.querySelector('#name');
    if (!field) throw new Error('a field');
    press('b', {}, field);
    press('?', {}, field);
    expect(run).not.toHaveBeenCalled();
    expect(shortcuts.sheetOpen).toBe(false);
    document.body.innerHTML = '<div role="dialog"></div>';
    press('b');
    expect(run).not.toHaveBeenCalled();
    document.body.innerHTML = '';
    press('b');
    expect(run).toHaveBeenCalledOnce();
  });

  test('open their sheet with ? and the menu with Ctrl+K, from a field too', () => {
    press('?');
    expect(shortcuts.sheetOpen).toBe(true);
    document.body.innerHTML = '<input id="name" />';
    const field = document.querySelector('#name');
    if (!field) throw new Error('a field');
    press('k', { ctrlKey: true }, field);
    expect(shortcuts.menuOpen).toBe(true);
  });
});

describe('a draft', () => {
  beforeEach(() => localStorage.clear());

  test('outlives the page until it is sent', () => {
    new Draft('note on Wren').text = '  try less ';
    const again = new Draft('note on Wren');
    expect(again.text).toBe('  try less ');
    expect(new Draft('note on Merrick').text).toBe('');
    expect(again.take()).toBe('try less');
    expect(new Draft('note on Wren').text).toBe('');
  });

  test('works without storage', () => {
    vi.stubGlobal('localStorage', {
      getItem: () => {
        throw new Error('denied');
      },
      setItem: () => {
        throw new Error('denied');
      },
    });
    const draft = new Draft('x');
    draft.text = 'kept while the page lives';
    expect(draft.text).toBe('kept while the page lives');
  });
});

describe('notices', () => {
  test('keep the newest three; grave ones stay until dismissed, others go by themselves', () => {
    vi.useFakeTimers();
    for (const text of ['one', 'two', 'three']) notices.say(text);
    notices.refuse(new Error('amount: 0.5 to 9.5 µm'));
    expect(notices.shown.map((notice) => notice.text)).toEqual(['two', 'three', 'amount: 0.5 to 9.5 µm']);
    vi.advanceTimersByTime(6000);
    expect(notices.shown.map((notice) => [notice.text, notice.grave])).toEqual([
      ['amount: 0.5 to 9.5 µm', true],
    ]);
    notices.dismiss(notices.shown[0]?.id ?? -1);
    expect(notices.shown).toEqual([]);
    vi.useRealTimers();
  });
});
