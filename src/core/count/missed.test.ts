/** Why a full charge set nothing: which criterion failed, and by how much. */

import { LEAD_SETTINGS } from '../../../tests/support/counterSettings';
import { HOUR, MINUTE } from '../quantity/span';
import { missedSyncs } from './missed';
import type { CounterSettings } from './settings';

const charge = { from: 10 * MINUTE, to: 200 * MINUTE, full: true };

/** Bulk for an hour, then a voltage held with a falling current, by the minute. */
function missed(held: number, least: number, settings: Partial<CounterSettings> = {}, reading: number = 80) {
  const count = 300;
  const time = Float64Array.from({ length: count }, (_, i) => i * MINUTE);
  const absorbs = (i: number) => i >= 60 && i < 200;
  return missedSyncs(
    {
      device: 'monitor',
      ampsAreItsOwn: true,
      time,
      volts: Float32Array.from(time, (_, i) => (absorbs(i) ? held : 12.8)),
      amps: Float32Array.from(time, (_, i) =>
        absorbs(i) ? least + 20 * Math.exp(-(i - 60) / 25) : i < 60 ? 20 : -1,
      ),
      reading: new Float32Array(count).fill(reading),
    },
    { ...LEAD_SETTINGS, ...settings },
    [charge],
    [],
  );
}

test('the voltage never came so far', () => {
  expect(missed(14.1, 1)).toMatchObject([{ reason: 'voltage', full: true }]);
  expect(missed(14.1, 1)[0]!.topVolts).toBeCloseTo(14.1, 4);
});

test('the current never came down so far', () => {
  const [one] = missed(14.4, 6);
  expect(one).toMatchObject({ reason: 'current', heldMs: 0 });
  expect(one!.leastAmps).toBeGreaterThan(6);
  expect(one!.leastAmps).toBeLessThan(7);
});

test('both held, and not for long enough', () => {
  const [one] = missed(14.4, 1, { detectionMinutes: 180 });
  expect(one!.reason).toBe('time');
  expect(one!.heldMs).toBeGreaterThan(HOUR);
  expect(one!.heldMs).toBeLessThan(2 * HOUR);
});

test('where all held and the reading stands at full nothing was missed; where it does not, nobody knows why', () => {
  expect(missed(14.4, 1, {}, 100)).toEqual([]);
  expect(missed(14.4, 1, {}, 80)).toMatchObject([{ reason: 'unknown' }]);
});
