/** Values that a schema lets in, and the same bent out of shape: made from the schema itself, so that a new door brings its own tests. */

import fc from 'fast-check';
import type { z } from 'zod';

interface Def {
  type: string;
  [key: string]: unknown;
}
const defOf = (schema: z.ZodType): Def => (schema as unknown as { def: Def }).def;

interface Bounds {
  minimum?: number;
  maximum?: number;
  pattern?: RegExp;
  format?: string;
}
const boundsOf = (schema: z.ZodType): Bounds =>
  (schema as unknown as { _zod: { bag: Bounds & { patterns?: Set<RegExp> } } })._zod.bag;

/** Texts of known shapes; what a pattern asks for beyond these is given by `known`. */
const SHAPES: [RegExp, fc.Arbitrary<string>][] = [
  [/\[0-9a-f-\]\{36\}|0-9a-fA-F\]\{8\}/, fc.uuid()],
  [/\^\\d\{4\}-\\d\{2\}-\\d\{2\}\$$/, fc.constantFrom('2026-10-19', '1999-12-31', '2024-02-29')],
  [/\^\\d\{4\}-\\d\{2\}-\\d\{2\}/, fc.constantFrom('2026-10-19T08:30:00Z', '2026-10-19')],
  [/\^\[a-z0-9\]/, fc.constantFrom('monitor', 'mains', 'solar-1', 'joints')],
  [/\^\\d\{1,15\}/, fc.nat(10_000).map(String)],
];

/** What a schema lets in. @param known values for places whose rules are code: time zones, paths of settings */
export function valid(
  schema: z.ZodType,
  known: ReadonlyMap<string, fc.Arbitrary<unknown>>,
  key = '',
): fc.Arbitrary<unknown> {
  const given = known.get(key);
  if (given) return given;
  const def = defOf(schema);
  const inner = (one: unknown, name = key) => valid(one as z.ZodType, known, name);
  switch (def.type) {
    case 'object':
      return fc.record(
        Object.fromEntries(
          Object.entries(def.shape as Record<string, z.ZodType>).map(([name, one]) => [
            name,
            inner(one, name),
          ]),
        ),
        {
          requiredKeys: Object.entries(def.shape as Record<string, z.ZodType>).flatMap(([name, one]) =>
            one.safeParse(undefined).success ? [] : [name],
          ),
        },
      );
    case 'array':
      return fc.array(inner(def.element), {
        maxLength: 4,
        minLength: Math.min(4, boundsOf(schema).minimum ?? 0),
      });
    case 'record':
      return fc.dictionary(fc.constantFrom('mains', 'monitor', 'battery', 'joints'), inner(def.valueType), {
        maxKeys: 3,
      });
    case 'optional':
    case 'default':
    case 'nullable':
      return fc.option(inner(def.innerType), { nil: def.type === 'nullable' ? null : undefined });
    case 'pipe':
      return inner(defOf(def.in as z.ZodType).type === 'transform' ? def.out : def.in);
    case 'union':
      return fc.oneof(...(def.options as z.ZodType[]).map((one) => inner(one)));
    case 'enum':
      return fc.constantFrom(...Object.values(def.entries as Record<string, string>));
    case 'literal':
      return fc.constantFrom(...(def.values as unknown[]));
    case 'boolean':
      return fc.boolean();
    case 'null':
      return fc.constant(null);
    case 'number': {
      const { minimum = 0, maximum = 100, format } = boundsOf(schema);
      const low = Math.max(minimum, -1000);
      const high = Math.min(maximum, Math.max(low + 1, 1000));
      return format === 'safeint'
        ? fc.integer({ min: Math.ceil(low), max: Math.floor(high) })
        : fc.double({ min: low, max: high, noNaN: true });
    }
    case 'string': {
      const patterns = [...((boundsOf(schema) as { patterns?: Set<RegExp> }).patterns ?? [])];
      const shape = SHAPES.find(([of]) => patterns.some((one) => of.test(one.source)));
      return shape
        ? shape[1]
        : fc.string({ minLength: 1, maxLength: 30, unit: 'grapheme' }).map((text) => `x${text}`);
    }
    default:
      return fc.constant(undefined);
  }
}

/** What nobody should send. */
export const HOSTILE: readonly unknown[] = [
  null,
  '',
  ' ',
  '\0',
  '\ud800',
  '\u202Edesrever',
  '\u200b',
  'constructor',
  '__proto__',
  '../../etc/passwd',
  "'; drop table jobs; --",
  '<script>alert(1)</script>',
  '=1+1',
  'x'.repeat(5000),
  'tomorrow',
  '9999-99-99',
  -1,
  0,
  1.5,
  1e300,
  -1e300,
  2 ** 53,
  true,
  [],
  {},
  [[[[[[[[[[[[[[[[[[[[[[[[[[[[[]]]]]]]]]]]]]]]]]]]]]]]]]]]]],
  Array(2000).fill('undercharging'),
  { constructor: 1, toString: 2 },
  JSON.parse('{"__proto__":{"polluted":true}}'),
];

interface Stroke {
  at: number;
  how: 'replace' | 'drop' | 'add' | 'wrap';
  by: unknown;
}

const strokes = fc.array(
  fc.record({
    at: fc.nat(200),
    how: fc.constantFrom(
      'replace' as const,
      'replace' as const,
      'drop' as const,
      'add' as const,
      'wrap' as const,
    ),
    by: fc.constantFrom(...HOSTILE),
  }),
  { minLength: 0, maxLength: 4 },
);

/** Every place in a value, as what holds it and its key there. */
function placesOf(value: unknown, places: [Record<string, unknown>, string][] = []): typeof places {
  if (typeof value !== 'object' || value === null) return places;
  for (const key of Object.keys(value)) {
    places.push([value as Record<string, unknown>, key]);
    placesOf((value as Record<string, unknown>)[key], places);
  }
  return places;
}

function bent(value: unknown, list: readonly Stroke[]): unknown {
  const root = { value: structuredClone(value) };
  for (const { at, how, by: given } of list) {
    const by = structuredClone(given);
    const places = placesOf(root);
    const place = places[at % places.length];
    // Everything was dropped.
    if (!place) break;
    const [holder, key] = place;
    if (how === 'drop') delete holder[key];
    else if (how === 'add') holder[typeof by === 'string' ? by.slice(0, 40) : 'extra'] = by;
    else holder[key] = how === 'wrap' ? [holder[key]] : by;
  }
  return root.value;
}

/** Values that a schema lets in, mostly bent. */
export const hostile = (
  schema: z.ZodType,
  known: ReadonlyMap<string, fc.Arbitrary<unknown>>,
): fc.Arbitrary<unknown> => fc.tuple(valid(schema, known), strokes).map(([value, list]) => bent(value, list));
