import { describe, expect, test } from 'vitest';
import { fromText, toText } from '../src/rooms/weigh/specs';

describe('a candidate in the address', () => {
  test('comes back as it was', () => {
    const specs = [
      '',
      'version:3',
      'school:overpainted,light:flash',
      'version:2,foundation:thin-satin-3',
      'light:led',
    ];
    for (const text of specs) expect(toText(fromText(text))).toBe(text);
  });

  test('leaves out what is usual', () => {
    expect(toText({ version: null, school: null, foundation: null, light: 'daylight' })).toBe('');
  });

  test('is refused by the field that no candidate has', () => {
    expect(() => fromText('skool:overpainted')).toThrow(/'skool'.*version, school, foundation, light/);
    expect(() => fromText('version:-1')).toThrow(/'-1'.*whole number/);
    expect(() => fromText('version:1e3')).toThrow(/whole number/);
  });
});
