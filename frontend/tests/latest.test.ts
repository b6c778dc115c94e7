import { describe, expect, it } from 'vitest';
import { Latest } from '../src/parts/latest';

function later<T>() {
  let answer!: (value: T) => void;
  let refuse!: (error: Error) => void;
  const question = new Promise<T>((done, failed) => ([answer, refuse] = [done, failed]));
  return { question, answer, refuse };
}

describe('only the last question counts', () => {
  it('passes over an answer that is overtaken', async () => {
    const latest = new Latest();
    const [first, second] = [later<string>(), later<string>()];
    const [one, two] = [latest.of(first.question), latest.of(second.question)];
    second.answer('of the second');
    first.answer('of the first');
    expect(await one).toBeUndefined();
    expect(await two).toBe('of the second');
  });

  it('passes over the refusal of an older question, and tells that of the last one', async () => {
    const latest = new Latest();
    const [first, second] = [later<string>(), later<string>()];
    const [one, two] = [latest.of(first.question), latest.of(second.question)];
    first.refuse(new Error('old'));
    second.refuse(new Error('new'));
    expect(await one).toBeUndefined();
    await expect(two).rejects.toThrow('new');
  });

  it('passes over what was dropped', async () => {
    const latest = new Latest();
    const first = later<string>();
    const one = latest.of(first.question);
    latest.drop();
    first.answer('too late');
    expect(await one).toBeUndefined();
  });
});
