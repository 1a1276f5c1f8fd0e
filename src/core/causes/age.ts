/** What the age of a battery says of its capacity, before anything was measured. */

import { type Evidence, type Observations, weightOf } from './cause';

export const AGE_WEIGHTS = {
  /** Years in service of a lead battery; lithium at half its years. */
  years: [
    [10, 4],
    [6, 2],
    [2, 0],
    [0, -1],
  ],
} as const;

const YEAR_MS = 365.25 * 86_400_000;

export function weighAge({ system, job }: Observations): Evidence[] {
  const { installedOn, chemistry } = system.bank;
  if (!installedOn || !chemistry) return [];
  const years = (Date.parse(job.openedAt) - Date.parse(installedOn)) / YEAR_MS;
  if (!(years >= 0)) return [];
  // Lithium is expected to serve about twice as long.
  const aged = chemistry === 'lfp' ? years / 2 : years;
  const decibans = weightOf(AGE_WEIGHTS.years, aged);
  if (decibans === 0) return [];
  return [
    {
      text: `The battery has been in service for ${years.toFixed(years < 10 ? 1 : 0)} years.`,
      decibans,
      group: 'age',
      spans: [],
    },
  ];
}
