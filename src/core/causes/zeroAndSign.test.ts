/** How sure a zero error and a turned sensor are: figures set down by hand. */

import { agm, lithium, sumOf } from '../../../tests/support/drawnCharges';
import type { Judged } from './cause';
import { currentOffset } from './current-offset';
import { sensorReversed } from './sensor-reversed';

const judged = (counting: object) =>
  ({
    bank: agm,
    system: {
      bank: agm,
      monitor: { method: 'shunt' },
      sources: [{ name: 'Charger', counted: true }],
      loads: [],
    },
    counting: { wrong: { gain: 1, unseen: [] }, logged: { from: 0, to: 1 }, ...counting },
  }) as unknown as Judged;

const noMeters = { bms: null, atFloat: null, shares: [], unseen: null, whileIdle: null };

describe('a zero that is left over from one known state to the next', () => {
  // 0.5 A of 100 Ah, with e⁸ to one for it.
  const ledger = (deviation: number) =>
    sumOf(
      currentOffset.weigh!(
        judged({
          meters: noMeters,
          offsetA: { value: 0.5, deviation },
          favours: { offset: 8, capacity: 0 },
          anchors: { full: 5 },
          intervals: [],
          behaves: null,
        }),
      ),
      'ledger',
    );
  test('is one where it is well known', () => expect(ledger(0.1)).toBeGreaterThan(12));
  test('may be none where it may be nothing just as well', () => expect(ledger(0.3)).toBeLessThan(4));
});

test('what is more than a zero is usually off by says less where all pass the sensor: nothing else would show so', () => {
  const tooMuch = (counted: boolean | null) => {
    const one = judged({
      meters: noMeters,
      offsetA: { value: 1.2, deviation: 0.1 },
      favours: { offset: 8, capacity: 0 },
      anchors: { full: 5 },
      intervals: [],
      behaves: null,
    });
    one.system.sources[0]!.counted = counted;
    return sumOf(currentOffset.weigh!(one), 'too-much');
  };
  expect(tooMuch(null)).toBeLessThan(-4);
  expect(tooMuch(true)).toBeCloseTo(tooMuch(null) / 2, 6);
});

test('a charger that plainly flows the other way turns the sensor round, however open by how much', () => {
  const other = (share: number, error: number) =>
    sumOf(
      sensorReversed.weigh!(
        judged({
          meters: {
            ...noMeters,
            shares: [{ id: 'charger', kind: 'source', share, error, steps: 10 }],
            voltageFollows: { correlation: NaN, steps: 0, chargingV: NaN, drawingV: NaN, bothHours: 0 },
          },
        }),
      ),
      'other-meter',
    );
  expect(other(-1.35, 0.33)).toBeGreaterThan(12);
  expect(other(-1, 0.33)).toBe(0);
  expect(other(-0.9, 0.1)).toBeGreaterThan(12);
  expect(other(0.9, 0.1)).toBeLessThan(-10);
});

test('a current out of lead that float holds is the zero, whatever the ledger leaves open', () => {
  const group = (floatAmps: number, counted: boolean) => {
    const one = judged({
      meters: { ...noMeters, atFloat: { amps: floatAmps, error: 0.05, hours: 40, steady: true, spans: [] } },
      offsetA: { value: -0.1, deviation: 0.2 },
      favours: { offset: -1, capacity: 0 },
      anchors: { full: 9 },
      intervals: [],
      behaves: null,
    });
    one.system.sources[0]!.counted = counted;
    return sumOf(currentOffset.weigh!({ ...one, charging: [] }), 'ledger');
  };
  expect(group(-0.7, true)).toBe(0);
  expect(group(0.1, true)).toBeLessThan(0);
  expect(group(-0.7, false)).toBeLessThan(0);
});

describe('without a full charge to count from', () => {
  // 100 Ah over ten days, with a true zero error of 1 A at 240 Ah.
  const balance = (
    ampHoursIn: number,
    ampHoursOut: number,
    bank: object = agm,
    anchors: object = { flat: 10 },
  ) =>
    sumOf(
      currentOffset.weigh!({
        ...judged({
          meters: noMeters,
          through: { in: ampHoursIn, out: ampHoursOut, hours: 240 },
          offsetA: { value: -1, deviation: 0.1 },
          favours: { offset: 1, capacity: 0 },
          anchors,
          intervals: [],
          behaves: null,
        }),
        bank,
      } as Judged),
      'ledger',
    );
  test('more came out than went in and a full battery holds', () => {
    expect(balance(100, 360)).toBeGreaterThan(12);
    expect(balance(100, 190)).toBe(0);
  });
  test('more went in than came out: lithium has nowhere for it, and lead has', () => {
    expect(balance(360, 100, lithium)).toBeGreaterThan(12);
    expect(balance(360, 100)).toBe(0);
  });
  test('a full charge tells more', () => expect(balance(100, 360, agm, { full: 3 })).toBeLessThan(5));
});

test('a sensor is turned round that shows the loads of idle hours as a charge, and the charger as drawn', () => {
  const idle = (hours: number, share: number) =>
    sumOf(
      sensorReversed.weigh!(
        judged({
          meters: {
            ...noMeters,
            whileIdle: { hours, amps: 0.4, share },
            voltageFollows: { correlation: NaN, steps: 0, chargingV: 12.6, drawingV: 14.1, bothHours: 5 },
          },
        }),
      ),
    );
  expect(idle(40, -1)).toBeGreaterThan(13);
  expect(idle(2, -1)).toBeLessThan(12);
  expect(idle(40, 1)).toBe(0);
});

describe('a voltage that moves against the current', () => {
  const against = (correlation: number, steps: number) =>
    sumOf(
      sensorReversed.weigh!(
        judged({
          meters: {
            ...noMeters,
            voltageFollows: { correlation, steps, chargingV: 12.6, drawingV: 12.9, bothHours: 0 },
          },
        }),
      ),
      'voltage',
    );
  test('by two volts a block between what it calls charge and what it calls discharge it is turned', () => {
    const byLevels = (chargingV: number, drawingV: number, correlation = -0.3) =>
      sumOf(
        sensorReversed.weigh!(
          judged({
            meters: {
              ...noMeters,
              voltageFollows: { correlation, steps: 2, chargingV, drawingV, bothHours: 5 },
            },
          }),
        ),
        'levels',
      );
    expect(byLevels(12.6, 14.7)).toBeGreaterThan(13);
    expect(byLevels(12.6, 13.3)).toBeLessThan(10);
    // A charger that nobody counts holds the voltage up too, but there the steps go the right way.
    expect(byLevels(12.6, 14.7, 0.4)).toBe(0);
  });
  test('by many steps is no chance, if not closely; by few it may be', () => {
    // r = −0.7: artanh is 0.87, with a scatter of 1 in the root of n − 3 (R. A. Fisher, Metron 1, 1921).
    expect(against(-0.7, 48)).toBeGreaterThan(13);
    expect(against(-0.7, 12)).toBeLessThan(11);
    expect(against(-0.4, 400)).toBeLessThan(5);
  });
});
