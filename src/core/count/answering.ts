/**
 * A charger that holds a voltage gives the loads what they draw. Where the monitor sees it, little flows through the battery; where it does
 * not, the monitor shows the loads alone, as the charger's own log turned over.
 */

import { isNumber, median, quantile } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import { type Grid, toGrid } from '../log/grid';
import { besideRows } from '../log/phase';
import { lastDigit } from '../log/resolution';
import { logOf, type Timeline } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import type { CounterLog } from './counterLog';
import { robustLeastSquares } from './leastSquares';
import type { Share } from './shares';

/** Means of so long: a charger answers within seconds, and rows of two logs lie apart. */
const BLOCK = 10 * MINUTE;
/** A source gives from here, parts of the capacity in A. */
const GIVES = 0.003;
/** It has to move by so much, parts of the capacity in A and last digits of the coarser meter, over so many blocks. */
const MOVES = { part: 0.01, digits: 4, blocks: 30 };
/** What lies further above, parts of what it moves by, is another matter. */
const BEYOND = 0.3;
/** Blocks with no source that show which way the monitor counts. */
const IDLE = 6;
/** What is left over of the monitor's current, parts of what the charger's moves by; a share that is told is under this, and as open as that. */
const FITS = 0.2;
const UNSEEN = { most: 0.12, error: 0.05 };

/** Shares of sources that plainly bypass the monitor, of systems whose sources all have logs. */
export function sharesAnswering(
  { bank, sources }: KnownSystem,
  timeline: Timeline,
  log: CounterLog,
  grid: Grid,
  amps: Float32Array,
): Share[] {
  const size = Math.max(1, Math.round(BLOCK / grid.step));
  const logs = sources.map(({ id }) => ({ id, own: logOf(timeline, id, 'source_current') }));
  if (logs.some(({ own }) => !own || own.device === log.device)) return [];
  const shown = blocksOf(amps, size);
  const given = logs.map(({ id, own }) => {
    const values = own!.channels.source_current!;
    return {
      id,
      digit: Math.max(lastDigit(values), lastDigit(log.amps)),
      blocks: blocksOf(toGrid(besideRows(own!.time, log.time), values, grid), size),
    };
  });
  const least = GIVES * bank.capacityAh;
  const isOff = (one: (typeof given)[number], k: number) => Math.abs(one.blocks[k]!) <= least;
  const idle = [...shown.keys()].filter((k) => isNumber(shown[k]!) && given.every((one) => isOff(one, k)));
  // A monitor that counts the other way shows a charger turned over as well.
  if (idle.length < IDLE || !(median(idle.map((k) => shown[k]!)) < 0)) return [];
  return given.flatMap((one): Share[] => {
    const others = given.filter((other) => other !== one);
    const isAlone = (k: number) =>
      one.blocks[k]! > least && isNumber(shown[k]!) && others.every((other) => isOff(other, k));
    const alone = [...shown.keys()].filter(isAlone);
    const own = Float64Array.from(alone, (k) => one.blocks[k]!);
    const high = quantile(own, 0.95);
    const moves = high - quantile(own, 0.05);
    if (
      alone.length < MOVES.blocks ||
      !(moves >= Math.max(MOVES.part * bank.capacityAh, MOVES.digits * one.digit))
    )
      return [];
    // The few blocks in which it fills the battery would tilt the line.
    const usual = alone.filter((k) => one.blocks[k]! <= high + BEYOND * moves);
    const fit = robustLeastSquares({
      columns: [Float64Array.from(usual, (k) => one.blocks[k]!), new Float64Array(usual.length).fill(1)],
      values: Float64Array.from(usual, (k) => shown[k]!),
    });
    const share = fit ? 1 + fit.values[0]! : NaN;
    return fit && fit.scatter < FITS * moves && Math.abs(share) < UNSEEN.most
      ? [
          {
            id: one.id,
            kind: 'source',
            share,
            error: Math.hypot(fit.errors[0]!, UNSEEN.error),
            steps: usual.length,
            carriedHours: (usual.length * size * grid.step) / HOUR,
          },
        ]
      : [];
  });
}

function blocksOf(values: Float32Array, size: number): Float64Array {
  return Float64Array.from({ length: Math.floor(values.length / size) }, (_, block) => {
    let sum = 0;
    for (let k = block * size; k < (block + 1) * size; k++) sum += values[k]!;
    return sum / size;
  });
}
