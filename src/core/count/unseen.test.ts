/** Charging voltages beside what the monitor shows: drawn, so that the answer is known. */

import { agm } from '../../../tests/support/drawnCharges';
import { MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import { unseenOf } from './unseen';

const system = { bank: agm } as unknown as KnownSystem;

/** Every second hour at 14.2 V for so long, while the monitor of a battery of 100 Ah shows 2 A out of it. @param every minutes */
function held(minutes: number, every: number) {
  const count = (48 * 60) / every;
  const at = (i: number) => (i * every) % 120 < minutes;
  return unseenOf(
    system,
    { from: 0, step: every * MINUTE, count, cuts: [] },
    Float32Array.from({ length: count }, () => -2),
    Float32Array.from({ length: count }, (_, i) => (at(i) ? 14.2 : 12.5)),
  );
}

test('an hour at a charging voltage with nothing but a load shown: somebody charges whom the monitor does not see', () => {
  const { hours, ofHours, amps, drawnAmps } = held(60, 5)!;
  expect(ofHours).toBeCloseTo(24, 1);
  expect(hours).toBeCloseTo(24, 1);
  expect([amps, drawnAmps]).toEqual([-2, -2]);
});

test('what stands there too short for the rows of a log to tell counts neither way', () => {
  expect(held(60, 40)).toBeNull();
  expect(held(20, 5)).toBeNull();
});
