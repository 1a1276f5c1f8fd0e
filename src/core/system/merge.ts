/**
 * Two people changed the same description: what each changed is joined, and only what both changed differently is a conflict. Plain
 * data; lists of things with an id go by the id, other lists count as one value.
 */

export interface Conflict {
  /** Place in the merged value, `sources.0.profile.floatV`. */
  path: string;
  mine: unknown;
  theirs: unknown;
}

export interface Merged<T> {
  /** With theirs where both changed the same. */
  value: T;
  conflicts: Conflict[];
}

type Plain = Record<string, unknown>;
const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const isList = (value: unknown): value is ({ id: string } & Plain)[] =>
  Array.isArray(value) && value.every((one) => isPlain(one) && typeof one.id === 'string');

export function sameValue(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((one, i) => sameValue(one, b[i]));
  if (!isPlain(a) || !isPlain(b)) return false;
  // A key that is undefined is a key that is left out.
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((key) => sameValue(a[key], b[key]));
}

/** @param base what both began with */
export function mergeChanges<T>(base: T, mine: T, theirs: T): Merged<T> {
  const conflicts: Conflict[] = [];
  return { value: merge(base, mine, theirs, '', conflicts) as T, conflicts };
}

function merge(base: unknown, mine: unknown, theirs: unknown, path: string, conflicts: Conflict[]): unknown {
  if (sameValue(mine, theirs) || sameValue(mine, base)) return theirs;
  if (sameValue(theirs, base)) return mine;
  const at = (key: string | number) => (path === '' ? String(key) : `${path}.${key}`);
  if (isPlain(mine) && isPlain(theirs)) {
    const from = isPlain(base) ? base : {};
    const merged: Plain = {};
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      const value = merge(from[key], mine[key], theirs[key], at(key), conflicts);
      if (value !== undefined) merged[key] = value;
    }
    return merged;
  }
  if (isList(mine) && isList(theirs) && (base === undefined || isList(base))) {
    const find = (list: unknown, id: string) =>
      (list as { id: string }[] | undefined)?.find((one) => one.id === id);
    const ids = [...new Set([...theirs, ...mine].map((one) => one.id))];
    const merged: unknown[] = [];
    for (const id of ids) {
      const before = merged.length;
      const value = merge(find(base, id), find(mine, id), find(theirs, id), at(before), conflicts);
      if (value !== undefined) merged.push(value);
    }
    return merged;
  }
  conflicts.push({ path, mine, theirs });
  return theirs;
}
