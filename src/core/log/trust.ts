/** Whether a log can be believed: what is found comes before any diagnosis. */

import { duration } from '../quantity/text';
import { lengthOf, type Span } from '../quantity/span';
import { spanOf } from './channels';
import { gapsIn } from './grid';
import type { Timeline } from './timeline';

export interface TrustNote {
  code: 'gaps';
  /** Device whose log it is about. */
  device: string;
  text: string;
  spans: Span[];
}

/** Gaps longer than this share of a log are told. */
const WORTH_TELLING = 0.01;

export function judgeTrust(timeline: Timeline): TrustNote[] {
  const notes: TrustNote[] = [];
  for (const series of timeline.series) {
    const spans = gapsIn(series.time);
    const silent = spans.reduce((total, gap) => total + lengthOf(gap), 0);
    if (silent > WORTH_TELLING * lengthOf(spanOf(series))) {
      const longest = Math.max(...spans.map(lengthOf));
      notes.push({
        code: 'gaps',
        device: series.device,
        text: `The log of ${series.device} is silent for ${duration(silent)} in ${spans.length} ${spans.length === 1 ? 'gap' : 'gaps'}, the longest ${duration(longest)}; nothing was counted in them.`,
        spans,
      });
    }
  }
  return notes;
}
