/** Attempts to equalise, set down by hand. Only time held at the voltage counts: common practice. */

import { DAY, HOUR, MINUTE } from '../quantity/span';
import type { SourceCharging, Stage } from '../charge/types';
import { agm, charge, seen, source, stage, sumOf } from '../../../tests/support/drawnCharges';
import { equalisationOverdue } from './equalisation-overdue';

// A charger of 20 A; 15.5 V are asked for, for an hour every month, the last 200 days ago.
const asked = { volts: 15.5, minutes: 60, everyDays: 30 };
const judged = (...stages: Partial<Stage>[]) => {
  const of = seen(
    [
      {
        source,
        charges: stages.map((one) =>
          charge([stage({ stage: 'equalise', volts25: NaN, holdingMs: HOUR, usualSourceAmps: 8, ...one })]),
        ),
      } as SourceCharging,
    ],
    { ...agm, chemistry: 'flooded', equalise: { ...asked, lastOn: '2026-01-01' } },
  );
  const openedAt = new Date(Date.parse('2026-01-01') + 200 * DAY).toISOString();
  return equalisationOverdue.described!({ ...of, job: { ...of.job, openedAt }, rounds: [] });
};

test('held for its time, it is done, and the date of the last one matters no more', () => {
  expect(sumOf(judged({ volts: 15.5 }))).toBeLessThan(-10);
  // The same current, a tenth of a volt lower, and not all that the charger has: it regulates there.
  expect(sumOf(judged({ volts: 15.4 }))).toBeLessThan(-10);
});

test('held for ten minutes, it is an attempt, and the last one was long ago', () => {
  const evidence = judged({ volts: 15.5, holdingMs: 10 * MINUTE });
  expect(evidence.map(({ group }) => group).sort()).toEqual(['attempts', 'due']);
  expect(sumOf(evidence)).toBeGreaterThan(15);
});

test('below the voltage with the charger at the most that it gives, it never came there', () => {
  const evidence = judged({ volts: 15.4, usualSourceAmps: 19.5 }, { volts: 15.4, usualSourceAmps: 19.5 });
  expect(evidence.find(({ group }) => group === 'attempts')!.text).toMatch(/15\.40 V .*was not reached/);
  expect(sumOf(evidence)).toBeGreaterThan(15);
  // At the voltage it did, whatever flows.
  expect(sumOf(judged({ volts: 15.5, usualSourceAmps: 19.5 }))).toBeLessThan(-10);
  // The voltage stands lower because the battery is warm: at 25 °C it is there.
  expect(sumOf(judged({ volts: 15.3, volts25: 15.5, usualSourceAmps: 19.5 }))).toBeLessThan(-10);
});

test('held far under the voltage it is no equalisation, whatever the charger had to give', () => {
  const low = judged({ volts: 15.4, volts25: 15.0 }, { volts: 15.4, volts25: 15.0 });
  expect(low.find(({ group }) => group === 'attempts')!.text).toMatch(
    /^2 attempts to equalise came to 15\.00 V at 25 °C, where 15\.50 V are asked for/,
  );
  expect(sumOf(low)).toBeGreaterThan(15);
  // Without a temperature the weather may have asked for so much less; not for so much.
  expect(sumOf(judged({ volts: 15.0 }))).toBeLessThan(-10);
  expect(sumOf(judged({ volts: 14.8 }))).toBeGreaterThan(10);
});

test('a charger that held the voltage once has done it, whatever came to nothing before', () => {
  expect(sumOf(judged({ volts: 15.3, usualSourceAmps: 20 }, { volts: 15.5 }))).toBeLessThan(-10);
});
