/** Discharges from full, against what the simulated batteries truly hold. */

import { agm } from '../../../tests/support/drawnCharges';
import { testSite } from '../../../tests/support/testSites';
import type { Reference } from '../count/reference';
import { HOUR } from '../quantity/span';
import { dischargesOf } from './discharges';

const heldOf = (name: string) => {
  const { counting, plan, system } = testSite(name);
  const truth =
    plan.chemistry === 'lfp'
      ? Math.min(...plan.lithium!.cells.map((one) => one.capacityAh))
      : plan.trueCapacityAh;
  const rated = system.bank.capacityAh;
  return {
    truth: (100 * truth) / rated,
    complete: counting!.discharges.filter((one) => one.holds !== null),
    all: counting!.discharges,
  };
};

test('a battery that was drawn until it was empty shows what it holds', () => {
  const found = ['cut-capacity-lost', 'cut-really-empty'].map(heldOf);
  const complete = found.flatMap(({ truth, complete }) => complete.map((one) => ({ ...one, truth })));
  expect(complete.length).toBeGreaterThan(2);
  const inBand = complete.filter(({ holds, truth }) => Math.abs(holds!.percent - truth) <= holds!.band + 3);
  expect(inBand.length / complete.length).toBeGreaterThan(0.8);
});

test('a site that is never drawn empty claims nothing, and what came out is less than the whole', () => {
  const all = [1, 2, 3, 4, 5, 6].map((k) => heldOf(`counted-${k}`));
  expect(all.flatMap((one) => one.complete)).toEqual([]);
  for (const one of all.flatMap(({ all: some }) => some)) {
    expect(one.to).toBeGreaterThan(one.from);
    expect(one.percent).toBeLessThan(115);
  }
});

test('a discharge begins where the battery was last at its top, and is held against what it had there', () => {
  // Ten hours at its top, then 5 A from 100 Ah for eighteen hours, down to its knee.
  const drawn = (top: number) => {
    const count = 30;
    const percent = Float64Array.from(
      { length: count },
      (_, k) => top - 5 * Math.min(18, Math.max(0, k - 9)),
    );
    const reference = {
      grid: { from: 0, step: HOUR, count, cuts: [] },
      percent,
      deviation: new Float64Array(count).fill(2),
      offsetA: { value: 0 },
      anchors: [{ kind: 'empty', at: 28 * HOUR, until: 28 * HOUR, charge: 0.05, deviation: 0.05 }],
    } as unknown as Reference;
    const time = Float64Array.from({ length: 10 * count + 1 }, (_, i) => (i * HOUR) / 10);
    const amps = Float32Array.from(time, (ms) => (ms < 10 * HOUR || ms > 28 * HOUR ? 0 : -5));
    return dischargesOf({ bank: agm, exponent: 1, log: { time, volts: null }, amps, reference, heat: null });
  };
  for (const top of [98, 94]) {
    const [one, ...others] = drawn(top);
    expect(others).toEqual([]);
    expect(one!.from).toBe(10 * HOUR);
    expect(one!.ampHours).toBeCloseTo(90, 0);
    // 90 points of its charge are 90 Ah, at room temperature: 1.056 at 20 °C (IEEE Std 485, from memory). It was never quite full.
    expect(one!.holds!.percent).toBeCloseTo(105.6, 0);
  }
  expect(drawn(90)).toEqual([]);
});
