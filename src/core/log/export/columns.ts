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

/** What is written: a row for every moment, a column for each channel. */
export interface Table {
  /** Epoch ms, rising. */
  time: Float64Array;
  columns: { name: string; channel: Channel; values: Float32Array }[];
}

/** One recording: its columns are named by their channels. */
export const tableOf = (series: Series): Table => ({
  time: series.time,
  columns: channelsOf(series).map(([channel, values]) => ({ name: channel, channel, values })),
});

/**
 * Several devices' logs on one clock: a row for every moment that any of them holds, columns named `device.channel` (`device-2.channel` for
 * a second log of a device). No value is made up: where a device has no sample, its cells are empty.
 */
export function timelineTable(series: readonly Series[]): Table {
  const time = momentsOf(series);
  const seen = new Map<string, number>();
  const columns = series.flatMap((one) => {
    const nth = (seen.get(one.device) ?? 0) + 1;
    seen.set(one.device, nth);
    const device = nth > 1 ? `${one.device}-${nth}` : one.device;
    const places = new Uint32Array(one.time.length);
    for (let i = 0, row = 0; i < one.time.length; i++) {
      while (time[row]! < one.time[i]!) row++;
      places[i] = row;
    }
    return channelsOf(one).map(([channel, from]) => {
      const values = new Float32Array(time.length).fill(NaN);
      for (let i = 0; i < places.length; i++) values[places[i]!] = from[i]!;
      return { name: `${device}.${channel}`, channel, values };
    });
  });
  return { time, columns };
}

/** Every moment of any of them, once. */
function momentsOf(series: readonly Series[]): Float64Array {
  const all = new Float64Array(series.reduce((sum, one) => sum + one.time.length, 0));
  series.reduce((at, one) => (all.set(one.time, at), at + one.time.length), 0);
  all.sort();
  let count = 0;
  for (let i = 0; i < all.length; i++) if (i === 0 || all[i] !== all[i - 1]) all[count++] = all[i]!;
  return all.slice(0, count);
}

/** Channels in the order in which they are written. */
const channelsOf = (series: Series): [Channel, Float32Array][] =>
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
