import { z } from 'zod';
import { DEMO_SLUGS, demoSystem } from '../simulate/demo';
import { FIELDS, fieldAt, unusual } from './fields';
import { systemSchema } from './schema';

/** Paths of every leaf of a schema, with `*` for the place in a list. */
function leaves(schema: z.ZodType, path: string[] = []): string[] {
  if (schema instanceof z.ZodObject)
    return Object.entries(schema.shape).flatMap(([key, inner]) => leaves(inner as z.ZodType, [...path, key]));
  if (schema instanceof z.ZodArray) return leaves(schema.element as z.ZodType, [...path, '*']);
  if (schema instanceof z.ZodOptional || schema instanceof z.ZodNullable || schema instanceof z.ZodDefault)
    return leaves(schema.unwrap() as z.ZodType, path);
  return [path.join('.')];
}

test('each field of a description has a name, and each name a field', () => {
  const wanted = leaves(systemSchema).filter((path) => !path.startsWith('schools.') && !path.endsWith('.id'));
  expect(Object.keys(FIELDS).sort()).toEqual(wanted.sort());
});

test('a field is found by its place in a list; an unknown path is told', () => {
  expect(fieldAt('sources.3.profile.floatV').label).toBe('Float voltage');
  expect(() => fieldAt('sources.3.colour')).toThrow('There is no field "sources.3.colour".');
});

test('beyond what is usual there is a warning with the figures; within it, or unknown, nothing', () => {
  const { system } = demoSystem('harbour-office');
  expect(unusual('bank.chargeVolts.max', 28.6, system)).toBeNull();
  expect(unusual('bank.chargeVolts.max', 14.4, system)).toBe(
    'Unusual: 27.8 to 28.6 V would be expected here. Check it; it is kept as you wrote it.',
  );
  expect(unusual('monitor.capacityAh', 1200, system)).toMatch(/84 to 132 Ah/);
  expect(unusual('monitor.capacityAh', 1200, { ...system, bank: {} })).toBeNull();
  expect(unusual('sources.0.kind', 3, system)).toBeNull();
});

test('the harbour office, which is in order, has nothing unusual', () => {
  const { system } = demoSystem('harbour-office');
  const walk = (thing: unknown, path: string): string[] =>
    typeof thing === 'number'
      ? [unusual(path, thing, system)].flatMap((one) => (one ? [`${path}: ${one}`] : []))
      : typeof thing === 'object' && thing !== null
        ? Object.entries(thing).flatMap(([key, value]) => walk(value, path ? `${path}.${key}` : key))
        : [];
  expect(walk(system, '')).toEqual([]);
});

describe('the sentences of the schema', () => {
  const sentence = (path: string, value: unknown): string => {
    const copy = structuredClone(demoSystem('vaccine-cold-room').system) as unknown as Record<
      string,
      unknown
    >;
    const keys = path.split('.');
    const last = keys.pop()!;
    const parent = keys.reduce<Record<string, unknown>>(
      (at, key) => at[key] as Record<string, unknown>,
      copy,
    );
    parent[last] = value;
    const parsed = systemSchema.safeParse(copy);
    return parsed.success ? '' : parsed.error.issues.map((one) => one.message).join(' ');
  };
  test.each([
    ['bank.capacityAh', 'about 200', /^“about 200” is not a number: write it like 14\.4\.$/],
    ['bank.capacityAh', 0, /^This must be above 0\.$/],
    ['bank.cellsInSeries', 7.5, /whole number/],
    ['bank.installedOn', '18.2.2025', /year-month-day/],
    ['bank.installedOn', '2025-02-30', /year-month-day/],
    ['monitor.efficiencyPercent', 140, /^This lies between 1 and 100 %\.$/],
    ['monitor.peukert', 0.9, /^This lies between 1 and 2\.$/],
    ['sources.0.name', '  ', /^Give it a name\.$/],
    ['timeZone', 'Mirtane', /“Mirtane” is not a time zone; use a name such as “Europe\/Rome”\./],
    ['site.coldestC', 40, /colder|coldest is warmer/i],
    ['loads.0.hoursPerDay', 30, /^This lies between 0 and 24 h\.$/],
  ])('%s = %p', (path, value, text) => {
    expect(sentence(path, value)).toMatch(text);
  });
  test('every fact may be left out', () => {
    for (const slug of DEMO_SLUGS) {
      const { system } = demoSystem(slug);
      expect(systemSchema.safeParse({ ...system, bank: {}, monitor: {}, bms: {}, site: {} }).success).toBe(
        true,
      );
    }
  });
});
