import { MINUTE } from '../quantity/span';
import { behavesAs } from './device';

/** A monitor of 100 Ah that counts 90 % of what goes in, with what goes through it by the minute of each hour. */
function counted(amps: (minute: number) => number) {
  const time = Float64Array.from({ length: 3000 }, (_, i) => i * MINUTE);
  let held = 45;
  const reading = Float32Array.from(time, (_, i) => {
    const now = amps(i % 60);
    held += ((now > 0 ? 0.9 : 1) * now) / 60;
    return held;
  });
  return behavesAs(
    {
      device: 'monitor',
      time,
      amps: Float32Array.from(time, (_, i) => amps(i % 60)),
      ampsAreItsOwn: true,
      volts: null,
      reading,
    },
    { capacityAh: 100, peukert: 1.2, peukertBelowRate: false },
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
