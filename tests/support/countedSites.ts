/** Random sites with a monitor that counts: read in, seen, and their truth at any moment. */

import { observe } from '@/core/diagnosis/observe';
import type { Counting } from '@/core/count/types';
import type { Series } from '@/core/log/channels';
import { takeInLog } from '@/core/log/takeIn';
import type { Fault } from '@/core/simulate/faults/fault';
import { randomJob, type RandomJob } from '@/core/simulate/randomJob';
import { seededRandom } from '@/core/simulate/random';
import type { SitePlan } from '@/core/simulate/sitePlan';
import { devicesOf } from '@/core/system/schema';

export interface CountedSite extends RandomJob {
  series: Series[];
  counting: Counting;
  /** True charge at a moment, %, no less than nothing and no more than all. */
  trueAt(ms: number): number;
}

export const seriesOf = ({ system, logs }: Pick<RandomJob, 'system' | 'logs'>): Series[] =>
  logs.map(({ device, text }) => {
    const { kind } = devicesOf(system).find((one) => one.id === device)!;
    return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
  });

/** Some days of a monitor's log by the minute: what is shorter or coarser is left to the sweep. */
export const wellCounted = ({ days, everySeconds, logsMonitor }: SitePlan): boolean =>
  days >= 7 && days <= 16 && everySeconds >= 30 && everySeconds <= 120 && logsMonitor;

export function countedSite(faults: readonly Fault[], seed: number, wanted = wellCounted): CountedSite {
  const job = randomJob(faults, seededRandom(seed), wanted);
  const series = seriesOf(job);
  const { counting } = observe(job.system, series);
  if (!counting) throw new Error(`The site of seed ${seed} has no current into the battery.`);
  const { time } = job.truth.series;
  const step = time[1]! - time[0]!;
  return {
    ...job,
    series,
    counting,
    trueAt(ms) {
      const i = Math.min(time.length - 1, Math.max(0, Math.round((ms - time[0]!) / step)));
      return Math.min(100, Math.max(0, job.truth.trueCharge[i]!));
    },
  };
}
