import type { CandidateSpec } from '../../api/client';

const FIELDS = ['version', 'school', 'foundation', 'light'] as const;
type Field = (typeof FIELDS)[number];
const USUAL_LIGHT = 'daylight';

/** A candidate as the address of the room tells it: ``school:overpainted,light:flash``; empty is the plan as it stands. */
export function toText(spec: CandidateSpec): string {
  return FIELDS.filter((field) => spec[field] != null && spec[field] !== USUAL_LIGHT)
    .map((field) => `${field}:${spec[field]}`)
    .join(',');
}

/** The candidate that an address means; ids the room does not know are refused by the server, by their names. */
export function fromText(text: string): CandidateSpec {
  const told = new Map<Field, string>();
  for (const part of text.split(',').filter(Boolean)) {
    const [field = '', value = ''] = part.split(':');
    const known = FIELDS.find((each) => each === field);
    if (!known) throw new Error(`The address asks for '${field}'; a candidate has ${FIELDS.join(', ')}.`);
    told.set(known, value);
  }
  const version = told.get('version');
  if (version !== undefined && !/^\d+$/.test(version))
    throw new Error(`The address asks for version '${version}'; a whole number is allowed.`);
  return {
    version: version === undefined ? null : Number(version),
    school: (told.get('school') ?? null) as CandidateSpec['school'],
    foundation: told.get('foundation') ?? null,
    light: (told.get('light') ?? USUAL_LIGHT) as CandidateSpec['light'],
  };
}
