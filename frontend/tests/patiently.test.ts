import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { Asked, patiently, waiting, type Job } from '../src/api/patiently.svelte';

const request = () => new Request('http://localhost/api/sequences/x/schools');
const busy = () => new Response('{}', { status: 503, headers: { 'Retry-After': '3' } });
const fine = () => new Response('{}', { status: 200 });
const job: Job = { id: 'a', what: 'schools', words: 'all schools', before: 2, working: false, seconds: 1 };

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('fetch', () => Promise.reject(new Error('nobody is there')));
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('a busy server', () => {
  test('is asked again when it says so, until it answers', async () => {
    const answers = [busy(), busy(), fine()];
    const send = vi.fn(() => Promise.resolve(answers.shift()!));
    const answered = patiently(request(), send);
    await vi.advanceTimersByTimeAsync(1000);
    expect(send).toHaveBeenCalledTimes(1);
    await vi.advanceTimersByTimeAsync(10_000);
    expect((await answered).status).toBe(200);
    expect(send).toHaveBeenCalledTimes(3);
  });

  test('is brought the same body again', async () => {
    const brought: string[] = [];
    const answers = [busy(), fine()];
    const send = async (each: Request) => {
      brought.push(`${each.method} ${await each.text()} ${each.headers.get('Content-Type')}`);
      return answers.shift()!;
    };
    const headers = { 'Content-Type': 'application/json' };
    const asked = new Asked('http://localhost/api/x', { method: 'POST', body: '{"a":1}', headers });
    const answered = patiently(asked, send);
    await vi.advanceTimersByTimeAsync(10_000);
    expect((await answered).status).toBe(200);
    expect(brought).toEqual(Array(2).fill('POST {"a":1} application/json'));
  });

  test('that is out of order for another reason is not', async () => {
    const send = vi.fn(() => Promise.resolve(new Response('{}', { status: 503 })));
    expect((await patiently(request(), send)).status).toBe(503);
    expect(send).toHaveBeenCalledTimes(1);
  });

  test('is given up in the end', async () => {
    const send = vi.fn(() => Promise.resolve(busy()));
    const answered = patiently(request(), send);
    await vi.advanceTimersByTimeAsync(120_000);
    expect((await answered).status).toBe(503);
  });
});

describe('what takes a while', () => {
  test('is shown with what is before it, can be cancelled, and goes when it has ended', async () => {
    const asked: string[] = [];
    vi.stubGlobal('fetch', (path: string, how: { method: string }) => {
      asked.push(`${how.method} ${path}`);
      const jobs = how.method === 'DELETE' ? [] : [job, { ...job, id: 'b', what: 'export' }];
      return Promise.resolve(new Response(JSON.stringify({ jobs })));
    });
    let end: (answer: Response) => void = () => {};
    const answered = patiently(request(), () => new Promise((resolve) => (end = resolve)));
    await vi.advanceTimersByTimeAsync(1000);
    expect(waiting.jobs).toEqual([]);
    await vi.advanceTimersByTimeAsync(500);
    expect(waiting.jobs).toEqual([job]);
    await waiting.cancel('a');
    expect(asked).toContain('DELETE /api/waiting/a');
    expect(waiting.jobs).toEqual([]);
    end(fine());
    await answered;
    const before = asked.length;
    await vi.advanceTimersByTimeAsync(5000);
    expect(asked.length).toBe(before);
  });

  test('is shown for a file that is fetched by a link too, until nothing is worked on', async () => {
    const lists = [[job], [job], []];
    let asked = 0;
    vi.stubGlobal('fetch', () => {
      asked += 1;
      return Promise.resolve(new Response(JSON.stringify({ jobs: lists.shift() ?? [] })));
    });
    waiting.fetching();
    waiting.fetching();
    expect(asked).toBe(0);
    await vi.advanceTimersByTimeAsync(1500);
    expect(waiting.jobs).toEqual([job]);
    await vi.advanceTimersByTimeAsync(5000);
    expect(waiting.jobs).toEqual([]);
    expect(asked).toBe(3);
  });
});
