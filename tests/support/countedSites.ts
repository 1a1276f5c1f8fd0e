/** Random sites with a monitor that counts, with their truth at any moment. */

import type { Counting } from '@/core/count/types';
import { type TestSite, testSite } from './testSites';

export interface CountedSite extends TestSite {
  counting: Counting;
  /** True charge at a moment, %, no less than nothing and no more than all. */
  trueAt(ms: number): number;
}

/** @param name in the table of test sites; a number stands under "counted" */
export function countedSite(name: number | string): CountedSite {
  const site = testSite(typeof name === 'number' ? `counted-${name}` : name);
  const { counting } = site;
  if (!counting) throw new Error(`Site ${name} has no current into the battery.`);
  const { time } = site.truth.series;
  const step = time[1]! - time[0]!;
  return {
    ...site,
    counting,
    trueAt(ms) {
      const i = Math.min(time.length - 1, Math.max(0, Math.round((ms - time[0]!) / step)));
      return Math.min(100, Math.max(0, site.truth.trueCharge[i]!));
    },
  };
}
