/** A charger that gives less than its plate: charges set down by hand. */

import type { SourceCharging, Stage } from '../charge/types';
import { HOUR } from '../quantity/span';
import { sourceDerated } from './source-derated';
import { agm, charge, lithium, seen, source, stage, sumOf } from '../../../tests/support/drawnCharges';

/** Five bulks of a source of which only the battery's current is known. */
const bulks = (hours: number, bulkAmps: number, endAmps = bulkAmps, cellMs = 60_000, afterAmps = NaN) =>
  ({
    source,
    bank: agm,
    cellMs,
    limits: [],
    charges: Array.from({ length: 5 }, () =>
      charge([stage({ stage: 'bulk', to: hours * HOUR, endAmps, volts: 13 })], undefined, afterAmps),
    ),
    bulkAmps,
    knowsOwnAmps: false,
  }) as unknown as SourceCharging;

test('a small charger is told by the battery’s current and the loads; one at its rating is cleared', () => {
  const sum = (amps: number) =>
    sourceDerated.weigh!(seen([bulks(3, amps)])).reduce((total, one) => total + one.decibans, 0);
  expect(sum(6)).toBeGreaterThan(12);
  expect(sum(17.5)).toBeLessThan(-8);
  // A log that is written every two hours has one sample of such a bulk: it may be the climb to the end.
  expect(sourceDerated.weigh!(seen([bulks(3, 6, 6, 2 * HOUR)]))).toEqual([]);
});

test('a charger that gives a third of its plate in long bulks, and never comes to a held voltage, is told though no limit shows', () => {
  const bulk = (stages: Stage[]) =>
    ({
      source,
      bank: agm,
      limits: [],
      charges: Array.from({ length: 4 }, () => charge(stages)),
      bulkAmps: 6,
      knowsOwnAmps: true,
    }) as unknown as SourceCharging;
  const long = stage({ stage: 'bulk', endAmps: 6, volts: 13.2 });
  const sum = (stages: Stage[]) =>
    sourceDerated.weigh!(seen([bulk(stages)])).reduce((total, one) => total + one.decibans, 0);
  expect(sum([long])).toBeGreaterThan(12);
  // What it gave at times, if only until the voltage was reached, it has to give.
  const short = stage({ stage: 'bulk', to: HOUR / 3, usualSourceAmps: 19, volts: 14 });
  expect(sum([short, long])).toBeLessThan(0);
  // What holds a voltage gives less than it could.
  expect(sum([long, stage({ stage: 'absorption', volts: 14.4 })])).toBe(0);
});

test('a charger that falls to a third within each long bulk fades, though no limit shows on the flat part of lithium', () => {
  const bulk = (usualSourceAmps: number, endSourceAmps = usualSourceAmps) =>
    ({
      source,
      bank: lithium,
      limits: [],
      charges: Array.from({ length: 4 }, () =>
        charge([stage({ stage: 'bulk', volts: 13.2, usualSourceAmps, endSourceAmps })]),
      ),
      bulkAmps: 19.6,
      knowsOwnAmps: true,
    }) as unknown as SourceCharging;
  const falls = (one: SourceCharging) => sumOf(sourceDerated.weigh!(seen([one], lithium)), 'falls');
  expect(falls(bulk(6.5))).toBeGreaterThan(12);
  expect(falls(bulk(19))).toBe(0);
  // So little only feeds the loads.
  expect(falls(bulk(3))).toBe(0);
  // A current that goes on falling is a battery that fills.
  expect(falls(bulk(6.5, 2))).toBe(0);
});

test('seen through the battery alone, the moment of a climb and a battery that fills show no small charger', () => {
  const weigh = (one: SourceCharging) => sumOf(sourceDerated.weigh!(seen([one])));
  expect(weigh(bulks(0.03, 5, 5))).toBe(0);
  expect(weigh(bulks(3, 17, 0.5))).toBeLessThan(0);
  expect(weigh(bulks(3, 17, 8))).toBeGreaterThan(8);
  // What the battery gave once the charger was away had come on during the charge: the charger gave as much as before.
  expect(weigh(bulks(3, 17, 8, undefined, -11))).toBeLessThan(0);
  expect(weigh(bulks(3, 17, 8, undefined, -3))).toBeGreaterThan(8);
});
