/** How much of the log a button brings into view. */

import type { DiagnosisCharge } from '@/core/diagnosis/result';
import { DAY, HOUR, MINUTE, type Span } from '@/core/quantity/span';
import type { StripEvent } from './events';
import type { Zoom } from './Toolbar';

interface From {
  full: Span;
  /** The middle of the view, epoch ms. */
  middle: number;
  charges: readonly DiagnosisCharge[];
  events: readonly StripEvent[];
}

/** A span with something before and after it: what it came from, and where it went. */
export function about({ from, to }: Span): Span {
  const margin = Math.max(2 * HOUR, 0.4 * (to - from));
  return { from: from - margin, to: to + margin };
}

/** About the middle of the view; null where there is no charge or stage to go to. */
export function spanOfZoom(zoom: Zoom, { full, middle, charges, events }: From): Span | null {
  if (zoom === 'all') return full;
  if (zoom === 'day' || zoom === 'week') {
    const half = (zoom === 'day' ? DAY : 7 * DAY) / 2;
    return { from: middle - half, to: middle + half };
  }
  const found = nearest(
    zoom === 'charge'
      ? charges.map(({ from, to }) => ({ from: Date.parse(from), to: Date.parse(to) }))
      : events.filter((one) => one.kind === 'stage'),
    middle,
  );
  if (!found) return null;
  const margin = 0.1 * (found.to - found.from) + 5 * MINUTE;
  return { from: found.from - margin, to: found.to + margin };
}

const nearest = (spans: readonly Span[], ms: number): Span | null =>
  spans.reduce<Span | null>(
    (best, one) => (!best || distance(one, ms) < distance(best, ms) ? one : best),
    null,
  );

/** From a moment to a span, ms; nothing within it. */
const distance = ({ from, to }: Span, ms: number): number => Math.max(0, from - ms, ms - to);
