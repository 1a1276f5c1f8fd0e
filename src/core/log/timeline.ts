/** Several devices' logs on one clock. Each keeps its own samples; nothing is resampled until it is judged. */

import type { Span } from '../quantity/span';
import { type Channel, type Series, spanOf } from './channels';
import { joinParts } from './join';

export interface Timeline {
  series: Series[];
  /** From the first to the last sample of any device. */
  span: Span;
}

/** Joins logs that were read, each by its own clock; parts of one device's log become one. Empty logs are left out. */
export function timelineOf(series: readonly Series[]): Timeline {
  const filled = joinParts(series.filter((one) => one.time.length > 0));
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

/** The log that was written at the battery itself: the monitor's before that of any other device. */
export const batteryLog = (timeline: Timeline, channel: Channel): Series | null =>
  logOf(timeline, 'monitor', channel) ?? anyLogWith(timeline, channel);

/** A current into the battery with its own times. */
export interface BatteryCurrent {
  time: Float64Array;
  amps: Float32Array;
}

const subtracted = new WeakMap<Series, BatteryCurrent>();

/**
 * The current into the battery as somebody logged it; else, where one log has a source's current and that of the loads, what is
 * left of the source's. Null when neither is there.
 */
export function batteryCurrent(timeline: Timeline): BatteryCurrent | null {
  const logged = anyLogWith(timeline, 'battery_current');
  if (logged) return { time: logged.time, amps: logged.channels.battery_current! };
  const sources = timeline.series.filter((one) => one.channels.source_current);
  const both = sources[0];
  // Of several sources none alone leaves the battery what the loads do not take.
  if (sources.length !== 1 || !both?.channels.load_current) return null;
  const known = subtracted.get(both);
  if (known) return known;
  const loads = both.channels.load_current!;
  const current = { time: both.time, amps: both.channels.source_current!.map((one, i) => one - loads[i]!) };
  subtracted.set(both, current);
  return current;
}
