/**
 * A bank of two halves in series with a charger across each. The loads draw the same current through both, so each half is a site of its
 * own under the same sky.
 */

import type { Channel } from '../log/channels';
import { seededRandom, type Random } from './random';
import { runSite, type SiteSpec, type Truth } from './site';

/** @param sees what the monitor's voltage is: of the whole bank, or of the lower half, in whose lead its shunt sits */
export function runHalves(
  { lower, upper }: { lower: SiteSpec; upper: SiteSpec },
  sees: 'bank' | 'lower',
  random: Random,
): Truth {
  // The same seed gives both the same clouds.
  const seed = Math.floor(random.next() * 1e9);
  const low = runSite(lower, seededRandom(seed));
  const high = runSite(upper, seededRandom(seed));
  const of = (truth: Truth, channel: Channel) => truth.series.channels[channel]!;
  const volts = of(low, 'battery_voltage').map((one, i) => one + of(high, 'battery_voltage')[i]!);
  return {
    series: {
      ...low.series,
      channels: {
        ...low.series.channels,
        battery_voltage: volts,
        midpoint_voltage: of(low, 'battery_voltage'),
      },
    },
    of: {
      ...high.of,
      ...low.of,
      ...(sees === 'lower'
        ? { monitor: { ...low.of.monitor, battery_voltage: of(low, 'battery_voltage') } }
        : {}),
    },
    // A bank is as full as its emptier half.
    trueCharge: low.trueCharge.map((one, i) => Math.min(one, high.trueCharge[i]!)),
    holding: { ...low.holding, ...high.holding },
    cuts: [...low.cuts, ...high.cuts].sort((a, b) => a.at - b.at),
  };
}
