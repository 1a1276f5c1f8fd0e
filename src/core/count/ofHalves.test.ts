/** A split bank with a charger across each half, and a shunt in the lead of the lower half. */

import { timelineOf } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import type { CounterLog } from './counterLog';
import { asLowestHalf, withoutOtherHalf } from './ofHalves';
import type { Share } from './shares';

const sources = [
  { id: 'low', across: 'lower' },
  { id: 'high', across: 'upper' },
  { id: 'sun', across: 'bank' },
] as const;
const share = (id: string, of: number): Share => ({ id, kind: 'source', share: of, error: 0.03, steps: 20 });
const idsOf = (...shares: Share[]) => withoutOtherHalf({ sources }, shares).map(({ id }) => id);

describe('shares of the chargers of halves', () => {
  test('the charger of the other half never passes the shunt: that it is not seen is no fault', () => {
    expect(idsOf(share('low', 1), share('high', 0))).toEqual(['low']);
    expect(idsOf(share('high', 0.02))).toEqual([]);
  });

  test('where neither is seen, both bypass it', () => {
    expect(idsOf(share('low', 0), share('high', 0.01))).toEqual(['low', 'high']);
  });

  test('a charger across the whole bank is judged as ever', () => {
    expect(idsOf(share('low', 1), share('sun', 0))).toEqual(['low', 'sun']);
  });
});

describe('volts by the half that stands lower', () => {
  const time = Float64Array.from({ length: 60 }, (_, i) => i * 60_000);
  const column = (of: number) => new Float32Array(time.length).fill(of);
  const log: CounterLog = {
    device: 'monitor',
    time,
    amps: column(-1.2),
    ampsAreItsOwn: true,
    volts: column(54.1),
    reading: null,
  };
  const system = {
    bank: {
      chemistry: 'gel',
      cellsInSeries: 24,
      capacityAh: 80,
      chargeVolts: { min: 55.6, max: 57.2 },
      floatVolts: { min: 54.4, max: 55.2 },
    },
    monitor: { sees: 'bank' },
    sources: [
      { id: 'low', across: 'lower' },
      { id: 'high', across: 'upper' },
    ],
  } as unknown as KnownSystem;
  const timeline = timelineOf([
    { device: 'low', time, channels: { source_voltage: column(25.4) } },
    { device: 'high', time, channels: { source_voltage: column(28.8) } },
  ]);

  test('while one half alone is charged the bank is not', () => {
    expect(asLowestHalf(system, timeline, log, column(54.1))[30]).toBeCloseTo(50.8, 4);
  });

  test('a bank that is charged as a whole is taken as it was logged', () => {
    const whole = { ...system, sources: [{ id: 'sun', across: 'bank' }] } as unknown as KnownSystem;
    expect(asLowestHalf(whole, timeline, log, column(54.1))[30]).toBeCloseTo(54.1, 4);
  });
});
