import { agm, lithium } from '../../../tests/support/drawnCharges';
import { HOUR } from '../quantity/span';
import type { Anchor } from './anchors';
import { referenceOf } from './reference';
import { spentSpans } from './spent';

const grid = { from: 0, step: HOUR, count: 10, cuts: [] };
const hours = (from: number, to: number) => ({ from: from * HOUR, to: to * HOUR });
const f32 = (...values: number[]) => Float32Array.from(values);

describe('past empty', () => {
  // The ends of discharges that makers name: 1.8 V a cell over twenty hours, 2.5 V for lithium (common practice, no source).
  const amps = f32(-5, -5, -5, -5, -5, -5, 1, 1, -1, -1);

  test('from where the voltage is under the end of a discharge until something flows in', () => {
    const volts = f32(11.6, 11.2, 10.7, 10.5, 10.3, 10, 10.4, 10.6, 11.5, 11.4);
    expect(spentSpans(agm, grid, amps, volts)).toEqual([hours(3, 6)]);
    const high = volts.map((one) => one + 1);
    expect(spentSpans(agm, grid, amps, high)).toEqual([]);
  });

  test('lithium ends lower', () => {
    const volts = f32(12, 11, 10.5, 10.2, 9.8, 9.5, 11, 12, 12, 12);
    expect(spentSpans(lithium, grid, amps, volts)).toEqual([hours(4, 6)]);
  });

  test('a heavy load says nothing, a dead bus is not the battery, and a row that lacks the voltage changes nothing', () => {
    const heavy = f32(-5, -40, -40, -5, -5, -40, -40, -5, -5, -5);
    const volts = f32(11.6, 10, 10, 11.5, 10.4, 9, NaN, 10.2, 0, 0);
    expect(spentSpans(agm, grid, heavy, volts)).toEqual([hours(4, 6), hours(7, 8)]);
  });
});

test('what a battery gives past empty makes it no larger', () => {
  // 100 Ah: full, drawn empty in 19 hours at 5 A, then on for two days although its voltage has collapsed.
  const count = 80;
  const column = () => new Float64Array(count);
  const through = {
    grid: { ...grid, count },
    in: column(),
    out: column().fill(5),
    hours: column().fill(1),
    hidden: column(),
    hiddenError: column(),
  };
  const known = (at: number, kind: Anchor['kind'], charge: number, deviation: number) => ({
    kind,
    at: at * HOUR,
    until: at * HOUR,
    charge,
    deviation,
  });
  const anchors = [known(0, 'full', 0.96, 0.022), known(19, 'empty', 0.01, 0.06)];
  const spent = Uint8Array.from(column(), (_, k) => (k >= 19 ? 1 : 0));
  const plain = referenceOf({ bank: agm, through, anchors });
  const { capacityAh, percent } = referenceOf({ bank: agm, through, anchors, spent });
  expect(Math.abs(capacityAh.value / 100 - 1)).toBeLessThan(0.1);
  expect(plain.capacityAh.value).toBeGreaterThan(120);
  expect(percent[count - 1]).toBeLessThan(6);
});
