import { leadBattery, usualLeadBattery } from './leadBattery';

/** Charges a battery from a state at a constant current up to a voltage, then at that voltage. */
function charge(from: number, amps: number, volts: number, hours: number) {
  const battery = leadBattery(usualLeadBattery(100, 6), { available: from, bound: from, celsius: 25 });
  let into = 0;
  let atBulkEnd: number | null = null;
  let last = amps;
  const stored = battery.charge();
  for (let t = 0; t < hours * 120; t++) {
    const limited = battery.ampsAt(volts) > amps;
    if (!limited) atBulkEnd ??= battery.charge();
    last = limited ? amps : battery.ampsAt(volts);
    const now = limited ? battery.voltsAt(amps) : volts;
    into += last / 120;
    battery.step(30, now, last, 25);
  }
  return { atBulkEnd, endAmps: last, efficiency: ((battery.charge() - stored) * 100) / into, battery };
}

test('at the end of bulk a healthy battery is at about 80–85 % (common practice, no source), give or take the rate', () => {
  const { atBulkEnd } = charge(0.4, 12, 14.4, 10);
  expect(atBulkEnd).toBeGreaterThan(0.74);
  expect(atBulkEnd).toBeLessThan(0.88);
});

test('the tail comes out of the model: absorption takes hours and ends low', () => {
  expect(charge(0.5, 10, 14.4, 6).endAmps).toBeGreaterThan(2);
  expect(charge(0.5, 10, 14.4, 14).endAmps).toBeLessThan(1);
});

test('efficiency is near 1 when low and falls towards full', () => {
  const low = charge(0.2, 10, 14.4, 2).efficiency;
  const high = charge(0.97, 10, 14.4, 6).efficiency;
  expect(low).toBeGreaterThan(0.97);
  expect(high).toBeLessThan(0.85);
});

test('more resistance reaches the voltage earlier; a gassing battery settles at a greater current', () => {
  const spec = usualLeadBattery(100, 6);
  const state = { available: 0.7, bound: 0.7, celsius: 25 };
  expect(leadBattery({ ...spec, resistance: 2 }, state).voltsAt(10)).toBeGreaterThan(
    leadBattery(spec, state).voltsAt(10),
  );
  const full = { available: 1, bound: 1, celsius: 25 };
  expect(leadBattery({ ...spec, gassing: 2 }, full).ampsAt(14.4)).toBeGreaterThan(
    1.5 * leadBattery(spec, full).ampsAt(14.4),
  );
});

test('voltage and current are each other’s inverse', () => {
  const { battery } = charge(0.6, 10, 14.4, 1);
  for (const amps of [-30, -5, 0, 0.5, 5, 25])
    expect(battery.ampsAt(battery.voltsAt(amps))).toBeCloseTo(amps, 2);
});
