/** Lithium cells behind a BMS: rest voltages of common practice, charge that is kept, switches that open and close. */

import fc from 'fast-check';
import { evenCells, type LithiumBatterySpec, lithiumBattery } from './lithiumBattery';

const bms = {
  cellHighV: 3.65,
  cellLowV: 2.6,
  cellHighReleaseV: 3.45,
  cellLowReleaseV: 2.95,
  balanceV: 3.45,
  balanceA: 1,
  chargeAboveC: 0,
};
const spec = (charge: number, cells = evenCells(4, 100, charge)): LithiumBatterySpec => ({
  kind: 'lithium',
  cells,
  bms,
  celsius: 20,
  warmingHours: 5,
});

/** Lets a current flow for hours, or until the BMS has cut it off. @returns Ah that flowed */
function run(battery: ReturnType<typeof lithiumBattery>, amps: number, hours: number, ambient = 20): number {
  let flowed = 0;
  for (let second = 0; second < hours * 3600; second += 10) {
    const volts = battery.voltsAt(amps);
    const through = battery.ampsAt(volts);
    if (Math.abs(through - amps) > 0.01) break;
    flowed += (amps * 10) / 3600;
    battery.step(10, volts, amps, ambient);
  }
  return flowed;
}

test.each([
  // Common practice for a rested 12 V block, no source: 13.3 V about 90 %, 13.2 V 70 %, 13.1 V 40 to 50 %, 13.0 V 30 %, 12.0 V 10 %.
  [0.9, 13.3],
  [0.7, 13.2],
  [0.45, 13.1],
  [0.3, 13.0],
  [0.1, 12.0],
])('a block of four cells rests at %d of its charge at %d V', (charge, volts) => {
  expect(lithiumBattery(spec(charge)).voltsAt(0)).toBeCloseTo(volts, 1);
});

test('from full to empty it gives its capacity, and takes a little more back', () => {
  const battery = lithiumBattery(spec(1));
  const out = -run(battery, -20, 10);
  expect(battery.state.dischargeAllowed).toBe(false);
  expect(out).toBeGreaterThan(96);
  expect(out).toBeLessThan(102);
  const back = run(battery, 20, 10);
  expect(battery.state.chargeAllowed).toBe(false);
  expect(back / out).toBeGreaterThan(1);
  expect(back / out).toBeLessThan(1.03);
});

test('a cell that is ahead stops the charge for all, one that is behind the discharge', () => {
  const cells = evenCells(4, 100, 0.8).map((cell, i) => ({ ...cell, charge: [0.8, 0.95, 0.8, 0.7][i]! }));
  const up = lithiumBattery(spec(0.8, cells));
  expect(run(up, 20, 5)).toBeLessThan(7);
  expect(up.state.chargeAllowed).toBe(false);
  expect(
    up.cellVolts!(0)
      .map((one, i) => [one, i])
      .sort((a, b) => b[0]! - a[0]!)[0]![1],
  ).toBe(1);
  // Nothing goes in however high the bus; what is drawn still comes out.
  expect(up.ampsAt(16)).toBe(0);
  expect(up.ampsAt(12)).toBeLessThan(0);
  const down = lithiumBattery(spec(0.8, cells));
  const out = -run(down, -20, 10);
  expect(out).toBeGreaterThan(65);
  expect(out).toBeLessThan(72);
  expect(down.voltsAt(-5)).toBe(0);
});

test('held near full, balancing draws the cells together', () => {
  const cells = evenCells(4, 100, 0.985).map((cell, i) => ({ ...cell, charge: 0.985 + 0.004 * i }));
  const battery = lithiumBattery(spec(0.985, cells));
  const spread = (amps: number) => {
    const volts = battery.cellVolts!(amps);
    return Math.max(...volts) - Math.min(...volts);
  };
  // Out of balance, the first cell is at its limit while the others are far from it.
  run(battery, 5, 5);
  expect(battery.state.chargeAllowed).toBe(false);
  const before = spread(0);
  for (let second = 0; second < 12 * 3600; second += 10)
    battery.step(10, 13.9, Math.max(0, battery.ampsAt(13.9)), 20);
  expect(before).toBeGreaterThan(0.15);
  expect(spread(0)).toBeLessThan(before / 2);
});

test('below freezing it refuses the charge, and takes it again when warm', () => {
  const battery = lithiumBattery({ ...spec(0.5), celsius: -3 });
  battery.step(10, battery.voltsAt(0), 0, -3);
  expect(battery.state.chargeAllowed).toBe(false);
  expect(battery.ampsAt(15)).toBe(0);
  for (let hour = 0; hour < 30; hour++) battery.step(3600, battery.voltsAt(0), 0, 15);
  expect(battery.state.chargeAllowed).toBe(true);
  expect(battery.ampsAt(15)).toBeGreaterThan(10);
});

test('current rises with voltage, and either gives the other', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.05, max: 0.95, noNaN: true }),
      fc.double({ min: -50, max: 50, noNaN: true }),
      fc.double({ min: 0.01, max: 20, noNaN: true }),
      (charge, amps, more) => {
        const battery = lithiumBattery(spec(charge));
        const volts = battery.voltsAt(amps);
        expect(battery.ampsAt(volts)).toBeCloseTo(amps, 6);
        expect(battery.voltsAt(amps + more)).toBeGreaterThan(volts);
      },
    ),
  );
});
