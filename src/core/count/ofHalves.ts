/**
 * What a shunt in a lead of a split bank can show: a charger across the other half never passes it, however it is wired, and while that one
 * charges alone the bank stands high though the half in whose lead the shunt sits is drawn on.
 */

import type { Timeline } from '../log/timeline';
import type { KnownSystem } from '../system/known';
import type { Source } from '../system/schema';
import { voltsOf } from './countedParts';
import type { CounterLog } from './counterLog';
import type { Share } from './shares';
import { isUnseen } from './trueCurrent';

const OTHER = { lower: 'upper', upper: 'lower' } as const;

/** Shares without those of the chargers of one half that are not seen, unless the chargers of the other half are not seen either. */
export function withoutOtherHalf(
  { sources }: { sources: readonly Pick<Source, 'id' | 'across'>[] },
  shares: readonly Share[],
): Share[] {
  const halfOf = ({ id, kind }: Share) => {
    const across = kind === 'source' ? sources.find((one) => one.id === id)?.across : undefined;
    return across === undefined || across === 'bank' ? null : across;
  };
  const isHidden = (half: 'lower' | 'upper') => {
    const own = shares.filter((one) => halfOf(one) === half);
    return own.length > 0 && own.every(isUnseen);
  };
  return shares.filter((one) => {
    const half = halfOf(one);
    return half === null || !isUnseen(one) || isHidden(OTHER[half]);
  });
}

/**
 * V that the bank would stand at with both halves as the one that stands lower; as it was logged where its halves have no chargers of their
 * own, or where the voltage of each is not known.
 * @param volts of the bank, in the cells of the counter's grid
 */
export function asLowestHalf(
  system: KnownSystem,
  timeline: Timeline,
  log: CounterLog,
  volts: Float32Array,
): Float32Array {
  if (!system.sources.some(({ across }) => across === 'lower' || across === 'upper')) return volts;
  const lower = voltsOf({ system, timeline, log }, 'lower');
  const upper = voltsOf({ system, timeline, log }, 'upper');
  return lower && upper ? volts.map((_, i) => 2 * Math.min(lower[i]!, upper[i]!)) : volts;
}
