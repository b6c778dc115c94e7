import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { Refusal, type Block, type Live } from '../src/api/client';
import { Bell, type Moment } from '../src/rooms/pace/bell.svelte';
import { forget, keep, kept, type KeptRun } from '../src/rooms/pace/kept-run';
import { EMPTY } from '../src/rooms/pace/run-log';
import { LogSending } from '../src/rooms/pace/sending.svelte';
import { sound } from '../src/rooms/pace/sounds';

vi.mock('../src/rooms/pace/sounds', async (given) => ({
  ...(await given<typeof import('../src/rooms/pace/sounds')>()),
  sound: vi.fn(),
}));

const answers: {
  body: Record<string, unknown>;
  answer: (found: unknown) => void;
  fail: (why: unknown) => void;
}[] = [];
vi.mock('../src/api/client', async (given) => ({
  ...(await given<typeof import('../src/api/client')>()),
  ask: (call: Promise<unknown>) => call,
  api: {
    PUT: (_: string, { body }: { body: Record<string, unknown> }) =>
      new Promise((answer, fail) => answers.push({ body, answer, fail })),
  },
}));

const block = (id: string, by: Block['by'] = []) =>
  ({
    id,
    step: id,
    side: '',
    title: id,
    where: 'on the chin',
    cues: ['Press.'],
    by,
    after: [],
  }) as unknown as Block;

beforeEach(() => localStorage.clear());
afterEach(() => {
  vi.mocked(sound).mockClear();
  answers.length = 0;
});

describe('the bell of a run', () => {
  const moment = (fields: Partial<Moment> = {}): Moment => ({
    block: block('set'),
    ready: { at: 60, block: 'base', says: 'it dries' },
    turned: 10,
    open: [block('set')],
    log: EMPTY,
    now: 59,
    ...fields,
  });

  test('rings once when a wait is over, and not before', () => {
    const bell = new Bell();
    bell.ring(moment());
    expect(sound).not.toHaveBeenCalled();
    bell.ring(moment({ now: 60 }));
    bell.ring(moment({ now: 61 }));
    expect(vi.mocked(sound).mock.calls).toEqual([['Ready: set.', 'chime']]);
  });

  test('does not ring for a wait that was over when the hands turned to it', () => {
    new Bell().ring(moment({ now: 80, turned: 70 }));
    expect(sound).not.toHaveBeenCalled();
  });

  test('rings once before a longest wait runs out', () => {
    const bell = new Bell();
    const log = { ...EMPTY, done: [{ step: 'base', from_s: 0, to_s: 10, state: 'done' as const }] };
    const late = block('powder', [{ block: 'base', seconds: 90, says: 'it sets' }]);
    const at = (now: number) => bell.ring(moment({ ready: null, open: [late], log, now }));
    at(84);
    expect(sound).not.toHaveBeenCalled();
    at(85);
    at(86);
    expect(vi.mocked(sound).mock.calls).toEqual([['powder within 0:15.', 'chime']]);
  });

  test('speaks what comes next only where it was asked to speak', () => {
    const bell = new Bell();
    bell.announce(block('set'));
    expect(sound).not.toHaveBeenCalled();
    bell.hear('spoken');
    bell.announce(block('set'));
    expect(vi.mocked(sound).mock.calls.at(-1)).toEqual(['set on the chin. Press.', 'spoken']);
    expect(new Bell().heard).toBe('spoken');
  });
});

describe('the log on its way', () => {
  const started = (sending: LogSending, log = EMPTY, now = 100) =>
    sending.send(
      () => log,
      () => now,
    );

  test('is taken, and is sent once at a time', async () => {
    const sending = new LogSending('r1');
    sending.unsent = true;
    const first = started(sending);
    expect(await started(sending)).toBeNull();
    expect(answers).toHaveLength(1);
    expect(answers[0]?.body).toEqual({ log: EMPTY, finish: false, now_s: 100 });
    answers[0]?.answer({ rest: {} });
    expect(await first).toBe(true);
    expect([sending.unsent, sending.offline, sending.refused, sending.saidAt]).toEqual([
      false,
      false,
      null,
      100,
    ]);
  });

  test('stays unsent where it went on while it was sent', async () => {
    const sending = new LogSending('r1');
    sending.unsent = true;
    let log = EMPTY;
    const first = sending.send(
      () => log,
      () => 5,
    );
    log = { ...EMPTY, notes: [] };
    answers[0]?.answer({ rest: {} });
    await first;
    expect(sending.unsent).toBe(true);
  });

  test('is sent again a while after the server did not answer', async () => {
    const sending = new LogSending('r1');
    const first = started(sending);
    answers[0]?.fail(new Refusal('no server', 0));
    expect(await first).toBe(false);
    expect([sending.unsent, sending.offline]).toEqual([true, true]);
    expect([sending.due(104), sending.due(104.5)]).toEqual([false, true]);
  });

  test('is not sent over and over where it is refused, says why, and is not lost', async () => {
    const sending = new LogSending('r1');
    const first = started(sending);
    answers[0]?.fail(new Refusal('log: a step that is not in the plan', 400));
    expect(await first).toBe(false);
    expect([sending.unsent, sending.offline, sending.due(1000)]).toEqual([true, false, false]);
    expect(sending.refused).toContain('a step that is not in the plan');
  });

  test('tells the second of a run that outlasts a day as a day', async () => {
    const sending = new LogSending('r1');
    void started(sending, EMPTY, 100_000);
    expect(answers[0]?.body.now_s).toBe(86400);
  });
});

test('a run is kept in the browser until it is forgotten; what cannot be read is nothing', () => {
  const run: KeptRun = {
    live: { plan_id: 'p' } as Live,
    log: EMPTY,
    current: 'set',
    turned: 3,
    pausedAt: null,
    unsent: true,
  };
  keep('r1', run);
  expect(kept('r1')).toEqual(run);
  expect(kept('r2')).toBeNull();
  forget('r1');
  expect(kept('r1')).toBeNull();
  localStorage.setItem('nabrel run r1', '{torn');
  expect(kept('r1')).toBeNull();
});
