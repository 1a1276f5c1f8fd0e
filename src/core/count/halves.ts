/** The halves of a bank beside each other, by the voltage between them. */

import { quantile } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { spanOf } from '../log/channels';
import { judgingGrid, medianStep, toGrid } from '../log/grid';
import type { Timeline } from '../log/timeline';
import { blocksInSeries } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Halves } from './types';

/** Null where nobody logged the voltage between the halves beside that of the bank. */
export function halvesOf(bank: KnownBank, { series }: Timeline): Halves | null {
  const log = series.find((one) => one.channels.midpoint_voltage && one.channels.battery_voltage);
  if (!log) return null;
  const logged = spanOf(log);
  const grid = judgingGrid(logged, medianStep(log.time), log.time);
  const middle = toGrid(log.time, log.channels.midpoint_voltage!, grid);
  const whole = toGrid(log.time, log.channels.battery_voltage!, grid);
  const blocks = blocksInSeries(bank) / 2;
  // A monitor in one half may log that half's voltage as the bank's.
  const half = quantile(whole, 0.5) / blocks < 18;
  if (half) return null;
  const apart = middle.map((one, i) => Math.abs(2 * one - whole[i]!)).filter((one) => one === one);
  if (apart.length < 30) return null;
  return {
    logged,
    hours: (apart.length * grid.step) / HOUR,
    apartVolts: quantile(apart, 0.5),
    mostVolts: quantile(apart, 0.95),
    blocks,
  };
}
