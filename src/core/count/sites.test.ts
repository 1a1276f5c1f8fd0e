/** Counting over random sites with known truth: state of charge, syncs, what the device counts by, what its meter sees. */

import { quantile } from '../quantity/numbers';
import { type CountedSite, countedSite } from '../../../tests/support/countedSites';
import { isLead } from '../system/chemistry';
import { DRIFT_PARTS } from './types';

function offAt({ counting: { hourly }, trueAt }: CountedSite) {
  const errors: number[] = [];
  let within = 0;
  hourly.reference.forEach((percent, k) => {
    const error = percent - trueAt(hourly.from + k * hourly.stepMs);
    if (error !== error) return;
    errors.push(Math.abs(error));
    if (Math.abs(error) <= hourly.band[k]!) within++;
  });
  return { most: quantile(errors, 0.9), within: within / errors.length, hours: errors.length };
}

describe('the true state of charge', () => {
  const sites = [1, 2, 3, 4, 5, 6].map(countedSite);

  test('is within five points of lead and six of lithium for nine tenths of the time', () => {
    for (const one of sites) {
      const { most, hours } = offAt(one);
      expect(hours).toBeGreaterThan(100);
      expect(most).toBeLessThan(isLead(one.system.bank.chemistry) ? 5 : 6);
    }
  });

  test('lies in its band for nineteen twentieths of the time', () => {
    const all = sites.map(offAt);
    const hours = all.reduce((sum, one) => sum + one.hours, 0);
    expect(all.reduce((sum, one) => sum + one.within * one.hours, 0) / hours).toBeGreaterThan(0.95);
  });

  test('comes with a capacity whose band holds the true one', () => {
    for (const { counting, plan } of sites)
      expect(Math.abs(counting.capacityAh.value - plan.trueCapacityAh)).toBeLessThan(
        2.5 * counting.capacityAh.deviation,
      );
  });
});

test('syncs are found, and judged by what the battery held', () => {
  const one = countedSite(11);
  const reading = one.truth.series.channels.soc!;
  let rises = 0;
  for (let i = 1; i < reading.length; i++) if (reading[i] === 100 && reading[i - 1]! < 99.5) rises++;
  const { syncs } = one.counting;
  expect(syncs.length).toBeGreaterThan(1);
  expect(syncs.length).toBeLessThanOrEqual(rises);
  for (const { at, judged, reference } of syncs) {
    const truth = one.trueAt(at);
    expect(Math.abs(reference - truth)).toBeLessThan(12);
    if (truth < 82) expect(judged).toBe('false');
  }
  expect(syncs.filter((each) => each.judged === 'false').length).toBeGreaterThan(0);
});

test('what the device counts by comes out of its own reading', () => {
  for (const number of [21, 22]) {
    const { counting, plan } = countedSite(number);
    const { capacityAh, efficiencyPercent } = plan.monitor.settings;
    expect(counting.behaves!.explained).toBeGreaterThan(0.85);
    expect(Math.abs(counting.behaves!.capacityAh / capacityAh - 1)).toBeLessThan(0.06);
    expect(Math.abs(counting.behaves!.efficiencyPercent - efficiencyPercent)).toBeLessThan(6);
  }
});

describe('what the meter sees', () => {
  test('a shunt that is set to another: the ratio, and the truth all the same', () => {
    const one = countedSite(31);
    const { gain } = one.plan.monitor.meter;
    expect(one.counting.wrong.gain / gain!).toBeCloseTo(1, 1);
    expect(offAt(one).most).toBeLessThan(8);
  });

  test('a sensor that is turned round: its sign, and charges where charges are', () => {
    const one = countedSite(32);
    expect(one.counting.wrong.gain).toBe(-1);
    expect(offAt(one).most).toBeLessThan(8);
  });

  test('a charger that bypasses it and has a log', () => {
    const one = countedSite(33);
    const [bypass] = one.plan.monitor.uncounted;
    if (one.plan.chargers.find(({ id }) => id === bypass)!.logged)
      expect(one.counting.wrong.unseen.map(({ id }) => id)).toEqual([bypass]);
    expect(one.counting.meters.unseen!.hours).toBeGreaterThan(0.3 * one.counting.meters.unseen!.ofHours);
  });

  test('a zero that is off: its size within its band, by what full charges leave over', () => {
    const { counting, plan, system } = countedSite(34);
    const true_ = plan.monitor.meter.offsetA!;
    expect(Math.sign(counting.offsetA.value)).toBe(Math.sign(true_));
    expect(Math.abs(counting.offsetA.value - true_)).toBeLessThan(2.5 * counting.offsetA.deviation);
    expect(counting.offsetA.deviation).toBeLessThan(0.002 * system.bank.capacityAh);
  });
});

test('a reading that is made from the voltage jumps with it; one that counts does not', () => {
  const guessed = countedSite(41).counting.followsVolts!;
  expect(guessed.jumps).toBeGreaterThanOrEqual(2);
  expect(guessed.points).toBeGreaterThan(4);
  for (const number of [1, 2, 3]) expect(countedSite(number).counting.followsVolts?.jumps ?? 0).toBe(0);
});

test('the parts of a drift add up to it', () => {
  for (const number of [22, 23]) {
    const { intervals } = countedSite(number).counting;
    expect(intervals.length).toBeGreaterThan(0);
    for (const { parts, drift } of intervals)
      expect(DRIFT_PARTS.reduce((sum, name) => sum + parts[name], 0)).toBeCloseTo(drift, 6);
  }
});
