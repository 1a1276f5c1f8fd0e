/** Several devices' logs on one clock. Each keeps its own samples; nothing is resampled until it is judged. */

import type { Span } from '../quantity/span';
import { type Channel, type Series, spanOf } from './channels';

export interface Timeline {
  series: Series[];
  /** From the first to the last sample of any device. */
  span: Span;
}

/** Joins logs that were read. Clock offsets were applied when they were read. Empty logs are left out. */
export function timelineOf(series: readonly Series[]): Timeline {
  const filled = series.filter((one) => one.time.length > 0);
  const spans = filled.map(spanOf);
  return {
    series: filled,
    span: { from: Math.min(...spans.map((s) => s.from)), to: Math.max(...spans.map((s) => s.to)) },
  };
}

/** The log of a device that has the wanted channels; null when there is none. */
export function logOf(timeline: Timeline, device: string, ...channels: Channel[]): Series | null {
  return (
    timeline.series.find(
      (one) => one.device === device && channels.every((channel) => one.channels[channel]),
    ) ?? null
  );
}

/** The first log of any device with a channel, in the order of trust: BMS, monitor, then the others. */
export function anyLogWith(timeline: Timeline, channel: Channel): Series | null {
  const trust = (one: Series) => (one.device === 'bms' ? 0 : one.device === 'monitor' ? 1 : 2);
  const having = timeline.series.filter((one) => one.channels[channel]);
  return having.sort((a, b) => trust(a) - trust(b))[0] ?? null;
}
