/** Resistance between battery and load: what the two voltages part by, over what the load draws. */

import { interpolateAt } from '../log/interpolateAt';
import { robustLeastSquares } from '../count/leastSquares';
import { median, quantile } from '../quantity/numbers';
import { batteryLog, type Timeline } from '../log/timeline';
import type { LoadCurrent } from './loadCurrents';
import { resistanceTrend } from './trend';
import type { LoadPath } from './types';

/** Part of the usual current from which a moment says something of the path. */
const TELLS = 0.3;
/** Fewer moments tell nothing; so many are enough. */
const MOMENTS = { fewest: 50, most: 20_000 };
/** A current that stays within this part of it, and so many A, is steady; a voltage within so many V. */
const STEADY = { part: 0.1, amps: 0.1, volts: 0.05 };
/**
 * Runs of a single sample tell where the battery's own current steps with the load's, by this part of it at the least: then both meters
 * were read while it ran. So many of them, that say the same within this part; each draws so many times what goes on.
 */
const LONE = { steps: 0.7, fewest: 8, differ: 0.1, above: 4 };
/** A load that seldom runs: what it draws then is what lies above half of all but this part of its moments, so many times at least. */
const SELDOM = { part: 0.002, fewest: 6 };

export function loadPaths(loads: readonly LoadCurrent[], timeline: Timeline): LoadPath[] {
  const log = batteryLog(timeline, 'battery_voltage');
  if (!log) return [];
  return loads.flatMap(({ id, time, amps, volts }): LoadPath[] => {
    if (!volts || id === null) return [];
    const battery = interpolateAt(log.time, log.channels.battery_voltage!, time);
    const current = log.channels.battery_current;
    const stride = Math.max(1, Math.floor(time.length / MOMENTS.most));
    const x: number[] = [];
    const at: number[] = [];
    const y: number[] = [];
    for (let i = 1; i + 1 < time.length; i += stride) {
      const apart = battery[i]! - volts[i]!;
      // Where the current steps two meters are never read at the same moment; a short run is told by its second sample.
      const still = (one: number, other: number) => Math.abs(amps[one]! - amps[other]!) <= roomAt(amps[i]!);
      const steady =
        still(i, i - 1) && (still(i, i + 1) || Math.abs(battery[i]! - battery[i - 1]!) <= STEADY.volts);
      if (apart !== apart || !(amps[i]! >= 0) || !steady || volts[i]! < 6) continue;
      x.push(amps[i]!);
      at.push(time[i]!);
      y.push(apart);
    }
    for (const i of current ? loneRuns(amps, volts, battery, interpolateAt(log.time, current, time)) : []) {
      x.push(amps[i]!);
      at.push(time[i]!);
      y.push(battery[i]! - volts[i]!);
    }
    const half = quantile(x, 1 - SELDOM.part) / 2;
    const runs = x.filter((one) => one > half);
    const most = Math.max(quantile(x, 0.98), runs.length >= SELDOM.fewest ? median(runs) : 0);
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

const roomAt = (amps: number): number => STEADY.part * Math.abs(amps) + STEADY.amps;

/** Samples of runs that last no longer than one; none where they do not agree. */
function loneRuns(
  amps: Float32Array,
  volts: Float32Array,
  battery: Float32Array,
  drawn: Float32Array,
): number[] {
  const found: { i: number; ohms: number }[] = [];
  for (let i = 1; i + 1 < amps.length; i++) {
    const usual = amps[i - 1]!;
    const stepped = amps[i]! - usual;
    const isLone =
      amps[i]! > LONE.above * Math.abs(usual) + STEADY.amps &&
      Math.abs(amps[i + 1]! - usual) <= roomAt(usual) &&
      drawn[i - 1]! - drawn[i]! > LONE.steps * stepped;
    if (isLone)
      found.push({ i, ohms: (battery[i]! - volts[i]! - battery[i - 1]! + volts[i - 1]!) / stepped });
  }
  const ohms = found.map((one) => one.ohms);
  const spread = quantile(ohms, 0.9) - quantile(ohms, 0.1);
  return found.length >= LONE.fewest && spread <= LONE.differ * Math.abs(median(ohms))
    ? found.map((one) => one.i)
    : [];
}
