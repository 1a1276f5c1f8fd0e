/**
 * Regulated or supply-limited: the question behind every judgement of a charge. In regulation the voltage stands still while
 * the current moves by itself; with a limited supply the voltage follows the current, or climbs while the current stands still.
 */

import type { ChargeView } from './view';
import { clamp } from '../quantity/numbers';

/** Half an hour and longer look flat for many reasons; these two windows see a short plateau and a slow climb. Minutes. */
const SHORT_MINUTES = 12;
const LONG_MINUTES = 45;

/** Scatter about its line, in parts of the drift, under which a window is a climb; the edge of a plateau has 0.17 at least. */
const CLIMBING = 0.13;

export interface Regulation {
  /**
   * Per cell: natural log of the likelihood that the voltage is being held over that it follows the supply, −6 to 6. About 0
   * where the log cannot tell (voltage and current both stand still), NaN in gaps.
   */
  held: Float32Array;
}

/** Running sums over cells with both V and I, so that any window costs the same. */
interface Sums {
  n: Float64Array;
  t: Float64Array;
  v: Float64Array;
  i: Float64Array;
  tt: Float64Array;
  tv: Float64Array;
  ti: Float64Array;
  vv: Float64Array;
  ii: Float64Array;
  vi: Float64Array;
}

function runningSums(volts: Float32Array, amps: Float32Array, level: number): Sums {
  const size = volts.length + 1;
  const make = () => new Float64Array(size);
  const s: Sums = {
    n: make(),
    t: make(),
    v: make(),
    i: make(),
    tt: make(),
    tv: make(),
    ti: make(),
    vv: make(),
    ii: make(),
    vi: make(),
  };
  for (let k = 0; k < volts.length; k++) {
    const known = volts[k]! === volts[k]! && amps[k]! === amps[k]!;
    // Times and volts about a level, so that the differences of large sums stay exact.
    const t = known ? k : 0;
    const v = known ? volts[k]! - level : 0;
    const i = known ? amps[k]! : 0;
    s.n[k + 1] = s.n[k]! + (known ? 1 : 0);
    s.t[k + 1] = s.t[k]! + t;
    s.v[k + 1] = s.v[k]! + v;
    s.i[k + 1] = s.i[k]! + i;
    s.tt[k + 1] = s.tt[k]! + t * t;
    s.tv[k + 1] = s.tv[k]! + t * v;
    s.ti[k + 1] = s.ti[k]! + t * i;
    s.vv[k + 1] = s.vv[k]! + v * v;
    s.ii[k + 1] = s.ii[k]! + i * i;
    s.vi[k + 1] = s.vi[k]! + v * i;
  }
  return s;
}

interface WindowShape {
  /** Voltage change along the window's own line, and scatter about it, V. */
  drift: number;
  scatter: number;
  /** Spread of the current in the window, A, and slope of V on I, ohms. */
  ampSpread: number;
  slope: number;
}

function shapeOf(s: Sums, from: number, to: number): WindowShape | null {
  const n = s.n[to]! - s.n[from]!;
  if (n < 4 || n < 0.7 * (to - from)) return null;
  const sum = (a: Float64Array) => a[to]! - a[from]!;
  const t = sum(s.t) / n;
  const v = sum(s.v) / n;
  const i = sum(s.i) / n;
  const tt = sum(s.tt) / n - t * t;
  const tv = sum(s.tv) / n - t * v;
  const vv = Math.max(0, sum(s.vv) / n - v * v);
  const ii = Math.max(0, sum(s.ii) / n - i * i);
  const vi = sum(s.vi) / n - v * i;
  const perCell = tt > 0 ? tv / tt : 0;
  return {
    drift: perCell * (to - from),
    scatter: Math.sqrt(Math.max(0, vv - perCell * tv)),
    ampSpread: Math.sqrt(ii),
    slope: ii > 0 ? vi / ii : 0,
  };
}

/**
 * Judges every cell of a view.
 * @param capacityAh sets what resistance a battery of that size can at least have.
 */
export function judgeRegulation(view: ChargeView, capacityAh: number): Regulation {
  const { volts, amps, grid, blocks } = view;
  const held = new Float32Array(grid.count).fill(NaN);
  const sums = runningSums(volts, amps, 12.5 * blocks);
  const cellsOf = (minutes: number) => Math.max(5, Math.round((minutes * 60_000) / grid.step));
  const short = cellsOf(SHORT_MINUTES);
  const long = cellsOf(LONG_MINUTES);
  // Voltage may move this much and still stand still: meter noise, or 30 mV a 12 V block of regulator ripple and cable drop.
  const still = Math.max(2.5 * view.voltNoise, 1.1 * view.voltQuantum, 0.03 * blocks);
  // A 12 V, 100 Ah battery answers slow changes of current with 12 mΩ at the very least.
  const leastOhms = (1.2 / capacityAh) * blocks;

  for (let cell = 0; cell < grid.count; cell++) {
    if (volts[cell]! !== volts[cell]! || amps[cell]! !== amps[cell]!) continue;
    const near = bestWindow(sums, cell, short, grid.count);
    if (!near) {
      held[cell] = 0;
      continue;
    }
    const moves = Math.max(Math.abs(near.drift), 2 * near.scatter);
    // How far the voltage would have moved had it followed this current.
    const would = 2 * leastOhms * near.ampSpread;
    let score: number;
    if (moves <= still) score = 0.4 + Math.min(4, (2 * would) / still);
    else {
      score = -Math.min(6, 1.5 * (moves / still - 1));
      if (near.slope > leastOhms && near.ampSpread > 3 * view.ampNoise) score -= 1;
      if (near.slope < 0 && near.ampSpread > 3 * view.ampNoise) score += 1;
    }
    if (score > 0) {
      // Flat for minutes may still be a slow climb: then the longer window drifts whichever way it is laid.
      const far = bestWindow(sums, cell, long, grid.count);
      if (far) {
        const drifts = Math.max(Math.abs(far.drift), 2 * far.scatter);
        // A climb so slow that the short window could not see it; a steeper one it would have seen.
        const hidden = Math.abs(far.drift) * (short / long) < 2 * still;
        if (drifts <= 1.5 * still) score += 1.5;
        else if (would < still && hidden && far.scatter < CLIMBING * Math.abs(far.drift))
          score -= Math.min(5, 2 * (drifts / still - 1.5));
      }
    }
    held[cell] = clamp(score, -6, 6);
  }
  return { held };
}

/** The window before, around or after a cell in which the voltage stands stillest: an edge must not blur into a plateau. */
function bestWindow(s: Sums, cell: number, size: number, count: number): WindowShape | null {
  let best: WindowShape | null = null;
  let least = Infinity;
  for (const from of [cell - size + 1, cell - (size >> 1), cell]) {
    if (from < 0 || from + size > count) continue;
    const shape = shapeOf(s, from, from + size);
    if (!shape) continue;
    const moves = Math.max(Math.abs(shape.drift), 2 * shape.scatter);
    if (moves < least) {
      least = moves;
      best = shape;
    }
  }
  return best;
}
