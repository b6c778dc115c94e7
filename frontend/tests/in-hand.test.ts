import { beforeEach, describe, expect, test, vi } from 'vitest';

async function fresh() {
  vi.resetModules();
  return (await import('../src/parts/in-hand.svelte')).inHand;
}

describe('what is in hand', () => {
  beforeEach(() => sessionStorage.clear());

  test('is the sitter and the plan looked at last, over a reload', async () => {
    const inHand = await fresh();
    inHand.takePlan({ id: 'a', name: 'Wren' }, { id: 'p', name: 'for the season' });
    const again = await fresh();
    expect([again.sitter, again.plan]).toEqual([
      { id: 'a', name: 'Wren' },
      { id: 'p', name: 'for the season' },
    ]);
  });

  test('stays while the same sitter is looked at, and the plan of another is put down', async () => {
    const inHand = await fresh();
    inHand.takePlan({ id: 'a', name: 'Wren' }, { id: 'p', name: 'for the season' });
    inHand.takeSitter({ id: 'a', name: 'Wren' }, 'q');
    expect(inHand.plan?.id).toBe('p');
    inHand.takeSitter({ id: 'b', name: 'Bram' }, 'r');
    expect(inHand.plan).toEqual({ id: 'r', name: '' });
    inHand.takeSitter({ id: 'c', name: 'Posy' }, null);
    expect(inHand.plan).toBe(null);
    inHand.putDown();
    expect(inHand.sitter).toBe(null);
  });
});
