/** A battery holds no more than all and no less than nothing: where the count says otherwise, that says something too. */

import { type Measurement, type Motion, smooth, type Smoother } from './smoother';

/** Each costs a run of the smoother; a log that is beyond all of them is told by its band. */
const ROUNDS = 4;
/** Beyond by less is within the doubt of counting. */
const BEYOND = 0.02;

/** A smoothed course with its level held between empty and full. */
export function withinBounds(
  { motion, start, smoothed }: { motion: Motion; start: Parameters<typeof smooth>[2]; smoothed: Smoother },
  measurements: readonly Measurement[],
): Smoother {
  const bounds: Measurement[] = [];
  let held = smoothed;
  for (let round = 0; round < ROUNDS; round++) {
    const beyond = furthestBeyond(held);
    if (!beyond) break;
    bounds.push(beyond);
    held = smooth(
      motion,
      [...measurements, ...bounds].sort((a, b) => a.step - b.step),
      start,
    );
  }
  return held;
}

/**
 * The step at which the level is furthest beyond full or empty, as the measurement that cuts the forbidden part off its distribution:
 * mean and variance of a truncated normal. Null where it stays within.
 */
function furthestBeyond({ level, deviation }: Smoother): Measurement | null {
  let step = -1;
  let most = BEYOND;
  for (let k = 0; k < level.length; k++) {
    const by = Math.max(level[k]! - 1, -level[k]!);
    if (by > most) {
      most = by;
      step = k;
    }
  }
  if (step < 0) return null;
  const above = level[step]! > 0.5;
  const mean = above ? level[step]! - 1 : -level[step]!;
  const sd = Math.max(deviation[step]!, 0.01);
  // Of a normal about `mean`, what lies under nothing.
  const edge = -mean / sd;
  const ratio = density(edge) / Math.max(below(edge), 1e-12);
  const variance = Math.max(sd * sd * (1 - edge * ratio - ratio * ratio), 1e-6);
  const cut = mean - sd * ratio;
  const noise = 1 / Math.max(1 / variance - 1 / (sd * sd), 1e-6);
  const value = mean + ((cut - mean) * (sd * sd + noise)) / (sd * sd);
  return { step, value: above ? 1 + value : -value, deviation: Math.max(0.02, Math.sqrt(noise)), h: [1] };
}

const density = (x: number): number => Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI);

/** Share of a normal distribution below x (Abramowitz and Stegun, Handbook of Mathematical Functions, 26.2.17, within 7.5e-8). */
function below(x: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(x));
  const poly =
    t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  const upper = density(x) * poly;
  return x >= 0 ? 1 - upper : upper;
}
