/** The falling current of absorption: I(t) = I∞ + (I₀ − I∞)·e^(−t/τ), and what it says about time that was missing. */

import { fitLine } from '../quantity/numbers';

export interface TailFit {
  /** A at the start of the fit, and at the end of time. */
  startAmps: number;
  restAmps: number;
  /** Time constant, hours. */
  tauHours: number;
  /** Standard deviation about the curve, A. */
  scatter: number;
}

export interface TailForecast {
  /** Minutes from the end of absorption until the current would have reached the tail; null when it never would. */
  minutes: number | null;
  /** Charge that would have gone in meanwhile, Ah; null when it never would. */
  ampHours: number | null;
}

const TRIALS = 40;

/**
 * Fits the curve by trying time constants from a tenth of the window to six times the window and solving the rest by least
 * squares; twice, the second time without points beyond three scatters (loads that come and go).
 * @param hours since the start of absorption. @param amps battery current. Null for fewer than eight points or no decay.
 */
export function fitTail(hours: ArrayLike<number>, amps: ArrayLike<number>): TailFit | null {
  const n = hours.length;
  if (n < 8) return null;
  const window = hours[n - 1]! - hours[0]!;
  const keep = new Uint8Array(n).fill(1);
  let best: TailFit | null = null;
  for (let round = 0; round < 2; round++) {
    best = null;
    const better = (tau: number, than: TailFit | null): TailFit | null => {
      const fit = solve(hours, amps, keep, tau);
      return fit && (than === null || fit.scatter < than.scatter) ? fit : than;
    };
    const step = 60 ** (1 / (TRIALS - 1));
    for (let trial = 0; trial < TRIALS; trial++) best = better(window * 0.1 * step ** trial, best);
    if (!best) return null;
    // Between the neighbours of the best, ever closer.
    for (let fine = Math.sqrt(step); fine > 1.001; fine = Math.sqrt(fine)) {
      const { tauHours }: TailFit = best;
      best = better(tauHours / fine, better(tauHours * fine, best))!;
    }
    for (let i = 0; i < n; i++)
      keep[i] = Math.abs(amps[i]! - currentAt(best, hours[i]!)) <= 3 * best.scatter ? 1 : 0;
  }
  return best;
}

/** Part of the window that a short stretch of falling current is judged by: the early, fast fall belongs to the acid, not to the charge. */
const LATE = 0.5;

/**
 * The same curve with its end known, τ from the later half: what a window that is short beside τ can be asked. A free end would be
 * anywhere. Within 20 % of the two simulated lead batteries from an hour and a half of absorption on; from less it may say too little.
 * @param restAmps A at the end of time. Null where the current does not fall towards it.
 */
export function fitTowards(
  hours: ArrayLike<number>,
  amps: ArrayLike<number>,
  restAmps: number,
): TailFit | null {
  const from = hours[0]! + (1 - LATE) * (hours[hours.length - 1]! - hours[0]!);
  const x: number[] = [];
  const y: number[] = [];
  for (let i = 0; i < hours.length; i++)
    if (hours[i]! >= from && amps[i]! > restAmps) {
      x.push(hours[i]!);
      y.push(Math.log(amps[i]! - restAmps));
    }
  if (x.length < 6) return null;
  const { slope, intercept, slopeError } = fitLine(x, y);
  if (!(slope < -3 * slopeError)) return null;
  const fit = { startAmps: restAmps + Math.exp(intercept), restAmps, tauHours: -1 / slope, scatter: 0 };
  const squares = x.reduce((sum, one, i) => sum + (Math.exp(y[i]!) + restAmps - currentAt(fit, one)) ** 2, 0);
  return { ...fit, scatter: Math.sqrt(squares / x.length) };
}

export function currentAt({ startAmps, restAmps, tauHours }: TailFit, hours: number): number {
  return restAmps + (startAmps - restAmps) * Math.exp(-hours / tauHours);
}

function solve(
  hours: ArrayLike<number>,
  amps: ArrayLike<number>,
  keep: Uint8Array,
  tau: number,
): TailFit | null {
  let n = 0;
  let e1 = 0;
  let e2 = 0;
  let y1 = 0;
  let ey = 0;
  for (let i = 0; i < hours.length; i++) {
    if (!keep[i] || amps[i]! !== amps[i]!) continue;
    const e = Math.exp(-hours[i]! / tau);
    n++;
    e1 += e;
    e2 += e * e;
    y1 += amps[i]!;
    ey += e * amps[i]!;
  }
  const determinant = n * e2 - e1 * e1;
  if (n < 8 || determinant <= 1e-12) return null;
  let slope = (n * ey - e1 * y1) / determinant;
  let rest = (y1 - slope * e1) / n;
  if (rest < 0) {
    rest = 0;
    slope = ey / e2;
  }
  if (slope <= 0) return null;
  let squares = 0;
  for (let i = 0; i < hours.length; i++) {
    if (!keep[i] || amps[i]! !== amps[i]!) continue;
    squares += (amps[i]! - rest - slope * Math.exp(-hours[i]! / tau)) ** 2;
  }
  return { startAmps: rest + slope, restAmps: rest, tauHours: tau, scatter: Math.sqrt(squares / n) };
}

/** Time and charge from the current at the end of absorption down to the tail: t = τ·ln((I_end − I∞)/(I_tail − I∞)). */
export function forecastTail(fit: TailFit, endAmps: number, tailAmps: number): TailForecast {
  if (endAmps <= tailAmps) return { minutes: 0, ampHours: 0 };
  if (fit.restAmps >= tailAmps) return { minutes: null, ampHours: null };
  const hours = fit.tauHours * Math.log((endAmps - fit.restAmps) / (tailAmps - fit.restAmps));
  const ampHours = fit.restAmps * hours + fit.tauHours * (endAmps - tailAmps);
  return { minutes: hours * 60, ampHours };
}
