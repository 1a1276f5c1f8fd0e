/** Resistance between battery and load: what the two voltages part by, over what the load draws. */

import { interpolateAt } from '../log/interpolateAt';
import { robustLeastSquares } from '../count/leastSquares';
import { quantile } from '../quantity/numbers';
import { batteryLog, type Timeline } from '../log/timeline';
import type { LoadCurrent } from './loadCurrents';
import { resistanceTrend } from './trend';
import type { LoadPath } from './types';

/** Fewer moments tell nothing; so many are enough. */
/** Part of the usual current from which a moment says something of the path. */
const TELLS = 0.3;
const MOMENTS = { fewest: 50, most: 20_000 };

export function loadPaths(loads: readonly LoadCurrent[], timeline: Timeline): LoadPath[] {
  const log = batteryLog(timeline, 'battery_voltage');
  if (!log) return [];
  return loads.flatMap(({ id, time, amps, volts }): LoadPath[] => {
    if (!volts || id === null) return [];
    const battery = interpolateAt(log.time, log.channels.battery_voltage!, time);
    const stride = Math.max(1, Math.floor(time.length / MOMENTS.most));
    const x: number[] = [];
    const at: number[] = [];
    const y: number[] = [];
    for (let i = 1; i + 1 < time.length; i += stride) {
      const apart = battery[i]! - volts[i]!;
      // Where the current steps two meters are never read at the same moment.
      const steady = Math.abs(amps[i + 1]! - amps[i - 1]!) <= 0.1 * Math.abs(amps[i]!) + 0.1;
      if (apart !== apart || !(amps[i]! >= 0) || !steady || volts[i]! < 6) continue;
      x.push(amps[i]!);
      at.push(time[i]!);
      y.push(apart);
    }
    const most = quantile(x, 0.98);
    if (x.length < MOMENTS.fewest || !(most - quantile(x, 0.02) > 0.2 * most)) return [];
    const fit = robustLeastSquares({
      columns: [Float64Array.from(x), new Float64Array(x.length).fill(1)],
      values: Float64Array.from(y),
    });
    if (!fit) return [];
    const ohms = fit.values[0]!;
    const apart = fit.values[1]!;
    // A small current says little, and at nothing it says nothing.
    const measures = x.flatMap((drawn, k) =>
      drawn > TELLS * most ? [{ at: at[k]!, ohms: (y[k]! - apart) / drawn, weight: drawn * drawn }] : [],
    );
    return [
      {
        id,
        ohms,
        error: fit.errors[0]! * Math.sqrt(10),
        apart,
        amps: most,
        trend: resistanceTrend(measures),
      },
    ];
  });
}
