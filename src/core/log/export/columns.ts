/** A recording, or a span of it, as columns for writing: whatever is written reads back sample for sample. */

import type { Span } from '../../quantity/span';
import { type Channel, REPORTED_STAGES, type Series } from '../channels';
import { firstAtOrAfter } from '../grid';

/** The samples of a span, its end left out; the whole series without one. */
export function cutSeries(series: Series, span: Span | null): Series {
  if (!span) return series;
  const from = firstAtOrAfter(series.time, span.from);
  const to = firstAtOrAfter(series.time, span.to);
  return {
    device: series.device,
    time: series.time.subarray(from, to),
    channels: Object.fromEntries(
      Object.entries(series.channels).map(([name, values]) => [
        name,
        (values as Float32Array).subarray(from, to),
      ]),
    ),
  };
}

/** Channels in the order in which they are written. */
export const channelsOf = (series: Series): [Channel, Float32Array][] =>
  (Object.entries(series.channels) as [Channel, Float32Array][]).sort(([a], [b]) => (a < b ? -1 : 1));

/** A value as the shortest decimal that is the same number in 32 bits; stages as their word; nothing for a missing one. */
export function valueText(channel: Channel, value: number): string {
  if (value !== value) return '';
  if (channel === 'source_stage') return REPORTED_STAGES[value] ?? '';
  for (let digits = 6; digits <= 9; digits++) {
    const text = Number(value.toPrecision(digits));
    if (Math.fround(text) === value) return plain(text);
  }
  return plain(value);
}

/** Without an exponent, which some spreadsheets read as text. */
function plain(value: number): string {
  const text = String(value);
  if (!text.includes('e')) return text;
  return Math.abs(value) > 1 ? BigInt(value).toString() : value.toFixed(60).replace(/\.?0+$/, '');
}
