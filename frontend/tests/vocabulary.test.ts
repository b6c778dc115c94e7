import { expect, test, vi } from 'vitest';

test('the words are asked for once, and again where no answer came', async () => {
  const answers = [503, 200, 200];
  const fetched = vi.fn(
    async () =>
      new Response(JSON.stringify({ zones: [{ id: 'lips', words: 'the lips' }] }), {
        status: answers.shift(),
        headers: { 'content-type': 'application/json' },
      }),
  );
  vi.stubGlobal('fetch', fetched);
  const { words } = await import('../src/parts/vocabulary.svelte');
  await expect(words.load()).rejects.toThrow();
  expect(words.zone('lips')).toBe('lips');
  await Promise.all([words.load(), words.load()]);
  await words.load();
  expect(words.zone('lips')).toBe('the lips');
  expect(fetched).toHaveBeenCalledTimes(2);
});
