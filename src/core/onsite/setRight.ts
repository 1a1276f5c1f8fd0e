/** Ways to set the reading right on this system, which of them fits, and the firm rule. Common practice, no source. */

import { duration, percent, volts } from '../quantity/text';
import { MINUTE } from '../quantity/span';
import { isLead } from '../system/chemistry';
import { fastestSource, resynchronise } from '../system/resynchronise';
import type { System } from '../system/schema';
import type { Said } from './said';
import type { Displays, READING_WAYS, Visit } from './visit';

export type ReadingWay = (typeof READING_WAYS)[number];

export interface WayToSet {
  id: ReadingWay;
  title: string;
  /** Null where it fits; else why it does not. */
  not: string | null;
  steps: string[];
}

/** Counts of batteries that agree so far may be copied by hand, %. */
const AGREE = 5;
/** A new lithium battery comes so full, %. */
const DELIVERED = 30;
/** Percentages that the batteries themselves count, as shown. */
export function ownCounts(system: System, displays: Displays | undefined): number[] {
  const ids = system.batteries?.length ? system.batteries.map((one) => one.id) : system.bms ? ['bms'] : [];
  return ids.flatMap((id) => displays?.shown?.[id]?.percent ?? []);
}

export function waysToSet(system: System, displays?: Displays): WayToSet[] {
  const { bank, monitor } = system;
  const lead = bank.chemistry === undefined || isLead(bank.chemistry);
  const fastest = fastestSource(system);
  const name = fastest?.name ?? 'the charger';
  const leavesAtOnce =
    fastest?.profile.absorptionMinutes !== undefined &&
    fastest.profile.absorptionMinutes < (monitor?.detectionMinutes ?? 1);
  const counts = ownCounts(system, displays);
  const agree = counts.length > 0 && Math.max(...counts) - Math.min(...counts) <= AGREE;
  const expected = system.batteries?.length ?? (system.bms ? 1 : 0);
  const floats = fastest?.profile.floatV !== undefined;
  return [
    {
      id: 'float',
      title: `Charge with ${name} until it says float itself`,
      not:
        fastest === null
          ? 'No source here is counted and charges the whole bank.'
          : leavesAtOnce && !floats
            ? `${name} leaves its voltage at once and has no float: the monitor has no time to see it.`
            : null,
      steps: resynchronise(system).steps,
    },
    {
      id: 'at-voltage',
      title: 'At the charge voltage, watched',
      not: !leavesAtOnce ? 'Here the charger holds its voltage long enough to wait for float.' : null,
      steps: [
        `${name} leaves its voltage at once${fastest?.profile.absorptionMinutes ? ` (after ${duration(fastest.profile.absorptionMinutes * MINUTE)})` : ''}: stay with it for the last minutes.`,
        `When it reaches ${fastest?.profile.absorptionV ? volts(fastest.profile.absorptionV) : 'its target'}, set the monitor to 100 % by hand, then and there.`,
        'For the next time: let it hold its voltage a little longer than the monitor’s detection time, or lower the monitor’s charged voltage under its float.',
      ],
    },
    {
      id: 'by-hand',
      title: 'By hand, from the batteries’ own counts',
      not:
        expected === 0
          ? 'No battery here counts by itself.'
          : counts.length < expected
            ? 'Read the percentage of each battery’s own BMS first.'
            : agree
              ? null
              : `Their counts stand ${percent(Math.max(...counts) - Math.min(...counts))} apart: charge fully instead.`,
      steps: [
        `Set the monitor to ${counts.length > 0 ? percent(counts.reduce((a, b) => a + b, 0) / counts.length) : 'what they show'}.`,
        'See it go to 100 % at the next full charge; do not lean on it before.',
      ],
    },
    {
      id: 'delivery',
      title: 'The delivery state of a new lithium battery',
      not: lead ? 'Only a new lithium battery has one.' : null,
      steps: [
        `A new lithium battery comes at about ${DELIVERED} %: set the monitor to that once, before anything has flowed.`,
        'The first full charge settles it.',
      ],
    },
  ];
}

/** What is never done. */
export const FIRM_RULE =
  'Never set a reading by hand on a guess from the voltage in the flat part of a lithium curve, nor from the voltage of a battery that has not rested.';

export function judgeSetRight(
  system: System,
  { setRight, displays }: Pick<Visit, 'setRight' | 'displays'>,
): Said[] {
  if (!setRight?.way) return [];
  const way = waysToSet(system, displays).find((one) => one.id === setRight.way)!;
  const said: Said[] = [];
  if (way.not) said.push({ weight: 'fault', text: `${way.title}: not here. ${way.not}`, follows: FIRM_RULE });
  const { before, after } = setRight;
  if (before !== undefined && after !== undefined) {
    const jump = after - before;
    said.push({
      weight: Math.abs(jump) > 10 ? 'caution' : 'fine',
      text: `The reading was set from ${percent(before)} to ${percent(after)}.`,
      ...(Math.abs(jump) > 10
        ? {
            follows: `${percent(Math.abs(jump))} had built up: ${jump > 0 ? 'it had walked down (a source not counted, efficiency too low, a zero error)' : 'it had walked up (a load not counted, efficiency too high, a capacity set too large)'}. Find which, or it comes back.`,
          }
        : {}),
    });
  }
  return said;
}
