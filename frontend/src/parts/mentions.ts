import type { Mention } from '../api/client';

/** The ids of things whose titles are left as they are unless somebody says that it is the name: no title of theirs is sure. */
export function notSure(mentions: Mention[]): string[] {
  const sure = new Set(mentions.filter((each) => each.sure).map((each) => each.id));
  return [...new Set(mentions.map((each) => each.id))].filter((id) => !sure.has(id));
}

/** One entry for each thing, with all titles of it. */
export function byThing(mentions: Mention[]): { id: string; kind: Mention['kind']; texts: string[] }[] {
  const found = new Map<string, { id: string; kind: Mention['kind']; texts: string[] }>();
  for (const { id, kind, text } of mentions) {
    const known = found.get(id);
    if (known) known.texts.push(text);
    else found.set(id, { id, kind, texts: [text] });
  }
  return [...found.values()];
}
