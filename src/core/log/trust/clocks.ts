/** Do the clocks of the logs agree? */

import { duration } from '../../quantity/text';
import { MINUTE } from '../../quantity/span';
import { clockOffset } from '../clockOffset';
import { medianStep } from '../grid';
import type { TrustInput, TrustNote } from './note';

/**
 * The shifted voltages must agree at least so well, better than unshifted by so much, and better than at any other shift: well with a small
 * margin, or, as in logs of few samples, fairly with a large one.
 */
const ENOUGH = [
  { agree: 0.7, better: 0.04, distinct: 0.04 },
  { agree: 0.5, better: 0.25, distinct: 0.25 },
];

export function clocks({ timeline }: TrustInput): TrustNote[] {
  // Each log is held against the monitor's, or else against the first.
  const first = timeline.series.find((one) => one.device === 'monitor') ?? timeline.series[0];
  if (!first) return [];
  return timeline.series.flatMap((second): TrustNote[] => {
    if (second === first || second.device === first.device) return [];
    const found = clockOffset(first, second);
    if (!found) return [];
    const worth = Math.max(2 * MINUTE, 1.5 * Math.max(medianStep(first.time), medianStep(second.time)));
    const sure = ENOUGH.some(
      ({ agree, better, distinct }) =>
        found.shifted >= agree && found.shifted - found.unshifted >= better && found.distinct >= distinct,
    );
    if (!sure || Math.abs(found.ms) < worth) return [];
    const ahead = found.ms < 0;
    return [
      {
        code: 'clock-offset',
        devices: [first.device, second.device],
        text: `The clock of ${second.device} is ${duration(Math.abs(found.ms))} ${ahead ? 'ahead of' : 'behind'} that of ${first.device}: shifted by as much, their voltages agree (correlation ${found.shifted.toFixed(2)} instead of ${found.unshifted.toFixed(2)}).`,
        spans: [found.overlap],
      },
    ];
  });
}
