/** The halves of a bank beside each other: by the voltage between them, or at rest by the meters of their chargers. */

import { quantile } from '../quantity/numbers';
import { HOUR } from '../quantity/span';
import { type Series, spanOf } from '../log/channels';
import { type Grid, judgingGrid, medianStep, toGrid } from '../log/grid';
import { logOf, type Timeline } from '../log/timeline';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import { HELD, SETTLES } from './restAnchors';
import type { Halves } from './types';

/** Cells of the grid that are enough to compare by. */
const FEWEST = 30;

/** Null where nobody logged the voltage between the halves beside that of the bank, nor a charger of each half its own. */
export function halvesOf(system: KnownSystem, timeline: Timeline): Halves | null {
  const blocks = blocksInSeries(system.bank) / 2;
  return byMidpoint(timeline, blocks) ?? byChargers(system, timeline, blocks);
}

function byMidpoint({ series }: Timeline, blocks: number): Halves | null {
  const log = series.find((one) => one.channels.midpoint_voltage && one.channels.battery_voltage);
  if (!log) return null;
  const grid = judgingGrid(spanOf(log), medianStep(log.time), log.time);
  const middle = toGrid(log.time, log.channels.midpoint_voltage!, grid);
  const whole = toGrid(log.time, log.channels.battery_voltage!, grid);
  // A monitor in one half may log that half's voltage as the bank's.
  const half = quantile(whole, 0.5) / blocks < 18;
  if (half) return null;
  return halves(log, grid, blocks, 'midpoint', (i) => Math.abs(2 * middle[i]! - whole[i]!));
}

/** A charger that gives less rests, parts of the capacity in A, unless its half still stands at what a float holds: of lithium V a 12 V block. */
const RESTS = 0.005;
const LITHIUM_HELD = 13.5;
/** A charger that shows less has switched its meter off, V a 12 V block. */
const METER_ON = 8;
/** V a 12 V block by which the meters of two chargers may differ (common practice, no source). */
const METERS = 0.05;

function byChargers(system: KnownSystem, timeline: Timeline, blocks: number): Halves | null {
  const of = (across: 'lower' | 'upper') =>
    system.sources
      .filter((one) => one.across === across)
      .map(({ id }) => logOf(timeline, id, 'source_voltage'))
      .find((one) => one?.channels.source_current);
  const [lower, upper] = [of('lower'), of('upper')];
  if (!lower || !upper) return null;
  const grid = judgingGrid(spanOf(lower), medianStep(lower.time), lower.time);
  const lead = isLead(system.bank.chemistry);
  const held = (lead ? HELD : LITHIUM_HELD) * blocks;
  const settles = lead ? SETTLES.lead : SETTLES.lithium;
  const atRest = ({ time, channels }: Series) => {
    const amps = toGrid(time, channels.source_current!, grid);
    let heldAt = 0;
    return toGrid(time, channels.source_voltage!, grid).map((volts, i) => {
      if (amps[i]! >= RESTS * system.bank.capacityAh || volts > held) heldAt = i;
      const settled = (i - heldAt) * grid.step >= settles;
      return settled && amps[i]! === amps[i]! && volts > METER_ON * blocks ? volts : NaN;
    });
  };
  const [low, high] = [atRest(lower), atRest(upper)];
  return halves(lower, grid, blocks, 'chargers', (i) =>
    Math.max(0, Math.abs(low[i]! - high[i]!) - METERS * blocks),
  );
}

function halves(
  log: Series,
  grid: Grid,
  blocks: number,
  by: Halves['by'],
  apartAt: (cell: number) => number,
): Halves | null {
  const apart = Array.from({ length: grid.count }, (_, i) => apartAt(i)).filter((one) => one === one);
  if (apart.length < FEWEST) return null;
  return {
    by,
    logged: spanOf(log),
    hours: (apart.length * grid.step) / HOUR,
    apartVolts: quantile(apart, 0.5),
    mostVolts: quantile(apart, 0.95),
    blocks,
  };
}
