import { flushSync } from 'svelte';
import { describe, expect, test } from 'vitest';
import { keyed, Resource } from '../src/parts/resource.svelte';
import { whenever } from '../src/parts/whenever.svelte';

/** A question whose answers are given by hand, in any order. */
function asking() {
  const asked: { come: (found: string) => void; fail: (why: string) => void }[] = [];
  const fetch = () =>
    new Promise<string>((resolve, reject) =>
      asked.push({ come: resolve, fail: (why) => reject(new Error(why)) }),
    );
  return { asked, fetch };
}

const settled = () => new Promise((done) => setTimeout(done));

describe('something that is loaded', () => {
  test('is waited for, then there', async () => {
    const { asked, fetch } = asking();
    const taken: string[] = [];
    const found = new Resource(fetch, (value) => taken.push(value));
    const coming = found.load();
    expect([found.loading, found.value, found.stale]).toEqual([true, null, false]);
    asked[0]?.come('a plan');
    expect(await coming).toBe(true);
    expect([found.loading, found.value, found.failed]).toEqual([false, 'a plan', '']);
    expect(taken).toEqual(['a plan']);
  });

  test('says why it did not come, until a try succeeds', async () => {
    const { asked, fetch } = asking();
    const found = new Resource(fetch);
    const first = found.load();
    asked[0]?.fail('Nabrel does not answer.');
    expect(await first).toBe(false);
    expect([found.loading, found.failed]).toEqual([false, 'Nabrel does not answer.']);
    const second = found.load();
    expect([found.loading, found.failed]).toEqual([true, 'Nabrel does not answer.']);
    asked[1]?.come('a plan');
    expect(await second).toBe(true);
    expect([found.failed, found.value]).toEqual(['', 'a plan']);
  });

  test('of several tries only the last one counts, whichever answers first', async () => {
    const { asked, fetch } = asking();
    const found = new Resource(fetch);
    const tries = [found.load(), found.load()];
    asked[1]?.come('the newer');
    await settled();
    asked[0]?.come('the older');
    expect(await Promise.all(tries)).toEqual([false, true]);
    expect([found.value, found.loading]).toEqual(['the newer', false]);
  });

  test('what is shown stays while it comes anew, and is said to be of before', async () => {
    const { asked, fetch } = asking();
    const found = new Resource(fetch);
    const first = found.load();
    asked[0]?.come('before');
    await first;
    expect(found.stale).toBe(false);
    const again = found.load();
    expect([found.value, found.stale]).toEqual(['before', true]);
    asked[1]?.fail('no');
    await again;
    expect([found.value, found.stale, found.failed]).toEqual(['before', true, 'no']);
  });

  test('what was dropped does not come any more', async () => {
    const { asked, fetch } = asking();
    const found = new Resource(fetch);
    const coming = found.load();
    found.drop();
    expect(found.loading).toBe(false);
    asked[0]?.come('late');
    expect(await coming).toBe(false);
    expect(found.value).toBeNull();
  });
});

describe('in a component', () => {
  test('what a key names is loaded at once, and anew with another key; the former is gone meanwhile', async () => {
    let key = $state('one');
    const asked: string[] = [];
    let found: Resource<string> | undefined;
    const stop = $effect.root(() => {
      found = keyed(
        () => key,
        async (of) => {
          asked.push(of);
          return `what ${of} names`;
        },
      );
    });
    flushSync();
    await settled();
    expect(found?.value).toBe('what one names');
    key = 'two';
    flushSync();
    expect(found?.value).toBeNull();
    await settled();
    expect([found?.value, asked]).toEqual(['what two names', ['one', 'two']]);
    stop();
  });

  test('work is done when what it is about changes, for nothing else it reads, and undone when it goes', () => {
    let about = $state(1);
    let other = $state(1);
    const done: string[] = [];
    const stop = $effect.root(() => {
      whenever(
        () => about,
        (now) => {
          done.push(`${now} beside ${other}`);
          return () => done.push(`${now} left`);
        },
      );
    });
    flushSync();
    other = 2;
    flushSync();
    expect(done).toEqual(['1 beside 1']);
    about = 2;
    flushSync();
    expect(done).toEqual(['1 beside 1', '1 left', '2 beside 2']);
    stop();
    expect(done.at(-1)).toBe('2 left');
  });
});
