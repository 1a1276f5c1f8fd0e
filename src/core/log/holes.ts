/** Rows that lack some of their values: a log whose columns are not all written at once is read as if they were. */

import { MINUTE } from '../quantity/span';
import { type Channel, channelInfo, type Series } from './channels';
import { gapLimit, medianStep } from './grid';

/** The rows in which a channel was written. */
export function writtenRows(values: Float32Array): Int32Array {
  const rows = new Int32Array(values.length);
  let count = 0;
  for (let i = 0; i < values.length; i++) if (values[i]! === values[i]!) rows[count++] = i;
  return rows.subarray(0, count);
}

/** Median step between such rows, ms. */
export const stepOf = (time: Float64Array, rows: Int32Array): number =>
  medianStep(Float64Array.from(rows, (i) => time[i]!));

/** Fewer values than this have no step of their own. */
const FEWEST = 10;
/** A stage or a flag stays what it was for so long, whatever its step, ms: it changes when something happens. */
const STAYS = 30 * MINUTE;

/**
 * Each channel with its holes closed, where they are no longer than a gap of its own would be: a measured value goes straight on to the
 * next, a stage or a flag stays what it was for longer. What a counter shows is left as it is: between two values it may have been set. The
 * same series where nothing was to be closed.
 */
export function withoutHoles(series: Series): Series {
  let channels = series.channels;
  for (const [channel, values] of Object.entries(series.channels) as [Channel, Float32Array][]) {
    if (!hasHoles(values)) continue;
    const { unit } = channelInfo(channel);
    if (!GOES_ON.includes(unit) && unit !== '') continue;
    const closed = closeHoles(series.time, values, unit !== '', unit === '' ? STAYS : 0);
    if (closed) channels = { ...channels, [channel]: closed };
  }
  return channels === series.channels ? series : { ...series, channels };
}

/** A loop, as every log goes through it: a callback for each sample takes twenty times as long. */
function hasHoles(values: Float32Array): boolean {
  for (let i = 0; i < values.length; i++) if (values[i]! !== values[i]!) return true;
  return false;
}

/** Units of which a value between two others lies between them. */
const GOES_ON: readonly string[] = ['V', 'A', 'W', '°C'];

/** @param least ms for which a hole is closed though it is longer than a gap */
function closeHoles(
  time: Float64Array,
  values: Float32Array,
  isStraight: boolean,
  least: number,
): Float32Array | null {
  const rows = writtenRows(values);
  if (rows.length < FEWEST) return null;
  const limit = Math.max(least, gapLimit(stepOf(time, rows)));
  const closed = values.slice();
  for (let k = 1; k < rows.length; k++) {
    const [from, to] = [rows[k - 1]!, rows[k]!];
    const lasts = time[to]! - time[from]!;
    if (to - from === 1 || lasts > limit) continue;
    for (let i = from + 1; i < to; i++) {
      const share = isStraight && lasts > 0 ? (time[i]! - time[from]!) / lasts : 0;
      closed[i] = values[from]! + share * (values[to]! - values[from]!);
    }
  }
  return closed;
}
