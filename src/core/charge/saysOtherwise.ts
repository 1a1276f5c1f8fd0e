/** Where a charger's own word for its stage is not what its voltage and current show. */

import { REPORTED_STAGES, type ReportedStage } from '../log/channels';
import { cellAt } from '../log/grid';
import { HOUR } from '../quantity/span';
import type { Charge, StageName } from './types';
import type { ChargeView } from './view';

export interface SaysOtherwise {
  /** Its word, and what was found in those hours. */
  reported: ReportedStage;
  found: StageName;
  hours: number;
  /** Hours in which it used that word at all while it charged. */
  ofHours: number;
}

/** Hours, and part of the hours of its word, from which on it is worth telling: boundaries differ by minutes on any charge. */
const LEAST_HOURS = 1;
const LEAST_PART = 0.2;

/** The words that a stage is compared by; a charger that is off or at fault says nothing of the voltage. */
const WORDS: readonly ReportedStage[] = ['bulk', 'absorption', 'float', 'equalise'];

/** The greatest disagreement; null where the charger says nothing, or what was found. */
export function saysOtherwise(view: ChargeView, charges: readonly Charge[]): SaysOtherwise | null {
  const { reported, grid } = view;
  if (!reported) return null;
  const cells = new Map<string, number>();
  const ofWord = new Map<ReportedStage, number>();
  for (const { stage, from, to } of charges.flatMap((one) => one.stages)) {
    if (stage === 'off') continue;
    const last = cellAt(grid, to);
    for (let cell = cellAt(grid, from); cell < last; cell++) {
      const word = REPORTED_STAGES[reported[cell]!];
      if (word === undefined || !WORDS.includes(word)) continue;
      ofWord.set(word, (ofWord.get(word) ?? 0) + 1);
      // A charger that another holds off goes on saying what it would do.
      if (word !== stage && stage !== 'hold')
        cells.set(`${word} ${stage}`, (cells.get(`${word} ${stage}`) ?? 0) + 1);
    }
  }
  const [most] = [...cells].sort((a, b) => b[1] - a[1]);
  if (!most) return null;
  const [word, found] = most[0].split(' ') as [ReportedStage, StageName];
  const hours = (most[1] * grid.step) / HOUR;
  const ofHours = (ofWord.get(word)! * grid.step) / HOUR;
  return hours >= LEAST_HOURS && hours >= LEAST_PART * ofHours
    ? { reported: word, found, hours, ofHours }
    : null;
}
