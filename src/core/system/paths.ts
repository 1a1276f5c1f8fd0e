/**
 * Places in a description by path: `sources.0.profile.floatV`. A path names what a description itself holds, never what an object or a
 * list brings along, and no list grows by a path.
 */

type Plain = Record<string, unknown>;

/** Descriptions are plain JSON. */
export const plainCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

const keysOf = (path: string | readonly string[]): readonly string[] =>
  typeof path === 'string' ? path.split('.') : path;

const isPlace = (at: unknown, key: string): boolean =>
  Array.isArray(at)
    ? /^(0|[1-9]\d{0,8})$/.test(key) && Number(key) < at.length
    : typeof at === 'object' && at !== null && Object.hasOwn(at, key);

/** What stands at a path; undefined when there is nothing. */
export function valueAt(thing: unknown, path: string | readonly string[]): unknown {
  let at: unknown = thing;
  for (const key of keysOf(path)) at = isPlace(at, key) ? (at as Plain)[key] : undefined;
  return at;
}

/**
 * A copy with another value at a path, groups made where they are missing; undefined leaves it out. Null when there is no such place:
 * an entry that a list does not have, something within a plain value, or a name that every object brings along.
 */
export function withValue<T>(thing: T, path: string, value: unknown): T | null {
  const copy = plainCopy(thing);
  const keys = [...keysOf(path)];
  const last = keys.pop()!;
  let at: unknown = copy;
  for (const key of keys) {
    if (!isPlace(at, key)) {
      if (!mayBeAdded(at, key)) return null;
      at[key] = {};
    }
    at = (at as Plain)[key];
  }
  if (!isPlace(at, last) && !mayBeAdded(at, last)) return null;
  if (value === undefined) delete (at as Plain)[last];
  else (at as Plain)[last] = value;
  return copy;
}

const mayBeAdded = (at: unknown, key: string): at is Plain =>
  typeof at === 'object' &&
  at !== null &&
  !Array.isArray(at) &&
  key !== '' &&
  !Reflect.has(Object.prototype, key);
