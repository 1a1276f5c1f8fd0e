/** Where a log is silent, and whether it samples often enough to be judged. */

import { counted, duration } from '../../quantity/text';
import { lengthOf, MINUTE } from '../../quantity/span';
import { spanOf } from '../channels';
import { gapsIn, medianStep } from '../grid';
import { deviceName, type TrustInput, type TrustNote } from './note';

/** Gaps longer than this share of a log are told. */
const WORTH_TELLING = 0.01;

export function gaps({ timeline, system }: TrustInput): TrustNote[] {
  return timeline.series.flatMap((series): TrustNote[] => {
    const spans = gapsIn(series.time);
    const silent = spans.reduce((total, gap) => total + lengthOf(gap), 0);
    if (silent <= WORTH_TELLING * lengthOf(spanOf(series))) return [];
    const longest = Math.max(...spans.map(lengthOf));
    return [
      {
        code: 'gaps',
        devices: [series.device],
        text: `The log of ${deviceName(system, series.device)} is silent for ${duration(silent)} in ${counted(spans.length, 'gap')}, the longest ${duration(longest)}; nothing was counted in them.`,
        spans,
      },
    ];
  });
}

/** A step longer than this hides short stages and what ended them, ms. */
const COARSE = 10 * MINUTE;

export function sampledTooCoarsely({ timeline, system }: TrustInput): TrustNote[] {
  return timeline.series.flatMap((series): TrustNote[] => {
    const step = medianStep(series.time);
    if (!(step > COARSE)) return [];
    return [
      {
        code: 'sampled-too-coarsely',
        devices: [series.device],
        text: `The log of ${deviceName(system, series.device)} has a sample every ${duration(step)}: what is shorter, such as a stage, a cloud or a load step, cannot be seen in it.`,
        spans: [spanOf(series)],
      },
    ];
  });
}
