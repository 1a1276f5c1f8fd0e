/** Everything about loads that go off too soon: the cut-offs, the battery's resistance, the paths to the loads. */

import type { Counting } from '../count/types';
import { anyLogWith, type Timeline } from '../log/timeline';
import { quantile } from '../quantity/numbers';
import type { KnownSystem } from '../system/known';
import { heldAt } from './moment';
import { findCutOffs } from './findCutOffs';
import { loadCurrents } from './loadCurrents';
import { loadPaths } from './loadPath';
import { stepResistance } from './loadSteps';
import type { CutOffs } from './types';

export function cutOffsOf(system: KnownSystem, timeline: Timeline, counting: Counting | null): CutOffs {
  const loads = loadCurrents(system, timeline, counting?.offsetA.value ?? 0);
  const heat = anyLogWith(timeline, 'battery_temperature')?.channels.battery_temperature ?? [];
  return {
    hasLoads: loads.length > 0,
    list: findCutOffs(system, timeline, loads, counting),
    resistance: stepResistance(system.bank, timeline, (at) => heldAt(counting, at)),
    paths: loadPaths(loads, timeline),
    celsius: { cold: quantile(heat, 0.1), middle: quantile(heat, 0.5), warm: quantile(heat, 0.9) },
  };
}
