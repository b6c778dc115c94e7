import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';

const SOURCE = join(import.meta.dirname, '../src');
const parts = readdirSync(SOURCE, { recursive: true, encoding: 'utf8' })
  .filter((name) => name.endsWith('.svelte'))
  .map((name) => [name, readFileSync(join(SOURCE, name), 'utf8')] as const);

/** What a room may not hold: shapes of the framework in place of ours, and lengths, colours and times of its own. */
const LITERALS = {
  'a radius': /(?<![\w-])rounded(-[trblse]{1,2})?(-(xs|sm|md|lg|\dxl|full|none))?(?=["'\s`])/,
  'a shadow': /(?<![\w-])shadow-(2?xs|sm|md|lg|\dxl)\b/,
  'a size of type': /(?<![\w-])text-\[|font-size:(?!\s*var)/,
  'a space': /(?<![\w-])-?(gap|space|[mp][xytrblse]?)(-[xy])?-\[(?!var)/,
  'a time': /(?<![\w-])(duration|delay)-(\d|\[)|transition(-duration)?:[^;]*\d/,
  'a colour': /(bg|text|border|fill|stroke|outline)-\[?#|(bg|text|border)-(red|blue|green|gray|neutral)-\d/,
};
const CONTROL = /<Field\b[^>]*|class="[^"]*\b(btn|field)\b[^"]*"/g;
/** Of a text area it is how many lines are seen: `min-h-…`. */
const HEIGHT = /(?<![\w-])h-(\d|\[)/;

test('there are rooms to look at, and what is forbidden is known by this test', () => {
  expect(parts.length).toBeGreaterThan(100);
  expect('class="panel rounded-sm p-2"').toMatch(LITERALS['a radius']);
  expect('class="shadow-lg"').toMatch(LITERALS['a shadow']);
  expect('class="text-[13px]"').toMatch(LITERALS['a size of type']);
  expect('class="mt-[3px]"').toMatch(LITERALS['a space']);
  expect('class="duration-200"').toMatch(LITERALS['a time']);
  expect('class="bg-[#fff]"').toMatch(LITERALS['a colour']);
  expect('class="btn h-9"').toMatch(HEIGHT);
});

test.each(Object.entries(LITERALS))('no room holds %s of its own: tokens.css names them', (_, literal) => {
  expect(parts.filter(([, text]) => literal.test(text)).map(([name]) => name)).toEqual([]);
});

test('what is pressed or typed into takes its height from tokens.css', () => {
  const own = parts.filter(([, text]) => text.match(CONTROL)?.some((each) => HEIGHT.test(each)));
  expect(own.map(([name]) => name)).toEqual([]);
});

test('every name of a height, radius and shadow that is used is declared, and every one declared is used', () => {
  const tokens = readFileSync(join(SOURCE, 'tokens.css'), 'utf8');
  const styles = readFileSync(join(SOURCE, 'app.css'), 'utf8');
  const all = [styles, ...parts.map(([, text]) => text)].join('\n');
  for (const [token, used] of [
    ['spacing', 'h'],
    ['radius', 'rounded'],
    ['shadow', 'shadow'],
  ]) {
    const declared = [...tokens.matchAll(new RegExp(`--${token}-([a-z-]+):`, 'g'))].map((each) => each[1]);
    expect(declared.length).toBeGreaterThan(0);
    for (const name of declared) expect(all, `${token} ${name}`).toMatch(new RegExp(`\\b${used}-${name}\\b`));
  }
});
