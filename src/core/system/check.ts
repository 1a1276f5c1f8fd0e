/** Checks a description that a form or a request brings; the browser and the server say the same sentences. */

import type { z } from 'zod';
import { plainCopy, valueAt } from './paths';
import { issuesOf } from './refusals';

/** Path of a field, `sources.0.ratedA`, to what is wrong with it. */
export type Problems = Record<string, string>;

/** One sentence a field, the first that was found there. */
export function problemsOf(error: z.ZodError): Problems {
  const seen = new Map<string, string>();
  for (const issue of issuesOf(error)) {
    const path = issue.path.map(String).join('.');
    if (!seen.has(path))
      seen.set(path, issue.code === 'invalid_value' ? 'Choose one of the list.' : issue.message);
  }
  return Object.fromEntries(seen);
}

type Plain = Record<string, unknown>;

/**
 * The part of a value that can be kept: each field with a problem is put back to what it was, or left out, until the rest passes.
 * @param before the last value that passed @returns null when not even that helps
 */
export function keepable<T>(schema: z.ZodType<T>, value: unknown, before: T): T | null {
  const kept = plainCopy(value);
  for (let round = 0; round < 50; round++) {
    const parsed = schema.safeParse(kept);
    if (parsed.success) return parsed.data;
    for (const issue of parsed.error.issues) {
      const path = issue.path.map(String);
      // First the field as it was; if that was no better, the field left out; then the group around it.
      if (round < 1 && putBack(kept, path, before)) continue;
      leaveOut(kept, round < 3 ? path : path.slice(0, -1));
    }
  }
  return null;
}

const groupAt = (thing: unknown, path: string[]): Plain | undefined => {
  const at = valueAt(thing, path);
  return typeof at === 'object' && at !== null ? (at as Plain) : undefined;
};

function putBack(kept: unknown, path: string[], before: unknown): boolean {
  const parent = groupAt(kept, path.slice(0, -1));
  const last = path.at(-1);
  const was = last === undefined ? undefined : groupAt(before, path.slice(0, -1))?.[last];
  if (!parent || last === undefined || was === undefined) return false;
  parent[last] = plainCopy(was);
  return true;
}

function leaveOut(kept: unknown, path: string[]): void {
  const parent = groupAt(kept, path.slice(0, -1));
  const last = path.at(-1);
  if (!parent || last === undefined) return;
  if (Array.isArray(parent)) parent.splice(Number(last), 1);
  else delete parent[last];
}

/** Groups that are there although nothing in them is known: a monitor of unknown settings is a monitor. */
const STANDING_GROUPS = new Set(['bank', 'monitor', 'bms', 'system', 'job']);

/**
 * What a form holds, without what was left empty: texts of nothing but spaces, holes, and groups with nothing in them.
 * @param key name under which the value stands
 */
export function withoutBlanks(value: unknown, key = ''): unknown {
  if (Array.isArray(value)) return value.map((one) => withoutBlanks(one) ?? {});
  if (typeof value === 'string') return value.trim() === '' ? undefined : value;
  if (typeof value !== 'object' || value === null) return value;
  const kept = Object.entries(value).flatMap(([name, inner]) => {
    const rest = withoutBlanks(inner, name);
    return rest === undefined ? [] : [[name, rest] as const];
  });
  return kept.length > 0 || STANDING_GROUPS.has(key) || key === '' ? Object.fromEntries(kept) : undefined;
}
