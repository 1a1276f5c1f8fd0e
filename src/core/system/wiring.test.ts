import { DEMO_SLUGS, demoSystem } from '../simulate/demo';
import type { System } from './schema';
import { clampBalance, coverageOf, layWiring, trustedPercentages } from './wiring';

const { system: coldRoom } = demoSystem('vaccine-cold-room');
const { system: harbour } = demoSystem('harbour-office');

describe('the schematic', () => {
  test.each(DEMO_SLUGS)('%s: each device stands somewhere of its own and is joined', (slug) => {
    const { system } = demoSystem(slug);
    const { nodes, wires, columns } = layWiring(system);
    const places = nodes.map((one) => `${one.column}/${one.row}`);
    expect(new Set(places).size).toBe(places.length);
    for (const { column } of nodes) expect(column).toBeLessThan(columns);
    const ids = new Set(nodes.map((one) => one.id));
    for (const device of [...system.sources, ...system.loads]) {
      expect(ids.has(device.id)).toBe(true);
      expect(wires.filter((one) => one.device === device.id)).toHaveLength(1);
    }
    for (const wire of wires) expect([ids.has(wire.from), ids.has(wire.to)]).toEqual([true, true]);
  });

  test('what is not counted stands on the battery’s side of the shunt', () => {
    const { nodes, wires } = layWiring(coldRoom);
    expect(wires.find((one) => one.device === 'second')).toMatchObject({ to: 'battery', counted: false });
    expect(wires.find((one) => one.device === 'mains')).toMatchObject({ to: 'bus', counted: true });
    const column = (id: string) => nodes.find((one) => one.id === id)!.column;
    expect(column('second')).toBeLessThan(column('sensor'));
    expect(column('mains')).toBeGreaterThan(column('sensor'));
  });

  test('without a monitor there is no sensor, and nothing stands on the post', () => {
    const plain: System = { ...coldRoom };
    delete plain.monitor;
    const { nodes, wires } = layWiring(plain);
    expect(nodes.some((one) => one.kind === 'sensor')).toBe(false);
    expect(wires.filter((one) => one.device).every((one) => one.to === 'bus')).toBe(true);
  });

  test('chargers of halves go to their half', () => {
    const halves: System = {
      ...harbour,
      sources: [
        { ...harbour.sources[0]!, across: 'lower' },
        { ...harbour.sources[0]!, id: 'other', across: 'upper' },
      ],
    };
    const { nodes, wires } = layWiring(halves);
    expect(nodes.filter((one) => one.kind === 'half').map((one) => one.id)).toEqual(['upper', 'lower']);
    expect(wires.find((one) => one.device === 'mains')!.to).toBe('lower');
    expect(wires.find((one) => one.device === 'other')!.to).toBe('upper');
  });
});

test('coverage lists sources, then loads, with their clamp readings', () => {
  expect(coverageOf(coldRoom, { clampA: { second: 12.5 } })).toEqual([
    { id: 'mains', name: 'Mains charger', kind: 'source', counted: true, clampA: null },
    { id: 'second', name: 'Second charger', kind: 'source', counted: false, clampA: 12.5 },
    { id: 'inverter', name: 'Cold room inverter', kind: 'load', counted: true, clampA: null },
  ]);
});

describe('which percentage can be trusted', () => {
  const verdicts = (system: System) => trustedPercentages(system).map(({ who, verdict }) => [who, verdict]);
  test('BMS before shunt; a shunt that misses a charger is not trusted', () => {
    expect(verdicts(coldRoom)).toEqual([
      ['BMS', 'yes'],
      ['Monitor', 'no'],
    ]);
    expect(verdicts(harbour)).toEqual([['Monitor', 'yes']]);
  });
  test('not known is neither', () => {
    const unsure = { ...harbour, loads: harbour.loads.map((one) => ({ ...one, counted: null })) };
    expect(verdicts(unsure)).toEqual([['Monitor', 'with care']]);
  });
  test('an inverter’s own count, and a reading from voltage', () => {
    const of = (method: 'voltage' | 'source-count') => ({
      ...harbour,
      monitor: { ...harbour.monitor!, method },
    });
    expect(verdicts(of('voltage'))).toEqual([['Monitor', 'no']]);
    expect(verdicts(of('source-count'))).toEqual([['Inverter', 'with care']]);
  });
});

describe('clamp readings', () => {
  const balance = (clampA: Record<string, number>) => clampBalance(coldRoom, { clampA });
  test('nothing is said until each conductor has a reading', () => {
    expect(balance({ battery: 20, mains: 30 })).toBeNull();
  });
  test('they add up within what a clamp meter can tell', () => {
    const found = balance({ battery: 28.4, mains: 30, second: 12, inverter: 13 })!;
    expect(found.remainder).toBeCloseTo(0.6, 9);
    expect(found.adds).toBe(true);
    expect(found.text).toMatch(
      /42\.0 A from sources, less 13\.0 A to loads, against 28\.4 A into the battery: they add up/,
    );
  });
  test('left over: something draws between sources and battery', () => {
    const found = balance({ battery: 20, mains: 30, second: 12, inverter: 13 })!;
    expect(found.remainder).toBeCloseTo(9, 9);
    expect(found.text).toMatch(/9\.0 A are left over\. Something draws them/);
  });
  test('too much: a source that is not on the list', () => {
    expect(balance({ battery: 35, mains: 30, second: 12, inverter: 13 })!.text).toMatch(
      /6\.0 A more go in than come from the sources/,
    );
  });
  test('a clamp the wrong way round leaves twice its reading', () => {
    expect(balance({ battery: -29, mains: 30, second: 12, inverter: 13 })!.text).toMatch(
      /wrong way round on the battery’s conductor: 58\.0 A is twice its reading/,
    );
    expect(balance({ battery: 29, mains: 30, second: -12, inverter: 13 })!.text).toMatch(
      /wrong way round on Second charger/,
    );
  });
});
