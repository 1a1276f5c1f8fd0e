/** What a schema says where it has no sentence of its own: every refusal is one that a technician can act on. */

import { z } from 'zod';

const KINDS: ReadonlyMap<string, string> = new Map([
  ['string', 'text'],
  ['number', 'a number'],
  ['int', 'a whole number'],
  ['boolean', 'yes or no'],
  ['array', 'a list'],
  ['object', 'a group of fields'],
  ['record', 'a group of fields'],
]);

type Issue = Parameters<z.core.$ZodErrorMap>[0];

function refusal(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined
        ? 'This is missing.'
        : `This should be ${KINDS.get(issue.expected) ?? 'something else'}.`;
    case 'invalid_value':
      return `Choose one of ${issue.values.map((one) => `“${String(one)}”`).join(', ')}.`;
    case 'too_big':
      return sizeOf(issue.origin, 'at most', Number(issue.maximum));
    case 'too_small':
      return sizeOf(issue.origin, 'at least', Number(issue.minimum));
    case 'invalid_key':
      return issue.issues[0]?.message ?? 'This cannot be the name of a field.';
    case 'unrecognized_keys':
      return `There is no field ${issue.keys.map((one) => `“${one}”`).join(', ')} here.`;
    case 'invalid_format':
      return issue.format === 'uuid' ? 'This is no id of ours.' : 'This is not written as it should be.';
    default:
      return 'This is not as it should be.';
  }
}

function sizeOf(origin: string, limit: string, bound: number): string {
  if (origin === 'string') return `This has ${limit} ${bound} letters.`;
  if (origin === 'number' || origin === 'int') return `This is ${limit} ${bound}.`;
  return `There are ${limit} ${bound} of these.`;
}

z.config({ customError: refusal });

/** The issues of an error; of a choice between kinds, those of the kind that was nearest. */
export function issuesOf(error: { issues: readonly z.core.$ZodIssue[] }): z.core.$ZodIssue[] {
  return error.issues.flatMap((issue) => {
    if (issue.code !== 'invalid_union') return issue;
    const kinds = [...issue.errors].sort((a, b) => depthOf(b) - depthOf(a) || a.length - b.length);
    return issuesOf({ issues: kinds[0] ?? [] }).map((one) => ({
      ...one,
      path: [...issue.path, ...one.path],
    }));
  });
}

const depthOf = (issues: readonly z.core.$ZodIssue[]): number =>
  Math.max(0, ...issues.map((one) => one.path.length + (one.message === 'This is missing.' ? -1 : 0)));
