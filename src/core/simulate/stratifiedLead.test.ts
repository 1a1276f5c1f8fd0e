/** The second lead battery behaves as a lead battery must, by ways of its own. */

import { stratifiedLead, type StratifiedLeadSpec } from './stratifiedLead';

const spec: StratifiedLeadSpec = {
  kind: 'stratified',
  capacityAh: 100,
  cells: 6,
  resistance: 1,
  gassing: 1,
  acidHours: 1.6,
  acceptance: 0.65,
  celsius: 25,
};

/** Charges from a state at a constant current up to a voltage, then at that voltage. */
function charge(from: number, amps: number, volts: number, hours: number) {
  const battery = stratifiedLead(spec, from);
  let bulkEnd = NaN;
  let last = amps;
  for (let t = 0; t < hours * 120; t++) {
    const limited = battery.ampsAt(volts) > amps;
    if (!limited && bulkEnd !== bulkEnd) bulkEnd = battery.charge();
    last = limited ? amps : battery.ampsAt(volts);
    battery.step(30, limited ? battery.voltsAt(amps) : volts, last, 25);
  }
  return { bulkEnd, last, battery };
}

test('at the end of bulk it is at about 80–85 % (common practice, no source), give or take the rate', () => {
  const { bulkEnd } = charge(0.4, 12, 14.4, 10);
  expect(bulkEnd).toBeGreaterThan(0.72);
  expect(bulkEnd).toBeLessThan(0.9);
});

test('absorption takes hours and ends low; a float voltage finishes more slowly', () => {
  expect(charge(0.5, 12, 14.4, 6).last).toBeGreaterThan(1);
  expect(charge(0.5, 12, 14.4, 16).last).toBeLessThan(1);
  expect(charge(0.5, 12, 13.5, 9).battery.charge()).toBeLessThan(charge(0.5, 12, 14.4, 9).battery.charge());
});

test('a full rested battery stands at about 12.65 V and a half empty one near 12.24 V, within 0.15 V (Battery Council International, from memory)', () => {
  expect(Math.abs(stratifiedLead(spec, 1).voltsAt(0) - 12.65)).toBeLessThan(0.15);
  expect(Math.abs(stratifiedLead(spec, 0.5).voltsAt(0) - 12.24)).toBeLessThan(0.15);
});

test('voltage and current are each other’s inverse', () => {
  const battery = stratifiedLead(spec, 0.6);
  for (const amps of [-30, -5, 5, 20]) expect(battery.ampsAt(battery.voltsAt(amps))).toBeCloseTo(amps, 2);
});
