/** Days of the site's clock, with the stages of a source as pieces of each. */

import { DateTime } from 'luxon';
import type { StageName } from '../charge/types';
import { MINUTE, type Span } from '../quantity/span';
import type { Diagnosis, DiagnosisCharge } from './result';

export interface DayPiece {
  stage: StageName;
  /** Minutes of the clock since midnight. */
  from: number;
  to: number;
  /** When it begins on that day, 14:10. */
  clock: string;
}

export type Day = Diagnosis['charging']['days'][number] & {
  span: Span;
  pieces: DayPiece[];
  /** A charge that ended on it got the battery truly full. */
  full: boolean;
};

/** @param charges of one source @param zone of the site: on the days on which clocks change, the clock is what counts */
export function daysOf(
  days: Diagnosis['charging']['days'],
  charges: readonly DiagnosisCharge[],
  zone: string,
): Day[] {
  const stages = charges
    .flatMap((charge) => charge.stages)
    .filter((one) => one.stage !== 'off')
    .map((one) => ({ stage: one.stage, from: Date.parse(one.from), to: Date.parse(one.to) }))
    .sort((a, b) => a.from - b.from);
  const fulls = charges.filter((one) => one.full).map((one) => Date.parse(one.to));
  let first = 0;
  return days.map((day) => {
    const start = DateTime.fromISO(day.date, { zone });
    const span = { from: start.toMillis(), to: start.plus({ days: 1 }).toMillis() };
    const clockMinutes = (ms: number): number => {
      if (ms >= span.to) return 1440;
      const { hour, minute } = DateTime.fromMillis(ms, { zone });
      return 60 * hour + minute;
    };
    while (first < stages.length && stages[first]!.to <= span.from) first++;
    const pieces: DayPiece[] = [];
    for (let k = first; k < stages.length && stages[k]!.from < span.to; k++) {
      const { stage } = stages[k]!;
      const begins = Math.max(stages[k]!.from, span.from);
      const ends = Math.min(stages[k]!.to, span.to);
      if (ends - begins < MINUTE / 2) continue;
      const from = clockMinutes(begins);
      pieces.push({
        stage,
        from,
        to: Math.max(from + 1, clockMinutes(ends)),
        clock: DateTime.fromMillis(begins, { zone }).toFormat('HH:mm'),
      });
    }
    return { ...day, span, pieces, full: fulls.some((one) => one > span.from && one <= span.to) };
  });
}
