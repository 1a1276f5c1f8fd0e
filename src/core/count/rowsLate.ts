/** By how many rows a device's clock is late or early beside the monitor's: too little to be set right, and a row too much for steps. */

/** Rows either way; steps that tell; the part of a step that the monitor then shows, and how many times that of the row beside it. */
const LATE = { rows: 2, fewest: 12, shows: 0.3, times: 1.5 };

/**
 * A monitor that shows a device's steps, each a row or two sooner or later, sees them: its clock is that late. What it does not see it shows
 * in no row.
 * @param own the device's current in the cells, positive where it charges. @param amps the monitor's, A
 * @param least a step of the device that tells, A
 * @returns rows by which the device is late; 0 where it is not, or where that does not show
 */
export function rowsLate(own: Float32Array, amps: Float32Array, least: number): number {
  const shows = new Float64Array(2 * LATE.rows + 1);
  let steps = 0;
  let squares = 0;
  for (let i = LATE.rows + 1; i < own.length - LATE.rows; i++) {
    const step = own[i]! - own[i - 1]!;
    if (!(Math.abs(step) >= least)) continue;
    const seen: number[] = [];
    for (let k = -LATE.rows; k <= LATE.rows; k++) seen.push(amps[i - k]! - amps[i - k - 1]!);
    if (!seen.every(isFinite)) continue;
    steps++;
    squares += step * step;
    seen.forEach((one, k) => (shows[k]! += one * step));
  }
  // Where it shows most it may show the wrong way round: what comes and goes is as much the other way round some rows on.
  const most = shows.map(Math.abs);
  const at = most.indexOf(Math.max(...most));
  const isPlain =
    steps >= LATE.fewest && shows[at]! >= LATE.shows * squares && shows[at]! >= LATE.times * most[LATE.rows]!;
  return isPlain ? at - LATE.rows : 0;
}

/** A device's current in the cells, so many rows sooner. */
export const rowsSooner = (own: Float32Array, rows: number): Float32Array =>
  rows === 0 ? own : own.map((_, i) => own[i + rows] ?? NaN);
