/** The families of observations that a cause can need, and what is asked for where a job has none of one. */

import { missingBasics } from '../system/known';
import type { Observations } from './cause';

interface FamilyOfObservations {
  /** As it is asked for. */
  words: string;
  has(seen: Observations): boolean;
}

export const FAMILIES = {
  charging: {
    words: 'voltage and current of the charger or the battery',
    has: ({ charging }) => charging.length > 0,
  },
  'battery-current': {
    words: 'the battery’s own current beside that of the charger',
    has: ({ charging }) => charging.some((one) => one.knowsBatteryAmps),
  },
  'battery-temperature': {
    words: 'the battery’s temperature over several days',
    has: ({ charging }) => charging.some((one) => one.setpoints.celsius !== null),
  },
  'several-sources': {
    words: 'logs of two sources at the same time, or of one and of the battery',
    has: ({ charging, system }) =>
      system.sources.length > 1 && (charging.length > 1 || charging.some((one) => one.knowsBatteryAmps)),
  },
  'both-ends': {
    words: 'voltage at the charger and at the battery at the same time',
    has: ({ charging }) => charging.some((one) => one.path !== null),
  },
  counting: {
    words: 'the battery’s own current and voltage over several days',
    has: ({ counting }) => counting !== null,
  },
  reading: {
    words: 'the monitor’s percentage',
    has: ({ counting }) => counting !== null && counting.hasReading,
  },
  discharge: {
    words: 'the current of the loads or of the battery',
    has: ({ cutoffs }) => cutoffs !== null && (cutoffs.hasLoads || cutoffs.list.length > 0),
  },
  bms: { words: 'the log of the BMS', has: ({ refusals }) => refusals !== null },
} as const satisfies Record<string, FamilyOfObservations>;

export type Family = keyof typeof FAMILIES;

/** What is missing of the families that a cause needs; the basics of the bank come before any. */
export function missingFamilies(seen: Observations, families: readonly Family[]): string[] {
  if (!seen.bank) return missingBasics(seen.system);
  return families.filter((one) => !FAMILIES[one].has(seen)).map((one) => FAMILIES[one].words);
}
