/** Figures as practitioners find them by hand: the tail read into float, the capacity by emptying and refilling (common practice, no source). */

import { median } from '../quantity/numbers';
import { DAY, MINUTE, type Span } from '../quantity/span';
import { firstAtOrAfter, integrate } from '../log/grid';
import type { SourceCharging } from '../charge/types';
import type { Anchor } from './anchors';
import type { CounterLog } from './counterLog';

export interface Recipes {
  /** Battery current five to ten minutes into float, A, median over so many charges; null where no float shows it. */
  tail: { amps: number; charges: number } | null;
  /** What went in between an empty battery and the next full one; null where the log has no such stretch. */
  refill: (Span & { ampHours: number; out: number }) | null;
}

const INTO_FLOAT = { from: 5 * MINUTE, to: 10 * MINUTE };
/** A refill that takes longer has been drawn on too much. */
const LONGEST = 3 * DAY;

export function recipesOf(
  { time, amps }: Pick<CounterLog, 'time' | 'amps'>,
  charging: readonly SourceCharging[],
  anchors: readonly Anchor[],
): Recipes {
  const tails = charging.flatMap(({ charges }) =>
    charges.flatMap(({ stages, full }) =>
      stages.flatMap((stage, i) => {
        const after = stages[i - 1]?.stage === 'absorption';
        if (stage.stage !== 'float' || !after || !full || stage.to - stage.from < INTO_FLOAT.to) return [];
        const from = firstAtOrAfter(time, stage.from + INTO_FLOAT.from);
        const to = firstAtOrAfter(time, stage.from + INTO_FLOAT.to);
        const current = median(amps.subarray(from, Math.max(to, from + 1)));
        return current === current && current > 0 ? [current] : [];
      }),
    ),
  );
  return {
    tail: tails.length > 0 ? { amps: median(tails), charges: tails.length } : null,
    refill: refillOf({ time, amps }, anchors),
  };
}

/** From the last moment at which the battery is empty to the next at which it is full. */
function refillOf(
  { time, amps }: Pick<CounterLog, 'time' | 'amps'>,
  anchors: readonly Anchor[],
): Recipes['refill'] {
  const fulls = anchors.filter((one) => one.kind === 'full').sort((a, b) => a.at - b.at);
  const empties = anchors.filter((one) => one.kind === 'empty').sort((a, b) => a.at - b.at);
  for (const empty of [...empties].reverse()) {
    const full = fulls.find((one) => one.at > empty.at);
    if (!full || full.at - empty.at > LONGEST) continue;
    const span = { from: empty.at, to: full.at };
    const through = integrate(time, amps, span);
    return { ...span, ampHours: through.in, out: through.out };
  }
  return null;
}
