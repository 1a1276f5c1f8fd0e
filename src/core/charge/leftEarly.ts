/**
 * A charger that left absorption because another gave most of what the battery took: by its own current it had reason to stop, by the
 * battery's it had none.
 */

import { median } from '../quantity/numbers';
import { lengthOf, MINUTE } from '../quantity/span';
import { CHEMISTRY, fullTailAmps } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { firstAtOrAfter } from '../log/grid';
import type { Timeline } from '../log/timeline';
import type { Charge, Stage } from './types';
import type { ChargeView } from './view';

export interface LeftEarly {
  /** Absorptions that the charger ended itself, and those of them that it left so. */
  ended: number;
  stages: Stage[];
  /** At the end of those: its own current, the battery's, and what other sources gave, medians, A. */
  ownAmps: number;
  batteryAmps: number;
  othersAmps: number;
}

/** The battery takes so many tails, and others give at least this part of it, its own share at most that. */
const STILL_CHARGING = 1.5;
const OTHERS = 0.12;
const OWN = 0.88;
const WINDOW = 10 * MINUTE;
/** Others that give less than this part of it so long after have left as well: nobody went on charging. */
const GO_ON = { part: 0.5, after: 20 * MINUTE };
/** What is shorter than this is a jump of the voltage. */
const LEAST = 3 * MINUTE;

/** Null where the battery's current is not known beside the source's own. */
export function leftEarlyOf(
  view: ChargeView,
  charges: readonly Charge[],
  timeline: Timeline,
  bank: KnownBank,
): LeftEarly | null {
  if (!view.batteryAmps || view.ampsAreBattery) return null;
  const { earlyTailPercent } = CHEMISTRY[bank.chemistry];
  const tail = fullTailAmps(bank);
  // With more than this of its own, a charger that stops has a threshold that is too high, whatever others give.
  const reason = (earlyTailPercent / 100) * bank.capacityAh;
  const logs = timeline.series.filter(
    (one) => one.device !== view.source && one.channels.source_current !== undefined,
  );
  const othersAt = (ms: number): number =>
    logs.reduce((sum, { time, channels }) => {
      const from = firstAtOrAfter(time, ms - WINDOW);
      const to = firstAtOrAfter(time, ms);
      return sum + (to > from ? median(channels.source_current!.subarray(from, to)) || 0 : 0);
    }, 0);
  let ended = 0;
  const left: { stage: Stage; own: number; battery: number; others: number }[] = [];
  for (const { stages } of charges)
    stages.forEach((stage, i) => {
      // Between absorption and what follows the voltage only sinks for a moment.
      const next = stages.slice(i + 1).find((one) => lengthOf(one) >= LEAST)?.stage;
      if (
        stage.stage !== 'absorption' ||
        stage.cutOff ||
        stage.heldMs < LEAST ||
        stage.endedBy === 'timer' ||
        (next !== 'float' && next !== 'hold')
      )
        return;
      if (!stage.endAmpsAreBattery || stage.blocked) return;
      ended++;
      // A threshold ends it at a moment in which loads leave the charger least to do.
      const own = stage.leastEndAmps;
      const battery = stage.endAmps;
      // Without their logs, others give at least what the battery takes and this source does not give.
      const others = Math.max(battery - own, othersAt(stage.to));
      if (logs.length > 0 && othersAt(stage.to + GO_ON.after) < GO_ON.part * others) return;
      if (
        battery >= STILL_CHARGING * tail &&
        own <= Math.min(reason, OWN * battery) &&
        others >= OTHERS * battery
      )
        left.push({ stage, own, battery, others });
    });
  return {
    ended,
    stages: left.map((one) => one.stage),
    ownAmps: median(left.map((one) => one.own)),
    batteryAmps: median(left.map((one) => one.battery)),
    othersAmps: median(left.map((one) => one.others)),
  };
}
