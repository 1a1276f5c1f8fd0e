import { agm, lithium } from '../../../tests/support/drawnCharges';
import { HOUR } from '../quantity/span';
import { overchargedSpans } from './overcharged';

const grid = { from: 0, step: HOUR, count: 24, cuts: [] };
const volts = (high: number) => Float32Array.from({ length: 24 }, (_, i) => (i >= 8 && i < 12 ? high : 13.5));
const even = (value: number) => new Float32Array(24).fill(value);

test('lead is held far above its range while its charger holds it there', () => {
  // The range of AGM in the description is 14.2 to 14.6 V (common practice, no source).
  const found = (high: number, celsius: number | null) =>
    overchargedSpans(agm, grid, volts(high), celsius === null ? null : even(celsius));
  expect(found(15.1, 25)).toEqual([{ from: 8 * HOUR, to: 12 * HOUR }]);
  expect(found(14.7, 25)).toEqual([]);
  // In the cold it is right to go higher: by up to 5 mV per °C and cell.
  expect(found(15.1, 0)).toEqual([]);
  // Where nobody logged how cold it is, it may be a cold room.
  expect(found(15.1, null)).toEqual([]);
  expect(found(15.6, null)).toHaveLength(1);
});

test('lithium is left to its BMS', () => {
  expect(overchargedSpans(lithium, grid, volts(15.5), even(25))).toEqual([]);
});
