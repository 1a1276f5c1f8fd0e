/** Windows of voltage and current: how a short stretch moves along its own line, from running sums that make any window cost the same. */

/** Places of the sums of a cell: how many, and of t, v, i, t², t·v, v², i², v·i. */
const [N, T, V, I, TT, TV, VV, II, VI, SUMS] = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9] as const;
const BLOCK = 1024;
/** Cells of the widest window. */
export const MOST_WINDOW = BLOCK;

/**
 * Running sums over cells with both V and I, so that any window costs the same. They begin anew with each block of cells, and count time
 * from there: over a year of minutes the squares of cell numbers would leave nothing of the voltage's last digits.
 * @returns for each cell its sums, itself included
 */
export function runningSums(volts: Float32Array, amps: Float32Array, level: number): Float64Array {
  const sums = new Float64Array(volts.length * SUMS);
  for (let k = 0; k < volts.length; k++) {
    const at = k * SUMS;
    if (k % BLOCK > 0) sums.copyWithin(at, at - SUMS, at);
    if (volts[k]! !== volts[k]! || amps[k]! !== amps[k]!) continue;
    const t = k % BLOCK;
    // Volts about a level, so that the differences of large sums stay exact.
    const v = volts[k]! - level;
    const i = amps[k]!;
    sums[at + N]! += 1;
    sums[at + T]! += t;
    sums[at + V]! += v;
    sums[at + I]! += i;
    sums[at + TT]! += t * t;
    sums[at + TV]! += t * v;
    sums[at + VV]! += v * v;
    sums[at + II]! += i * i;
    sums[at + VI]! += v * i;
  }
  return sums;
}

/** Sums over cells from ≤ k < to, times counted from the block of `from`, written into `out`. A window reaches over two blocks at most. */
function sumsOver(sums: Float64Array, from: number, to: number, out: Float64Array): void {
  const border = (Math.floor(from / BLOCK) + 1) * BLOCK;
  const last = (Math.min(to, border) - 1) * SUMS;
  const before = from % BLOCK === 0 ? -1 : (from - 1) * SUMS;
  for (let j = 0; j < SUMS; j++) out[j] = sums[last + j]! - (before < 0 ? 0 : sums[before + j]!);
  if (to <= border) return;
  const next = (to - 1) * SUMS;
  for (let j = 0; j < SUMS; j++) out[j]! += sums[next + j]!;
  // Times of the second block are a block later.
  out[T]! += BLOCK * sums[next + N]!;
  out[TT]! += 2 * BLOCK * sums[next + T]! + BLOCK * BLOCK * sums[next + N]!;
  out[TV]! += BLOCK * sums[next + V]!;
}

export interface WindowShape {
  /** Voltage change along the window's own line, and scatter about it, V. */
  drift: number;
  scatter: number;
  /** Spread of the current in the window, A, and slope of V on I, ohms. */
  ampSpread: number;
  slope: number;
}

const sum = new Float64Array(SUMS);

/** What a window of cells from ≤ k < to looks like; null when too few of them are known. */
export function shapeOf(sums: Float64Array, from: number, to: number): WindowShape | null {
  sumsOver(sums, from, to, sum);
  const n = sum[N]!;
  if (n < 4 || n < 0.7 * (to - from)) return null;
  const t = sum[T]! / n;
  const v = sum[V]! / n;
  const i = sum[I]! / n;
  const tt = sum[TT]! / n - t * t;
  const tv = sum[TV]! / n - t * v;
  const vv = Math.max(0, sum[VV]! / n - v * v);
  const ii = Math.max(0, sum[II]! / n - i * i);
  const vi = sum[VI]! / n - v * i;
  const perCell = tt > 0 ? tv / tt : 0;
  return {
    drift: perCell * (to - from),
    scatter: Math.sqrt(Math.max(0, vv - perCell * tv)),
    ampSpread: Math.sqrt(ii),
    slope: ii > 0 ? vi / ii : 0,
  };
}
