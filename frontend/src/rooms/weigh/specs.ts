import type { CandidateSpec } from '../../api/client';

const FIELDS = ['version', 'school', 'foundation', 'light'] as const;
const USUAL_LIGHT = 'daylight';

/** A candidate as the address of the room tells it: ``school:overpainted,light:flash``; empty is the plan as it stands. */
export function toText(spec: CandidateSpec): string {
  return FIELDS.filter((field) => spec[field] != null && spec[field] !== USUAL_LIGHT)
    .map((field) => `${field}:${encodeURIComponent(String(spec[field]))}`)
    .join(',');
}

/** The candidate that an address means; what it does not know, the server refuses by name. */
export function fromText(text: string): CandidateSpec {
  const told = new Map(
    text
      .split(',')
      .map((part) => part.split(':'))
      .map(([field = '', value = '']) => [field, decodeURIComponent(value)]),
  );
  const version = told.get('version');
  return {
    version: version ? Number(version) : null,
    school: (told.get('school') ?? null) as CandidateSpec['school'],
    foundation: told.get('foundation') ?? null,
    light: (told.get('light') ?? USUAL_LIGHT) as CandidateSpec['light'],
  };
}
