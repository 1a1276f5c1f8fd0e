/** A table of samples as CSV (RFC 4180), times by RFC 3339 in UTC. */

import { strToU8 } from 'fflate';
import { type Table, valueText } from './columns';
import { csvCell } from './csvCell';

/** Rows that are put together before they are given out. */
const BATCH = 4096;

/** Gives out the file in pieces, so that a year of seconds never stands in memory as text. */
export function* csvOf({ time, columns }: Table): Generator<Uint8Array, void, undefined> {
  yield strToU8(['time', ...columns.map((one) => csvCell(one.name))].join(',') + '\r\n');
  for (let start = 0; start < time.length; start += BATCH) {
    const lines: string[] = [];
    for (let i = start; i < Math.min(time.length, start + BATCH); i++) {
      const cells = columns.map(({ channel, values }) => valueText(channel, values[i]!));
      lines.push([new Date(time[i]!).toISOString(), ...cells].join(','));
    }
    yield strToU8(lines.join('\r\n') + '\r\n');
  }
}
