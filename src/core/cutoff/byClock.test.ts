/** Drawn logs: a load on a beat of its own is switched by a clock, however alike its runs end. */

import { DAY, type Drawn, find } from '../../../tests/support/drawnLoads';

/** Runs of 25 minutes, each down to 12.3 V. @param begins minutes of the day */
function runs(begins: readonly number[]): Drawn {
  const ran = (m: number) => Math.min(...begins.map((at) => m - at).filter((since) => since >= 0));
  return {
    amps: (m) => (ran(m % DAY) < 25 ? 8 : 0),
    volts: (m) => (ran(m % DAY) < 25 ? 12.6 - 0.0125 * (ran(m % DAY) + 1) : 12.7),
  };
}

test('every ninety minutes, as long by day as by night', () => {
  const begins = (from: number) => Array.from({ length: 16 }, (_, i) => from + 90 * i);
  expect(find(runs(begins(10)), {}, { days: 3 })).toEqual([]);
  // The log begins within a run.
  expect(find(runs([-10, ...begins(80)]), {}, { days: 3 })).toEqual([]);
});

test('what comes back as the battery recovers, sooner while the sun shines, was cut', () => {
  const begins = [10, 130, 250, 370, 440, 510, 580, 650, 720, 790, 910, 1030, 1150, 1270, 1390];
  const found = find(runs(begins), {}, { days: 3 });
  expect(found.length).toBeGreaterThan(30);
  expect(found.every((one) => one.why === 'volts')).toBe(true);
});
