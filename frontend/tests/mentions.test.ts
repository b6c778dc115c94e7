import { describe, expect, it } from 'vitest';
import type { Mention } from '../src/api/client';
import { byThing, notSure } from '../src/parts/mentions';

const found: Mention[] = [
  { id: 'plan:1', kind: 'plan', text: 'Merrick, as Tamsin', sure: true },
  { id: 'plan:1', kind: 'plan', text: 'tamsin', sure: false },
  { id: 'kit:2', kind: 'kit', text: 'Tamsin rose', sure: false },
];

describe('titles that name somebody', () => {
  it('stand together for each thing', () => {
    expect(byThing(found)).toEqual([
      { id: 'plan:1', kind: 'plan', texts: ['Merrick, as Tamsin', 'tamsin'] },
      { id: 'kit:2', kind: 'kit', texts: ['Tamsin rose'] },
    ]);
  });

  it('stay as they are at first where none of a thing is sure', () => {
    expect(notSure(found)).toEqual(['kit:2']);
    expect(notSure([])).toEqual([]);
  });
});
