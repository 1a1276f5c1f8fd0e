import { restPercent } from '../system/restVoltage';
import { LEAD_SETTINGS } from '../../../tests/support/counterSettings';
import { HOUR } from '../quantity/span';
import { replayAs } from './kinds';
import type { CounterSettings } from './settings';
import { summed } from './summed';
import type { CounterLog } from './counterLog';
import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';

const MINUTE = 60_000;
const settings: CounterSettings = { ...LEAD_SETTINGS, efficiencyPercent: 100, peukert: 1 };

/** So many minutes of current and voltage. */
function drawn(minutes: number, at: (minute: number) => [amps: number, volts: number]) {
  const time = new Float64Array(minutes).map((_, i) => i * MINUTE);
  const amps = new Float32Array(minutes).map((_, i) => at(i)[0]);
  const volts = new Float32Array(minutes).map((_, i) => at(i)[1]);
  return { time, amps, volts };
}

describe('a reading made from the voltage', () => {
  const by = { by: 'voltage', chemistry: 'flooded', blocks: 2 } as const;

  test('comes to what a rested battery has at that voltage', () => {
    const { reading, syncs } = replayAs(
      by,
      drawn(120, () => [0, 24.8]),
      settings,
      20,
    );
    expect(reading[0]).toBe(20);
    expect(reading[119]).toBeCloseTo(restPercent('flooded', 12.4), 3);
    expect(syncs).toEqual([]);
  });

  test('jumps with a load, though hardly anything is taken out', () => {
    const { reading } = replayAs(
      by,
      drawn(60, (i) => (i < 30 ? [0, 25.2] : [-20, 24.2])),
      settings,
      90,
    );
    expect(reading[29]! - reading[40]!).toBeGreaterThan(25);
    // A count goes down by 20 A over ten minutes of 100 Ah.
    const count = replayAs(
      { by: 'count' },
      drawn(60, (i) => (i < 30 ? [0, 25.2] : [-20, 24.2])),
      settings,
      90,
    );
    expect(count.reading[29]! - count.reading[40]!).toBeCloseTo(3.5, 1);
  });

  test('stands still where no voltage was logged', () => {
    const log = { ...drawn(10, () => [0, NaN]) };
    expect([...replayAs(by, log, settings, 55).reading]).toEqual(new Array(10).fill(55));
  });
});

describe('a charger’s own count', () => {
  // Ten hours of 5 A in; at its charged voltage with no current from the third hour on.
  const log = drawn(600, (i) => (i < 180 ? [5, 13.5] : [0, 14.4]));

  test('is set at each end of bulk, and by no charged voltage', () => {
    const kind = { by: 'charger', ends: [2 * HOUR, 8 * HOUR], percent: 80 } as const;
    const { reading, syncs } = replayAs(kind, log, settings, 30);
    expect(reading[119]).toBeCloseTo(30 + (5 * 119) / 60, 1);
    expect(reading[120]).toBeCloseTo(80, 0);
    expect(reading[479]).toBeCloseTo(85, 1);
    expect(reading[480]).toBeCloseTo(80, 1);
    expect(syncs).toEqual([]);
    // The same log by a sensor of its own is synchronised.
    expect(replayAs({ by: 'count' }, log, settings, 30).syncs).toHaveLength(1);
  });

  test('ends before the log began set nothing; several between two samples set it once', () => {
    const kind = { by: 'charger', ends: [-HOUR, 2 * HOUR + 1, 2 * HOUR + 2], percent: 80 } as const;
    const { reading } = replayAs(kind, log, settings, 30);
    expect(reading[1]).toBeLessThan(31);
    expect(reading[121]).toBeCloseTo(80, 0);
    expect(reading[599]).toBeCloseTo(85, 0);
  });
});

describe('currents of several devices', () => {
  const time = new Float64Array(10).map((_, i) => i * MINUTE);
  const of = (device: string, channel: 'source_current' | 'load_current', amps: number): Series => ({
    device,
    time,
    channels: { [channel]: new Float32Array(10).fill(amps) },
  });
  const timeline = timelineOf([
    of('sun', 'source_current', 12),
    of('mains', 'source_current', 5),
    of('pump', 'load_current', 7),
  ]);
  const system = {
    sources: [
      { id: 'sun', name: 'Sun', kind: 'solar' as const, counted: true },
      { id: 'mains', name: 'Mains', kind: 'mains' as const, counted: true },
    ],
    loads: [{ id: 'pump', name: 'Pump', counted: true }],
  } as unknown as Parameters<typeof summed>[0];
  const log: CounterLog = {
    device: 'monitor',
    time,
    amps: new Float32Array(10).fill(9.5),
    ampsAreItsOwn: true,
    volts: null,
    reading: null,
  };
  const amps = (given: string[], less: string[]) =>
    summed(system, timeline, log, { of: given, less })?.amps[5] ?? null;

  test('are added, those of others taken away', () => {
    expect(amps(['monitor'], [])).toBeCloseTo(9.5);
    expect(amps(['sun', 'mains'], ['pump'])).toBeCloseTo(10);
    expect(amps(['monitor'], ['sun'])).toBeCloseTo(-2.5);
  });

  test('a device without a log of its current cannot be counted', () => {
    expect(amps(['sun', 'wind'], [])).toBeNull();
    expect(amps(['monitor'], ['wind'])).toBeNull();
  });
});
