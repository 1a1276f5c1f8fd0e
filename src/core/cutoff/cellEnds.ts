/** Which cell comes to its end first: lowest as the battery nears empty or its BMS stops it, highest near the top of a charge. */

import { cellChannels, cellNumber } from '../log/channels';
import { anyLogWith, type Timeline } from '../log/timeline';
import { HOUR } from '../quantity/span';
import { median } from '../quantity/numbers';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { CellEnds } from './types';

/** A lithium cell under the one is near its empty end, over the other near its full end, V (common practice, no source). */
const ENDS = { low: 3.0, high: 3.45 };
/** One end counts once in so long. */
const EVERY = 3 * HOUR;

interface End {
  cell: number;
  apart: number;
}

/** Null without cells, and for lead, whose cells have no such ends. */
export function cellEnds({ chemistry }: Pick<KnownBank, 'chemistry'>, timeline: Timeline): CellEnds | null {
  const log = isLead(chemistry) ? null : anyLogWith(timeline, 'cell_01_voltage');
  const names = log ? cellChannels(log) : [];
  if (!log || names.length < 2) return null;
  const columns = names.map((one) => log.channels[one]!);
  const low: End[] = [];
  const high: End[] = [];
  // The furthest moment of each stretch beyond an end.
  let lowest: (End & { volts: number; at: number }) | null = null;
  let highest: (End & { volts: number; at: number }) | null = null;
  for (let i = 0; i < log.time.length; i++) {
    let least = Infinity;
    let most = -Infinity;
    let leastAt = 0;
    let mostAt = 0;
    let total = 0;
    for (let k = 0; k < columns.length; k++) {
      const volts = columns[k]![i]!;
      total += volts;
      if (volts < least) {
        least = volts;
        leastAt = k;
      }
      if (volts > most) {
        most = volts;
        mostAt = k;
      }
    }
    const mean = total / columns.length;
    if (mean !== mean) continue;
    const now = log.time[i]!;
    if (lowest && now - lowest.at > EVERY) {
      low.push(lowest);
      lowest = null;
    }
    if (highest && now - highest.at > EVERY) {
      high.push(highest);
      highest = null;
    }
    if (least < ENDS.low && least > 1 && !(lowest && lowest.volts <= least))
      lowest = { cell: leastAt, apart: mean - least, volts: least, at: now };
    if (most > ENDS.high && !(highest && highest.volts >= most))
      highest = { cell: mostAt, apart: most - mean, volts: most, at: now };
  }
  if (lowest) low.push(lowest);
  if (highest) high.push(highest);
  const first = (ends: readonly End[]) => {
    const counts = new Map<number, number>();
    for (const { cell } of ends) counts.set(cell, (counts.get(cell) ?? 0) + 1);
    const [most] = [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
    if (!most) return null;
    return {
      cell: cellNumber(names[most[0]]!) ?? '',
      times: most[1],
      of: ends.length,
      apart: median(ends.filter((one) => one.cell === most[0]).map((one) => one.apart)),
    };
  };
  const l = first(low);
  const h = first(high);
  return {
    cells: names.length,
    low: l && { cell: l.cell, times: l.times, of: l.of, under: l.apart },
    high: h && { cell: h.cell, times: h.times, of: h.of, over: h.apart },
  };
}
