import { describe, expect, test, vi } from 'vitest';
import { clashes, differing } from '../src/parts/clash.svelte';
import { InTurn } from '../src/parts/in-turn';

describe('two records', () => {
  test('differ in the fields whose words differ', () => {
    const mine = { id: 'a', name: 'Veil', lab: [60, 10, 15], alcohol: true, finish: null, left: { ml: 3 } };
    const theirs = { id: 'a', name: 'Veil 2', lab: [60, 11, 15], alcohol: false, role: 'setting_powder' };
    expect(differing(mine, theirs)).toEqual([
      { field: 'name', mine: 'Veil', theirs: 'Veil 2' },
      { field: 'lab', mine: '60, 10, 15', theirs: '60, 11, 15' },
      { field: 'alcohol', mine: 'yes', theirs: 'no' },
      { field: 'left', mine: 'ml 3', theirs: '–' },
      { field: 'role', mine: '–', theirs: 'setting powder' },
    ]);
  });

  test('that say the same are no clash: theirs stands', () => {
    const take = vi.fn();
    clashes.ask({
      name: 'Veil',
      mine: { name: 'Veil', note: '' },
      theirs: { name: 'Veil' },
      save: vi.fn(),
      take,
    });
    expect(take).toHaveBeenCalledOnce();
    expect(clashes.shown).toBe(null);
  });

  test('that clash wait for one answer', async () => {
    const save = vi.fn(() => Promise.resolve());
    const take = vi.fn();
    clashes.ask({ name: 'Veil', mine: { name: 'Veil' }, theirs: null, save, take });
    expect(clashes.shown?.name).toBe('Veil');
    await clashes.save();
    await clashes.save();
    expect([save.mock.calls.length, take.mock.calls.length, clashes.shown]).toEqual([1, 0, null]);
  });
});

test('work in turn begins when the one before has ended, also badly', async () => {
  const turn = new InTurn();
  const done: string[] = [];
  const slow = (name: string, fails = false) =>
    turn.run(async () => {
      done.push(`${name} begins`);
      await new Promise((resolve) => setTimeout(resolve, 5));
      done.push(`${name} ends`);
      if (fails) throw new Error(name);
      return name;
    });
  const results = await Promise.allSettled([slow('a'), slow('b', true), slow('c')]);
  expect(results.map((each) => each.status)).toEqual(['fulfilled', 'rejected', 'fulfilled']);
  expect(done).toEqual(['a begins', 'a ends', 'b begins', 'b ends', 'c begins', 'c ends']);
});
