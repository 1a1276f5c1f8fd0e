/** Random sites with a monitor that counts, with their truth at any moment. */

import type { Counting } from '@/core/count/types';
import { type TestSite, testSite } from './testSites';

export interface CountedSite extends TestSite {
  counting: Counting;
  /** True charge at a moment, %, no less than nothing and no more than all. */
  trueAt(ms: number): number;
}

/** @param number in the table of test sites, under "counted" */
export function countedSite(number: number): CountedSite {
  const site = testSite(`counted-${number}`);
  const { counting } = site;
  if (!counting) throw new Error(`Site ${number} has no current into the battery.`);
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
