/** What a meter can tell apart: the step of its last digit, and its noise. */

import { quantile } from '../quantity/numbers';

/** Scatter of second differences whose median or fifth is taken, in standard deviations of one value. */
const MEDIAN_OF_SECONDS = Math.sqrt(6) / 1.4826;
const FIFTH_OF_SECONDS = Math.sqrt(6) * 0.2533;
/** Loads that switch faster than the logger writes make the median so many times what the calmest moments show. */
const SWITCHING = 3;

/** Quantum of a meter, and its noise as one standard deviation: the quantum as a uniform error, joined by the scatter of second differences. */
export function resolutionOf(values: Float32Array): { quantum: number; noise: number } {
  const stride = Math.max(1, Math.floor(values.length / 20_000));
  const seconds: number[] = [];
  const steps: number[] = [];
  for (let i = 2; i < values.length; i += stride) {
    const step = Math.abs(values[i]! - values[i - 1]!);
    if (step > 1e-6) steps.push(step);
    seconds.push(Math.abs(values[i]! - 2 * values[i - 1]! + values[i - 2]!));
  }
  const quantum = steps.length > 0 ? quantile(steps, 0.02) : 0;
  if (seconds.length === 0) return { quantum, noise: quantum / Math.sqrt(12) };
  const usual = Math.hypot(quantum / Math.sqrt(12), quantile(seconds, 0.5) / MEDIAN_OF_SECONDS);
  const calm = Math.hypot(quantum / 2, quantile(seconds, 0.2) / FIFTH_OF_SECONDS);
  return { quantum, noise: usual > SWITCHING * calm ? calm : usual };
}

/** A meter shows at least so many different values, and all but this part of them are whole steps of its last digit. */
const DIGIT = { values: 4, off: 0.02, within: 0.02 };

/** The step of a meter's last digit; 0 where it shows everything, or so few values that they may be what there was to measure. */
export function lastDigit(values: Float32Array): number {
  const { quantum } = resolutionOf(values);
  if (!(quantum > 0)) return 0;
  const stride = Math.max(1, Math.floor(values.length / 20_000));
  const shown = new Set<number>();
  let known = 0;
  let off = 0;
  for (let i = 0; i < values.length; i += stride) {
    const steps = values[i]! / quantum;
    if (steps !== steps) continue;
    known++;
    if (Math.abs(steps - Math.round(steps)) > DIGIT.within) off++;
    else shown.add(Math.round(steps));
  }
  return shown.size >= DIGIT.values && off <= DIGIT.off * known ? quantum : 0;
}
