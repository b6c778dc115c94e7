import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { Edit, Workbench } from '../src/api/client';
import { notices } from '../src/parts/notices.svelte';
import { Building } from '../src/rooms/layer/building.svelte';
import { WorkbenchState } from '../src/rooms/layer/workbench.svelte';
import { plan, step } from './plans';

/** A server of one plan: each call is kept, and answered when the test says so. */
const asked: {
  path: string;
  body: { revision?: number; edits?: Edit[] };
  answer: (found: unknown, status?: number) => void;
}[] = [];

vi.mock('../src/api/client', async (load) => {
  const real = await load<typeof import('../src/api/client')>();
  const call = (path: string, given: { body?: object } = {}) =>
    new Promise((done) => {
      const answer = (found: unknown, status = 200) =>
        done(status < 300 ? { data: found, response: { status } } : { error: found, response: { status } });
      asked.push({ path, body: given.body ?? {}, answer });
    });
  return { ...real, api: { GET: call, POST: call } };
});

const settled = () => new Promise((done) => setTimeout(done));
const amount = (to: number): Edit => ({ edit: 'amount', step: 's1', amount: to, portion: 0 }) as Edit;

async function opened(shown: Workbench = plan(), on: string | null = null): Promise<WorkbenchState> {
  const bench = new WorkbenchState('p1', on);
  const loading = bench.doc.opening.load();
  await settled();
  for (const call of asked.splice(0)) call.answer(call.path === '/api/vocabulary' ? { zones: [] } : shown);
  await loading;
  return bench;
}

function last() {
  const call = asked.at(-1);
  if (!call) throw new Error('nothing was asked');
  return call;
}

beforeEach(() => {
  asked.length = 0;
  notices.shown = [];
});

describe('choosing a layer', () => {
  test('begins with the first step on the whole base, and stays within bare skin and the last step', async () => {
    const bench = await opened();
    expect([bench.stage.at, bench.stage.shown]).toEqual([0, 2]);
    bench.stage.choose(9);
    expect([bench.stage.at, bench.stage.shown]).toEqual([2, 2]);
    bench.stage.choose(1);
    expect([bench.stage.at, bench.stage.shown]).toEqual([1, 1]);
    bench.stage.choose(-5);
    expect([bench.stage.at, bench.stage.name]).toEqual([-1, 'bare skin']);
    bench.stage.chooseStep('s2');
    expect(bench.stage.step?.id).toBe('s2');
    expect([bench.doc.number('s2'), bench.doc.number('gone')]).toEqual([2, 0]);
  });

  test('begins where the address says', async () => {
    for (const [on, at, shown] of [
      ['s2', 1, 1],
      ['bare', -1, -1],
      ['gone', 0, 2],
    ] as const) {
      const bench = await opened(plan(), on);
      expect([bench.stage.at, bench.stage.shown]).toEqual([at, shown]);
    }
  });

  test('follows the chosen step where an edit moves it', async () => {
    const bench = await opened();
    bench.stage.chooseStep('s1');
    void bench.doc.edit([amount(3)]);
    await settled();
    last().answer(plan({ revision: 2, steps: [step('s9', 'prime', []), ...plan().steps] }));
    await settled();
    expect([bench.stage.at, bench.stage.step?.id]).toEqual([1, 's1']);
  });
});

describe('edits', () => {
  test('go out one after the other, each on the revision that the one before it made', async () => {
    const bench = await opened();
    const first = bench.doc.edit([amount(3)]);
    const second = bench.doc.edit([amount(4.5)]);
    await settled();
    expect(asked.map((call) => call.body.revision)).toEqual([1]);
    last().answer(plan({ revision: 2 }));
    await settled();
    expect(asked.map((call) => call.body.revision)).toEqual([1, 2]);
    last().answer(plan({ revision: 3 }));
    expect(await Promise.all([first, second])).toEqual([true, true]);
    expect([bench.doc.plan?.revision, bench.doc.underway]).toEqual([3, 0]);
  });

  test('and another light go out in turn: what was read before an edit does not take it back', async () => {
    const bench = await opened();
    void bench.doc.edit([amount(3)]);
    const lit = bench.doc.see('warm_lamp');
    void bench.doc.edit([amount(4.5)]);
    await settled();
    expect(asked.length).toBe(1);
    last().answer(plan({ revision: 2 }));
    await settled();
    expect(asked.map((call) => call.path)).toEqual(['/api/sequences/{id}/edits', '/api/sequences/{id}']);
    last().answer(plan({ revision: 2, light: 'warm_lamp' }));
    await lit;
    await settled();
    expect(last().body.revision).toBe(2);
    last().answer(plan({ revision: 3, light: 'warm_lamp' }));
    await settled();
    expect([bench.doc.plan?.revision, bench.doc.light, bench.doc.underway]).toEqual([3, 'warm_lamp', 0]);
  });

  test('pressed twice at once are meant once', async () => {
    const bench = await opened();
    void bench.doc.edit([amount(3)]);
    void bench.doc.edit([amount(3)]);
    await settled();
    last().answer(plan({ revision: 2 }));
    await settled();
    expect(asked.length).toBe(1);
    void bench.doc.edit([amount(3)]);
    await settled();
    expect(asked.length).toBe(2);
    last().answer(plan({ revision: 3 }));
    await settled();
  });

  test('that are refused are said and leave the plan as it was', async () => {
    const bench = await opened();
    const done = bench.doc.edit([amount(99)]);
    await settled();
    last().answer({ says: 'amount: 99; 0 to 60 µm is allowed' }, 422);
    expect(await done).toBe(false);
    expect(notices.shown.map((notice) => notice.text)).toEqual(['amount: 99; 0 to 60 µm is allowed']);
    expect([bench.doc.plan?.revision, bench.doc.stale, bench.doc.underway]).toEqual([1, null, 0]);
  });

  test('on a plan that somebody else changed are kept, and go on top of the newest when merged', async () => {
    const bench = await opened();
    const mine = [amount(3)];
    void bench.doc.edit(mine);
    await settled();
    last().answer({ says: 'revision: 1' }, 409);
    await settled();
    expect(bench.doc.stale?.mine).toEqual(mine);
    expect(last().path).toContain('difference');
    last().answer({ changes: ['their change'] });
    await settled();
    expect(bench.doc.stale?.theirs).toEqual({ changes: ['their change'] });
    void bench.doc.merge();
    await settled();
    last().answer(plan({ revision: 7 }));
    await settled();
    expect(last().body).toEqual({ revision: 7, edits: mine });
    last().answer(plan({ revision: 8 }));
    await settled();
    expect([bench.doc.plan?.revision, bench.doc.stale]).toEqual([8, null]);
  });

  test('are not forgotten where a tab that looks for changes hears of them later, nor where a second is refused', async () => {
    const bench = await opened();
    void bench.doc.checkStanding();
    const looked = last();
    expect(looked.path).toContain('head');
    void bench.doc.edit([amount(3)]);
    void bench.doc.edit([amount(4.5)]);
    await settled();
    last().answer({ says: 'revision: 1' }, 409);
    await settled();
    asked.findLast((call) => call.path.includes('difference'))?.answer({ changes: ['theirs'] });
    await settled();
    expect(last().path).toContain('edits');
    last().answer({ says: 'revision: 1' }, 409);
    await settled();
    last().answer({ changes: ['theirs'] });
    await settled();
    looked.answer({ revision: 7 });
    await settled();
    expect([bench.doc.underway, bench.doc.stale?.mine]).toEqual([0, [amount(3), amount(4.5)]]);
    expect(bench.doc.stale?.theirs).toEqual({ changes: ['theirs'] });
  });
});

describe('undo', () => {
  test('waits for an edit on its way, and does nothing where there is nothing to take back', async () => {
    const bench = await opened();
    await bench.doc.undo();
    expect(asked).toEqual([]);
    void bench.doc.edit([amount(3)]);
    void bench.doc.undo();
    await settled();
    last().answer(plan({ revision: 2, undo_says: 'Amount of step 1: 3 µm' }));
    await settled();
    expect([last().path, last().body.revision]).toEqual(['/api/sequences/{id}/undo', 2]);
    last().answer(plan({ revision: 1 }));
    await settled();
    expect(notices.shown.at(-1)?.text).toBe('Undone: Amount of step 1: 3 µm');
  });
});

describe('the base built by itself', () => {
  test('begins at bare skin, goes on layer by layer and stops at the last', async () => {
    const bench = await opened();
    vi.useFakeTimers();
    const building = new Building(bench);
    building.toggle();
    const seen = [bench.stage.at];
    while (building.running) {
      vi.advanceTimersByTime(800);
      seen.push(bench.stage.at);
    }
    expect(seen).toEqual([-1, 0, 1, 2]);
    building.toggle();
    bench.stage.choose(1);
    vi.advanceTimersByTime(800);
    expect([building.running, bench.stage.at]).toEqual([false, 1]);
    vi.useRealTimers();
  });
});
