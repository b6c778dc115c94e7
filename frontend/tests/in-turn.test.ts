import { describe, expect, test } from 'vitest';
import { InTurn } from '../src/parts/in-turn';

/** Work that ends when it is told to, and notes that it began. */
function work(begun: string[], name: string) {
  let end = () => {};
  const ended = new Promise<void>((resolve) => (end = resolve));
  return { end, run: () => (begun.push(name), ended.then(() => name)) };
}

describe('work in turn', () => {
  test('begins when the one before has ended, well or not', async () => {
    const turns = new InTurn();
    const begun: string[] = [];
    const failed = turns.run(() => Promise.reject(new Error('refused')));
    const [first, second] = [work(begun, 'first'), work(begun, 'second')];
    const [one, two] = [turns.run(first.run), turns.run(second.run)];
    await expect(failed).rejects.toThrow('refused');
    await Promise.resolve();
    expect(begun).toEqual(['first']);
    first.end();
    expect(await one).toBe('first');
    second.end();
    expect(await two).toBe('second');
    expect(begun).toEqual(['first', 'second']);
  });

  test('begins at once, and only once, when the page is left', async () => {
    const turns = new InTurn();
    const begun: string[] = [];
    const [first, second] = [work(begun, 'first'), work(begun, 'second')];
    const [one, two] = [turns.run(first.run), turns.run(second.run)];
    await Promise.resolve();
    expect(begun).toEqual(['first']);
    globalThis.dispatchEvent(new Event('pagehide'));
    expect(begun).toEqual(['first', 'second']);
    first.end();
    second.end();
    expect([await one, await two]).toEqual(['first', 'second']);
    expect(begun).toEqual(['first', 'second']);
  });
});
