import type { Against } from './againstBms';
import type { Meters } from './meters';
import type { Share } from './shares';
import { isTurned, wrongOf } from './trueCurrent';

const source = (id: string, share: number, error: number): Share => ({
  id,
  kind: 'source',
  share,
  error,
  steps: 20,
});
const bms = (slope: number): Against => ({
  slope,
  slopeError: 0.01,
  offsetA: 2,
  offsetError: 0.1,
  comesAndGoes: 0,
  hours: null,
});
const meters = (shares: Share[], against: Against | null = null) =>
  ({
    shares,
    bms: against,
    means: [],
    whileIdle: null,
    voltageFollows: { correlation: NaN, steps: 0, chargingV: NaN, drawingV: NaN, bothHours: 0 },
  }) as unknown as Meters;
const system = { sources: [], loads: [] };
const gain = (shares: Share[], against?: Against) => wrongOf(meters(shares, against), system).gain;

describe('the ratio of the monitor’s current', () => {
  test('is wrong only beyond its error', () => {
    expect(gain([source('a', 0.87, 0.07)])).toBe(1);
    expect(gain([source('a', 0.67, 0.02)])).toBe(0.67);
    // Open as it is, twice the current is no good meter's; six tenths may be.
    expect(gain([source('a', 2, 0.23)])).toBe(2);
    expect(gain([source('a', 0.6, 0.23)])).toBe(1);
    expect(gain([], bms(0.5))).toBe(0.5);
    expect(gain([], bms(0.875))).toBe(1);
  });

  test('what it shows of a charger goes before the BMS: a load that it does not see looks like a ratio there', () => {
    expect(gain([source('a', 1.02, 0.01)], bms(0.84))).toBe(1);
    expect(gain([source('a', 0.6, 0.02)], bms(0.62))).toBe(0.62);
  });

  test('is the same for all sources, or it is none', () => {
    expect(gain([source('a', 0.6, 0.02), source('b', 0.62, 0.05)])).toBe(0.6);
    expect(gain([source('a', 0.6, 0.02), source('b', 2, 0.05)])).toBe(1);
  });
});

describe('a sensor that is turned round', () => {
  const turned = (...shares: Share[]) => isTurned(meters(shares));
  test('shows one source against its current and no other plainly along it', () => {
    expect(turned(source('a', -0.65, 0.1))).toBe(true);
    expect(turned(source('a', -0.65, 0.1), source('b', -0.11, 0.25))).toBe(true);
    expect(turned(source('a', -0.65, 0.1), source('b', 0.9, 0.1))).toBe(false);
    expect(turned(source('a', -0.65, 0.1), source('b', 0.02, 0.05))).toBe(false);
    expect(turned(source('a', -0.11, 0.25))).toBe(false);
  });

  test('calls it a discharge where the battery stands a volt a block higher, for hours, and a charge where it stands lower', () => {
    const by = (correlation: number, drawingV: number, steps = 250, bothHours = 10) =>
      isTurned({
        ...meters([]),
        voltageFollows: { correlation, steps, chargingV: 50.6, drawingV, bothHours },
      });
    expect(by(-0.4, 57.4)).toBe(true);
    expect(by(-0.4, 53)).toBe(false);
    expect(by(-0.1, 57.4)).toBe(false);
    expect(by(-0.4, 57.4, 10)).toBe(false);
    expect(by(-0.4, 57.4, 250, 0.5)).toBe(false);
    // Close steps need no levels.
    expect(by(-0.8, 53, 10)).toBe(true);
  });

  test('shows loads as a charge while no charger gives, and what chargers give as drawn, where the voltage does not speak against it', () => {
    const by = (amps: number, share: number, drawingV = 14.1) =>
      isTurned({
        ...meters([source('a', -1.1, 0.5)]),
        whileIdle: { hours: 40, amps, share },
        voltageFollows: { correlation: NaN, steps: 0, chargingV: 12.6, drawingV, bothHours: 10 },
      });
    expect(by(0.4, -1)).toBe(true);
    expect(by(-0.4, -1)).toBe(false);
    expect(by(0.4, 0)).toBe(false);
    // Clocks that are half a day apart show that too, but then what it calls a charge stands higher.
    expect(by(0.4, -1, 12.3)).toBe(false);
  });
});
