/** What the hydrometer rounds show, in sentences: for the step, the report and the terminal. */

import { DAY } from '../quantity/span';
import { counted, dayText } from '../quantity/text';
import type { System } from '../system/schema';
import { FULL_GRAVITY, type JudgedRound } from './judge';
import { cellTrends, comparable } from './trend';

/** Days from round to round (common practice, no source). */
export const ROUND_EVERY = 90;

export const dueOn = (rounds: readonly JudgedRound[]): string | null => {
  const last = rounds.at(-1);
  return last ? dayOf(Date.parse(last.round.on) + ROUND_EVERY * DAY) : null;
};

/** A cell that loses less a year, or stays above its limit for longer, is no news. */
const LOSES = 0.005;
const SOON = 4 * 365 * DAY;

const dayOf = (ms: number): string => new Date(ms).toISOString().slice(0, 10);

export function hydrometerText(rounds: readonly JudgedRound[], { bank }: System): string[] {
  const last = rounds.at(-1);
  if (!last) return [];
  const gravities = last.readings.map((one) => one.corrected);
  const lines = [
    `Round of ${dayText(last.round.on)}: ${counted(last.readings.length, 'cell')} from ${Math.min(...gravities).toFixed(3)} to ${Math.max(...gravities).toFixed(3)}, ${Math.round(1000 * last.spread)} points apart.`,
    ...(last.low.length > 0
      ? [
          `Low against the others: ${last.low.map((one) => `cell ${one.cell} (${one.corrected.toFixed(3)})`).join(', ')}.`,
        ]
      : []),
    ...last.weak,
  ];
  for (const { cell, aYear, under, underEarliest } of cellTrends(rounds, bank.fullGravity ?? FULL_GRAVITY))
    if (aYear < -LOSES && underEarliest !== null && underEarliest - Date.parse(last.round.on) < SOON)
      lines.push(
        `Cell ${cell} loses ${Math.round(-1000 * aYear)} points a year over ${counted(comparable(rounds).length, 'round')}: under its limit ${under === null ? `not before ${dayOf(underEarliest).slice(0, 7)}` : `about ${dayOf(under).slice(0, 7)}, at the earliest ${dayOf(underEarliest).slice(0, 7)}`}.`,
      );
  return lines;
}
