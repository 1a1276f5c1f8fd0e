import { MINUTE } from '../quantity/span';
import { behavesAs } from './device';

/** A monitor of 100 Ah that counts 90 % of what goes in, with what goes through it by the minute of each cycle. */
function counted(amps: (minute: number) => number, { exponent = 1, told = 1.2, cycle = 60 } = {}) {
  const time = Float64Array.from({ length: 3000 }, (_, i) => i * MINUTE);
  let held = 60;
  const reading = Float32Array.from(time, (_, i) => {
    const now = amps(i % cycle);
    // Rated at 100 Ah in 20 h: 5 A.
    held += ((now > 0 ? 0.9 : Math.max(1, -now / 5) ** (exponent - 1)) * now) / 60;
    return held;
  });
  return behavesAs(
    {
      device: 'monitor',
      time,
      amps: Float32Array.from(time, (_, i) => amps(i % cycle)),
      ampsAreItsOwn: true,
      volts: null,
      reading,
    },
    { capacityAh: 100, peukert: told, peukertBelowRate: false },
  );
}

test('capacity and efficiency by what goes in and out', () => {
  const { capacityAh, efficiencyPercent } = counted((minute) => (minute < 30 ? 5 : -4))!;
  expect(Math.abs(capacityAh - 100)).toBeLessThan(2);
  expect(Math.abs(efficiencyPercent - 90)).toBeLessThan(2);
});

test('neither where hardly anything goes out: the two cannot be told apart', () => {
  expect(counted((minute) => (minute < 30 ? 1.5 : minute < 32 ? -0.5 : 0))).toBeNull();
});

test('an exponent, though nearly all goes out at one fast current: the little that goes slowly tells capacity', () => {
  // Of five hours 25 minutes at 40 A and an hour at 4.5 A: by an exponent of 1.45 the first 16.7 Ah count as 42.5.
  const amps = (minute: number) => (minute < 25 ? -40 : minute < 85 ? -4.5 : 14.6);
  for (const told of [1, 1.2, 1.45]) {
    const { capacityAh, efficiencyPercent, peukert } = counted(amps, { exponent: 1.45, told, cycle: 300 })!;
    expect(Math.abs(peukert - 1.45)).toBeLessThanOrEqual(0.05 + 1e-9);
    expect(Math.abs(capacityAh - 100)).toBeLessThan(8);
    expect(Math.abs(efficiencyPercent - 90)).toBeLessThan(8);
  }
});
