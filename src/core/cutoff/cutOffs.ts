/** Everything about loads that go off too soon: the cut-offs, the battery's resistance, the paths to the loads. */

import type { Counting } from '../count/types';
import { firstAtOrAfter } from '../log/grid';
import { anyLogWith, type Timeline } from '../log/timeline';
import { isNumber, mean, quantile } from '../quantity/numbers';
import { DAY, HOUR } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import { aroundReader } from './around';
import { judgeDrops } from './findCutOffs';
import { type LoadCurrent, loadBehind, loadCurrents } from './loadCurrents';
import { loadPaths } from './loadPath';
import { stepResistance } from './loadSteps';
import { heldAt } from './moment';
import { nearMisses } from './nearMisses';
import { promisedReader } from './promised';
import type { CutOff, CutOffs } from './types';
import { asWholeBank } from './wholeBank';

/** So many strips are enough to see how it goes. */
const MOST_STRIPS = 30;
/** A load that is away for longer is counted for so long. */
const MOST_AWAY = DAY;

/** A log that goes back less far says nothing of a day. */
const LEAST_BEFORE = DAY / 2;

/**
 * A that was cut off on the mean of the day before, its pauses with it: of one load among several what its runs took. NaN where it is not
 * known which load it was, or what the day before was like.
 */
function drawnBefore(loads: readonly LoadCurrent[], { at, by, loadAmps, othersGoOn }: CutOff): number {
  const load = loadBehind(loads, by);
  if (!load || at - load.time[0]! < LEAST_BEFORE) return NaN;
  const before = load.amps.subarray(firstAtOrAfter(load.time, at - DAY), firstAtOrAfter(load.time, at));
  return mean(othersGoOn ? before.map((one) => (one < loadAmps / 2 ? 0 : one)) : before);
}

/** The error of the zero that counting is sure of, A: taken off where it is not, it makes a load out of nothing. */
const sureZero = ({ offsetA: { value, deviation } }: Counting): number =>
  Math.abs(value) > 2 * deviation ? value : 0;

export function cutOffsOf(system: KnownSystem, logs: Timeline, counting: Counting | null): CutOffs {
  const timeline = asWholeBank(system, logs);
  const loads = loadCurrents(system, timeline, counting ? sureZero(counting) : 0);
  const heat = anyLogWith(timeline, 'battery_temperature')?.channels.battery_temperature ?? [];
  const { list, doubtful } = judgeDrops(system, timeline, loads, counting);
  const around = aroundReader(timeline, loads);
  const promised = promisedReader(system, timeline);
  const describe = (one: CutOff, k: number) => {
    one.promisedHours = promised(one.at);
    // What was switched off for days would not have run all the while.
    const away = Math.min(one.back - one.last, MOST_AWAY);
    const volts = isNumber(one.loadVolts) ? one.loadVolts : one.volts;
    one.missedWh = (volts * drawnBefore(loads, one) * away) / HOUR;
    if (k < MOST_STRIPS) one.around = around(one.at, one.by);
  };
  list.forEach(describe);
  doubtful.forEach(describe);
  return {
    hasLoads: loads.length > 0,
    list,
    doubtful,
    nearMisses: nearMisses(system, timeline, loads, list),
    resistance: stepResistance(system.bank, timeline, (at) => heldAt(counting, at)),
    paths: loadPaths(loads, timeline),
    celsius: { cold: quantile(heat, 0.1), middle: quantile(heat, 0.5), warm: quantile(heat, 0.9) },
  };
}
