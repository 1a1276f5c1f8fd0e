/** Which way a current counts, by what the voltage beside it does. */

/** What a positive current means, by what the voltage does when it moves. */
export type Sign = 'charging' | 'discharging' | 'unclear';

/** Fewer steps than this say nothing. */
const LEAST_STEPS = 12;
/** The steps of current and voltage must agree at least so well. */
const AGREE = 0.3;

/**
 * A step of current into the battery lifts its voltage, one out of it lowers it: over the steps that stand out, the two move together when
 * positive is charging and against each other when it is not. Under regulation the voltage stands still, and says nothing.
 */
export function signOf(amps: readonly number[], volts: readonly number[]): Sign {
  const steps: [number, number][] = [];
  for (let i = 1; i < amps.length; i++) {
    const di = amps[i]! - amps[i - 1]!;
    const dv = volts[i]! - volts[i - 1]!;
    if (di === di && dv === dv) steps.push([di, dv]);
  }
  const largest = Math.max(0, ...steps.map(([di]) => Math.abs(di)));
  const standing = steps.filter(([di]) => Math.abs(di) > 0.1 * largest && di !== 0);
  if (standing.length < LEAST_STEPS) return 'unclear';
  let ii = 0;
  let vv = 0;
  let iv = 0;
  for (const [di, dv] of standing) {
    ii += di * di;
    vv += dv * dv;
    iv += di * dv;
  }
  const r = vv > 0 ? iv / Math.sqrt(ii * vv) : 0;
  return Math.abs(r) < AGREE || Math.abs(r) * Math.sqrt(standing.length) < 3
    ? 'unclear'
    : r > 0
      ? 'charging'
      : 'discharging';
}
