/** A recording as CSV (RFC 4180), times by RFC 3339 in UTC, one column a channel under its name. */

import { strToU8 } from 'fflate';
import type { Series } from '../channels';
import { channelsOf, valueText } from './columns';

/** Rows that are put together before they are given out. */
const BATCH = 4096;

/** Gives out the file in pieces, so that a year of seconds never stands in memory as text. */
export function* csvOf(series: Series): Generator<Uint8Array, void, undefined> {
  const channels = channelsOf(series);
  yield strToU8(['time', ...channels.map(([name]) => name)].join(',') + '\r\n');
  let lines: string[] = [];
  for (let i = 0; i < series.time.length; i++) {
    const cells = channels.map(([name, values]) => valueText(name, values[i]!));
    lines.push([new Date(series.time[i]!).toISOString(), ...cells].join(','));
    if (lines.length < BATCH) continue;
    yield strToU8(lines.join('\r\n') + '\r\n');
    lines = [];
  }
  if (lines.length > 0) yield strToU8(lines.join('\r\n') + '\r\n');
}
