import { demoSystem } from '../simulate/demo';
import { keepable, problemsOf, withoutBlanks } from './check';
import { systemSchema, type System } from './schema';

const { system } = demoSystem('fog-horn');
const typed = (change: (copy: Record<string, never>) => void): unknown => {
  const copy = structuredClone(system) as unknown as Record<string, never>;
  change(copy);
  return copy;
};
const set = (path: string, value: unknown) => (copy: unknown) => {
  const keys = path.split('.');
  const last = keys.pop()!;
  const parent = keys.reduce<Record<string, unknown>>(
    (at, key) => (at[key] ??= {}) as Record<string, unknown>,
    copy as Record<string, unknown>,
  );
  parent[last] = value;
};

test('problems go by field, with the sentence of the schema', () => {
  const parsed = systemSchema.safeParse(
    typed((copy) => {
      set('monitor.chargedV', 'high')(copy);
      set('loads.0.kind', 'pump')(copy);
      set('bank.chargeVolts', { min: 60, max: 50 })(copy);
    }),
  );
  expect(parsed.success).toBe(false);
  expect(problemsOf(parsed.error!)).toEqual({
    'monitor.chargedV': '“high” is not a number: write it like 14.4.',
    'loads.0.kind': 'Choose one of the list.',
    'bank.chargeVolts': 'The lower end of the range is above the upper end: swap them.',
  });
});

describe('what can be kept of a description that is being typed', () => {
  const kept = (change: (copy: Record<string, never>) => void) =>
    keepable<System>(systemSchema, typed(change), system)!;
  test('a field that does not pass is put back; the rest is kept as typed', () => {
    const value = kept((copy) => {
      set('monitor.chargedV', 'high')(copy);
      set('monitor.tailPercent', 3)(copy);
    });
    expect(value.monitor).toEqual({ ...system.monitor, tailPercent: 3 });
  });
  test('a field that was not there is left out', () => {
    expect(kept(set('monitor.startPercent', 'full')).monitor).toEqual(system.monitor);
  });
  test('a group that is begun is left out until it is whole', () => {
    expect(kept(set('bank.equalise', { volts: 60 })).bank).toEqual(system.bank);
    expect(kept(set('loads.1.conductor', { metres: 3 })).loads[1]).toEqual(system.loads[1]);
    expect(kept(set('site.coldestC', 80)).site).toEqual(system.site);
  });
  test('a device without a name is left out, or keeps the name it had', () => {
    expect(kept(set('loads.0.name', '')).loads[0]!.name).toBe('Fog horn');
    expect(kept(set('loads.2', { id: 'new', name: '', counted: null })).loads).toEqual(system.loads);
  });
});

test('what was left empty in a form is left out; a monitor of which nothing is known stays', () => {
  const form = {
    name: 'A ',
    bank: { capacityAh: undefined, equalise: { volts: undefined, minutes: '' }, chemistry: 'agm' },
    sources: [{ id: 'a', name: ' ', profile: { equalise: { volts: undefined } }, counted: null }],
    monitor: { chargedV: undefined },
    site: { coldestC: undefined },
    loads: [],
  };
  expect(withoutBlanks(form)).toEqual({
    name: 'A ',
    bank: { chemistry: 'agm' },
    sources: [{ id: 'a', counted: null }],
    monitor: {},
    loads: [],
  });
  expect(problemsOf(systemSchema.safeParse(withoutBlanks({ ...form, timeZone: 'UTC' })).error!)).toEqual({
    'sources.0.name': 'Give it a name.',
  });
});
