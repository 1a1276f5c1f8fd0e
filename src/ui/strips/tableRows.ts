/** The strips as tables, for who cannot see them: what each trace did in the span in view, its stages, its events. */

import type { Span } from '@/core/quantity/span';
import { traceExtent } from './draw';
import { EVENT_WORDS, type StripEvent } from './events';
import type { Lane } from './lanes';
import { momentText } from './momentText';
import type { TileSource } from './tileSource';

export interface TraceRow {
  name: string;
  start: string;
  end: string;
  /** "12.31 V, Mon 21 Sep 2026 05:10" */
  lowest: string;
  highest: string;
}

/** A span is looked at in so many parts. */
const PARTS = 400;

export function traceRows(lane: Lane, source: TileSource, view: Span, zone: string): TraceRow[] {
  return lane.traces.map((trace) => {
    const { min, max } = traceExtent(trace, source, view, PARTS);
    const at = (k: number) => momentText(view.from + ((k + 0.5) * (view.to - view.from)) / PARTS, zone);
    const text = (value: number) => `${value.toFixed(lane.digits)} ${lane.unit}`;
    let low = -1;
    let high = -1;
    let first = -1;
    let last = -1;
    for (let k = 0; k < PARTS; k++) {
      if (min[k]! !== min[k]!) continue;
      if (first < 0) first = k;
      last = k;
      if (low < 0 || min[k]! < min[low]!) low = k;
      if (high < 0 || max[k]! > max[high]!) high = k;
    }
    const silent = first < 0;
    return {
      name: trace.label,
      start: silent ? 'no sample in view' : text((min[first]! + max[first]!) / 2),
      end: silent ? '–' : text((min[last]! + max[last]!) / 2),
      lowest: silent ? '–' : `${text(min[low]!)}, ${at(low)}`,
      highest: silent ? '–' : `${text(max[high]!)}, ${at(high)}`,
    };
  });
}

export interface EventRow {
  what: string;
  text: string;
  from: string;
  to: string;
}

/** More than these nobody listens to. */
export const MOST_EVENTS = 60;

export const eventRows = (events: readonly StripEvent[], view: Span, zone: string): EventRow[] =>
  events
    .filter((one) => one.to >= view.from && one.from <= view.to)
    .slice(0, MOST_EVENTS)
    .map((one) => ({
      what: EVENT_WORDS[one.kind],
      text: one.text,
      from: momentText(one.from, zone),
      to: one.to > one.from ? momentText(one.to, zone) : '–',
    }));
