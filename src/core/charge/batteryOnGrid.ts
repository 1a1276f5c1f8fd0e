/** The battery's current beside a source whose log has more rows than the battery's. */

import type { Series } from '../log/channels';
import { type Grid, toGrid } from '../log/grid';
import { interpolateAt } from '../log/interpolateAt';
import { meansAround } from '../log/meansAround';
import { isFiner, movesApart } from '../log/seldom';
import type { BatteryCurrent } from '../log/timeline';
import { isNumber } from '../quantity/numbers';

/**
 * A in the cells of the source's grid. Where the battery's log seldom has a row, what the source's own log shows between the rows is in
 * it: an absorption of ten minutes between rows of fifty is no line from the one to the other.
 * @param blocks in series, each 12 V, across which the source charges
 */
export function batteryOnGrid(
  { time, amps }: BatteryCurrent,
  source: Series,
  grid: Grid,
  blocks: number,
): Float32Array {
  const plain = toGrid(time, amps, grid);
  const own = source.channels.source_current;
  if (!own || !isFiner(source.time, time)) return plain;
  // A row is a moment or a mean; where it moves with neither, it is not of this current.
  const apart = (rows: Float32Array) => movesApart(amps, rows);
  const rows = [interpolateAt, meansAround]
    .map((way) => way(source.time, own, time))
    .reduce((best, one) => (apart(one) < apart(best) ? one : best));
  if (!(apart(rows) < apart(new Float32Array(amps.length))))
    return whereOnLine(plain, time, source, grid, LEAVES * blocks);
  const others = toGrid(
    time,
    amps.map((one, i) => one - rows[i]!),
    grid,
  );
  return toGrid(source.time, own, grid).map((one, cell) => {
    const together = one + others[cell]!;
    return isNumber(together) ? together : plain[cell]!;
  });
}

/** V a 12 V block. */
const LEAVES = 0.15;

/**
 * The battery's current where the line from row to row may be it: a voltage that leaves its own line by so much between two rows was held
 * or let go there, and the current with it. There it is not known, NaN.
 * @param rows epoch ms of the battery's rows @param leaves V
 */
function whereOnLine(
  plain: Float32Array,
  rows: Float64Array,
  { time, channels }: Series,
  grid: Grid,
  leaves: number,
): Float32Array {
  const volts = channels.source_voltage;
  if (!volts) return plain;
  const line = toGrid(rows, interpolateAt(time, volts, rows), grid);
  return toGrid(time, volts, grid).map((own, cell) =>
    Math.abs(own - line[cell]!) > leaves ? NaN : plain[cell]!,
  );
}
