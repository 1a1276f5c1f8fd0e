/** Places in a description by path: `sources.0.profile.floatV`. */

type Plain = Record<string, unknown>;

/** Descriptions are plain JSON. */
export const plainCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** What stands at a path; undefined when there is nothing. */
export function valueAt(thing: unknown, path: string | readonly string[]): unknown {
  let at: unknown = thing;
  for (const key of typeof path === 'string' ? path.split('.') : path)
    at = typeof at === 'object' && at !== null ? (at as Plain)[key] : undefined;
  return at;
}

/** A copy with another value at a path, groups made where they are missing; undefined leaves it out. */
export function withValue<T>(thing: T, path: string, value: unknown): T {
  const copy = plainCopy(thing);
  const keys = path.split('.');
  const last = keys.pop()!;
  let at = copy as Plain;
  for (const key of keys) at = (at[key] ??= {}) as Plain;
  if (value === undefined) delete at[last];
  else at[last] = value;
  return copy;
}
