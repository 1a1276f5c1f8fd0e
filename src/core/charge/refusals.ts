/** When the BMS let no charge in or out, and what it saw at that moment: cold, or a cell ahead of the others. */

import { cellChannels, cellNumber, type Series } from '../log/channels';
import { anyLogWith, type Timeline } from '../log/timeline';
import { firstAtOrAfter, gapLimit, medianStep } from '../log/grid';
import type { Span } from '../quantity/span';
import { MINUTE } from '../quantity/span';

export interface Refusal extends Span {
  /** It was allowed just before: a log that begins, or comes back, with a refusal does not say when that began. */
  beginSeen: boolean;
  /** Battery temperature as it began, °C, NaN where not logged. */
  celsius: number;
  /** Highest cell as it began, which one, and the mean of all, V; NaN without cells. */
  highestV: number;
  highestCell: string;
  meanV: number;
  /** Lowest cell, and the mean of all at that moment, V. */
  lowestV: number;
  meanAtLowestV: number;
  /** Pack voltage as it began, V. */
  packV: number;
}

const LEAST = 2 * MINUTE;

/** Null where nobody logged whether it was allowed. @param of charge let in, or let out */
export function refusalsOf(
  timeline: Timeline,
  of: 'bms_charge_allowed' | 'bms_discharge_allowed' = 'bms_charge_allowed',
): Refusal[] | null {
  const log = anyLogWith(timeline, of);
  if (!log) return null;
  const { time } = log;
  const allowed = log.channels[of]!;
  const limit = gapLimit(medianStep(time));
  const refusals: Refusal[] = [];
  let from = -1;
  let beginSeen = false;
  const close = (to: number) => {
    if (from >= 0 && time[to]! - time[from]! >= LEAST)
      refusals.push({ from: time[from]!, to: time[to]!, beginSeen, ...momentOf(log, from, timeline) });
    from = -1;
  };
  /** The sample before in which it was written. */
  let known = -1;
  for (let i = 0; i < time.length; i++) {
    if (allowed[i]! !== allowed[i]!) continue;
    const isNext = known >= 0 && time[i]! - time[known]! <= limit;
    if (known >= 0 && !isNext) close(known);
    known = i;
    if (allowed[i]! >= 0.5) close(i);
    else if (from < 0) {
      from = i;
      beginSeen = isNext;
    }
  }
  if (known >= 0) close(known);
  return refusals;
}

/** The samples about its beginning: the cell that stopped it stands furthest out just before. */
function momentOf(log: Series, at: number, timeline: Timeline): Omit<Refusal, 'from' | 'to' | 'beginSeen'> {
  const cells = cellChannels(log);
  let highestV = NaN;
  let highestCell = '';
  let meanV = NaN;
  let lowestV = NaN;
  let meanAtLowestV = NaN;
  for (let i = Math.max(0, at - 2); i <= Math.min(log.time.length - 1, at + 1); i++) {
    let total = 0;
    let least = Infinity;
    let top = -Infinity;
    let which = '';
    for (const one of cells) {
      const volts = log.channels[one]![i]!;
      total += volts;
      if (volts < least) least = volts;
      if (volts > top) {
        top = volts;
        which = one;
      }
    }
    if (cells.length > 0 && !(top <= highestV)) {
      highestV = top;
      highestCell = cellNumber(which) ?? '';
      meanV = total / cells.length;
    }
    if (cells.length > 0 && !(least >= lowestV)) {
      lowestV = least;
      meanAtLowestV = total / cells.length;
    }
  }
  const heat = anyLogWith(timeline, 'battery_temperature');
  return {
    celsius: heat
      ? (heat.channels.battery_temperature![Math.max(0, firstAtOrAfter(heat.time, log.time[at]! + 1) - 1)] ??
        NaN)
      : NaN,
    highestV,
    highestCell,
    meanV,
    lowestV,
    meanAtLowestV,
    packV: log.channels.battery_voltage?.[Math.max(0, at - 1)] ?? NaN,
  };
}
