/**
 * A split bank: two halves in series, each with a charger of its own. Three ways to monitor it, what each cannot see, and which are possible
 * here. What a shunt sees follows from Kirchhoff: a charger across a half drives its current through that half alone.
 */

import type { System } from '../system/schema';

export const SPLIT_WAYS = ['between-halves', 'half', 'whole'] as const;
export type SplitWay = (typeof SPLIT_WAYS)[number];

export interface WayOfSplit {
  id: SplitWay;
  title: string;
  needs: string;
  sees: string;
  blind: string;
  isHere: boolean;
}

export const isSplit = ({ sources, monitor }: System): boolean =>
  sources.some((one) => one.across === 'lower' || one.across === 'upper') ||
  monitor?.sees === 'lower' ||
  monitor?.sees === 'upper' ||
  monitor?.sits === 'between-halves';

export const wayHere = ({ monitor }: System): SplitWay | null =>
  !monitor
    ? null
    : monitor.sits === 'between-halves'
      ? 'between-halves'
      : monitor.sees === 'lower' || monitor.sees === 'upper'
        ? 'half'
        : 'whole';

/** Currents of a split bank, A: two chargers, each across its half, and a load across the whole. */
export interface SplitCurrents {
  lowerA: number;
  upperA: number;
  loadA: number;
}

/** What really goes into each half. */
export const intoHalves = ({ lowerA, upperA, loadA }: SplitCurrents) => ({
  lower: lowerA - loadA,
  upper: upperA - loadA,
});

/** What a shunt shows by each way, A; + is charging. Between the halves both loops pass it, with one load. */
export function shuntShows(way: SplitWay, { lowerA, upperA, loadA }: SplitCurrents): number {
  if (way === 'between-halves') return lowerA + upperA - loadA;
  if (way === 'half') return lowerA - loadA;
  return -loadA;
}

export function splitWays(system: System): WayOfSplit[] {
  const here = wayHere(system);
  const way = (id: SplitWay, title: string, needs: string, sees: string, blind: string): WayOfSplit => ({
    id,
    title,
    needs,
    sees,
    blind,
    isHere: here === id,
  });
  return [
    way(
      'between-halves',
      'One shunt between the halves, with both charge loops led through it',
      'A monitor with loose sense leads, so that it measures the voltage of the whole bank; each charger’s inner lead on the far side of the shunt.',
      'Both chargers and every load.',
      'It adds the two chargers: while both charge, it counts up to twice what the bank gets, so that its efficiency has to be found by a full cycle, and its tail is that of both. It does not see which half lags: measure both at every visit.',
    ),
    way(
      'half',
      'One half counted, and taken for both',
      'Shunt and sense lead on that half; the two halves alike in age and charge.',
      'That half’s charger, and every load.',
      'The other half: its charger, its losses, its end. The reading stands for both only while they agree within about 0.1 V. After a partial charge by the other charger it means nothing.',
    ),
    way(
      'whole',
      'The whole pack counted, the chargers not',
      'Shunt in the pack’s negative, chargers straight on the halves.',
      'Every load, and whatever charges the whole bank.',
      'Both chargers: it only counts down, until it is set to 100 % by hand after each complete charge of both halves.',
    ),
  ];
}

/** What can be done instead. */
export const SPLIT_REMEDIES = [
  'One charger for the whole voltage: everything can then pass one shunt.',
  'An equaliser across the halves keeps them together, whichever way is chosen.',
  'A monitor that reads the voltage in the middle as well, and warns when the halves part.',
] as const;
