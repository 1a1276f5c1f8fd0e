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
 */
export function batteryOnGrid({ time, amps }: BatteryCurrent, source: Series, grid: Grid): Float32Array {
  const plain = toGrid(time, amps, grid);
  const own = source.channels.source_current;
  if (!own || !isFiner(source.time, time)) return plain;
  // A row is a moment or a mean; where it moves with neither, it is not of this current.
  const apart = (rows: Float32Array) => movesApart(amps, rows);
  const rows = [interpolateAt, meansAround]
    .map((way) => way(source.time, own, time))
    .reduce((best, one) => (apart(one) < apart(best) ? one : best));
  if (!(apart(rows) < apart(new Float32Array(amps.length)))) return plain;
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
