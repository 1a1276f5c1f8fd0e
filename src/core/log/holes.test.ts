/** Columns that are not all written at once: what lies between two values of its own is known, a longer silence is not. */

import { MINUTE } from '../quantity/span';
import type { Series } from './channels';
import { withoutHoles } from './holes';

const log = (channels: Record<string, number[]>): Series => ({
  device: 'monitor',
  time: Float64Array.from({ length: Object.values(channels)[0]!.length }, (_, i) => i * MINUTE),
  channels: Object.fromEntries(
    Object.entries(channels).map(([name, values]) => [name, Float32Array.from(values)]),
  ),
});
const every = (n: number, of: (i: number) => number, count = 120): number[] =>
  Array.from({ length: count }, (_, i) => (i % n === 0 ? of(i) : NaN));

test('voltage and current in turns are both known in every row but the last', () => {
  const series = withoutHoles(
    log({
      battery_voltage: every(2, (i) => 12 + i / 100),
      battery_current: every(2, () => -4).map((_, i) => (i % 2 ? -i : NaN)),
    }),
  );
  const { battery_voltage: volts, battery_current: amps } = series.channels;
  expect(volts![31]).toBeCloseTo(12.31, 4);
  expect(amps![30]).toBeCloseTo(-30, 4);
  expect([volts![119], amps![0]]).toEqual([NaN, NaN]);
});

test('a stage stays what it was; a percentage, which may have been set between two rows, is left as it is', () => {
  const series = log({
    soc: every(5, (i) => 100 - i / 5),
    source_stage: every(5, (i) => (i < 60 ? 1 : 2)),
  });
  const { soc, source_stage: stage } = withoutHoles(series).channels;
  expect([...stage!.subarray(58, 62)]).toEqual([1, 1, 2, 2]);
  expect(soc).toBe(series.channels.soc);
});

test('a silence longer than three of its own steps stays one', () => {
  const values = every(2, () => 13).map((one, i) => (i > 40 && i < 60 ? NaN : one));
  const { battery_voltage: volts } = withoutHoles(log({ battery_voltage: values })).channels;
  expect(volts!.subarray(41, 60).every(Number.isNaN)).toBe(true);
  expect(volts![61]).toBe(13);
});

test('a log without holes, and a column that was hardly ever written, are left alone', () => {
  const whole = log({ battery_voltage: every(1, () => 13) });
  expect(withoutHoles(whole)).toBe(whole);
  const seldom = log({ battery_voltage: every(1, () => 13), soc: every(30, () => 80) });
  expect(withoutHoles(seldom)).toBe(seldom);
});
