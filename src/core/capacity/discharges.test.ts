/** Discharges from full, against what the simulated batteries truly hold. */

import { testSite } from '../../../tests/support/testSites';

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
