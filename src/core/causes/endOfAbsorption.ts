/** Absorptions that the charger ended itself, and what the battery still took then. */

import { HOUR } from '../quantity/span';
import type { Charge, Stage } from '../charge/types';

export interface Ended {
  charge: Charge;
  stage: Stage;
  /** Absorption held in this charge, ms, clouds left out. */
  heldMs: number;
  /** Current at the end that went into the battery, A. */
  endAmps: number;
}

/** The source went, or a load took all that it has, during absorption; neither the edge of the log nor a BMS cut it off. */
export function brokeOff({ stages }: Charge): boolean {
  const absorbed = stages.filter((one) => one.stage === 'absorption');
  const last = absorbed.at(-1);
  return (
    (last?.endedBy === 'source-lost' || last?.endedBy === 'load') &&
    !stages.slice(stages.indexOf(last)).some((one) => one.stage === 'float') &&
    !absorbed.some((one) => one.cutOff || one.blocked)
  );
}

/** The absorption of a charge that the charger itself ended by going to float; none when charging broke off first. */
export function endedByCharger(charge: Charge): Ended[] {
  const at = charge.stages.findIndex(
    (stage, i) =>
      stage.stage === 'absorption' &&
      (charge.stages[i + 1]?.stage === 'float' ||
        // Where others go on holding the voltage, only a clock tells that it left by itself.
        (charge.stages[i + 1]?.stage === 'hold' && stage.endedBy === 'timer')),
  );
  if (at < 0) return [];
  const stage = charge.stages[at]!;
  const absorbed = charge.stages.slice(0, at + 1).filter((one) => one.stage === 'absorption');
  if (absorbed.some((one) => one.cutOff)) return [];
  const heldMs = absorbed.reduce((sum, one) => sum + one.heldMs, 0);
  if (stage.endAmpsAreBattery) return [{ charge, stage, heldMs, endAmps: stage.endAmps }];
  const float = charge.stages[at + 1]!;
  if (float.stage !== 'float' || float.heldMs < HOUR) return [];
  return [{ charge, stage, heldMs, endAmps: withoutLoads(stage, float) }];
}

/**
 * What the battery took of the charger's current at the end of a stage, A. What the charger gives on float is mostly loads: those that ran
 * as the stage ended show soon after, others by what is usual.
 */
function withoutLoads({ endSourceAmps }: Stage, { usualSourceAmps, soonSourceAmps }: Stage): number {
  const loads = soonSourceAmps > usualSourceAmps ? soonSourceAmps : usualSourceAmps;
  return Math.max(0, endSourceAmps - loads);
}

/**
 * A charge that goes from bulk to float at once, in a log in which no absorption is seen: what ended it took moments. A float that has
 * only dipped is not meant: the charger gave far more than it does on float.
 */
export function leftAtOnce(charge: Charge): Ended[] {
  return charge.stages.flatMap((stage, i) => {
    const float = charge.stages[i + 1];
    if (stage.stage !== 'bulk' || float?.stage !== 'float' || float.heldMs < HOUR || stage.cutOff) return [];
    if (stage.topVolts < float.volts || !(stage.endSourceAmps > 2 * float.usualSourceAmps)) return [];
    const endAmps = stage.endAmpsAreBattery ? stage.endAmps : withoutLoads(stage, float);
    return [{ charge, stage: { ...stage, volts: stage.topVolts }, heldMs: 0, endAmps }];
  });
}
