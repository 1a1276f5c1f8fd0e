/**
 * Random sites for tests, from seeds that no sweep uses. A simulation takes seconds, and code runs slowly in the test runner: each site
 * is simulated and diagnosed before the tests, and kept (keepMade.mjs). The seeds in testSiteSeeds.json are where the random numbers stand
 * at the draw that fits: two draws of three do not, and would be simulated in vain. A new site may begin at any number.
 */

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { deserialize } from 'node:v8';
import type { Counting } from '@/core/count/types';
import type { CutOffs } from '@/core/cutoff/types';
import type { Finding } from '@/core/diagnosis/result';
import type { Series } from '@/core/log/channels';
import { takeInLog } from '@/core/log/takeIn';
import { FAULTS } from '@/core/simulate/faults';
import type { Fault } from '@/core/simulate/faults/fault';
import type { RandomJob } from '@/core/simulate/randomJob';
import type { SitePlan } from '@/core/simulate/sitePlan';
import { devicesOf } from '@/core/system/schema';

export interface TestSite extends RandomJob {
  /** As a diagnosis of its logs has it. */
  counting: Counting | null;
  cutoffs: CutOffs | null;
  findings: Finding[];
}

interface Order {
  faults: readonly Fault[];
  wanted: (plan: SitePlan) => boolean;
}

const any = (): boolean => true;
const fault = (code: string): Fault => (FAULTS as readonly Fault[]).find((one) => one.code === code)!;
const allLogged = ({ chargers }: SitePlan): boolean => chargers.every((one) => one.logged);

/** A week or more of the charger's own log: what is shorter may not show a fault, what is longer or finer takes long: both are left
 * to the sweep. */
const wellLogged = (plan: SitePlan): boolean =>
  plan.days >= 7 && plan.days <= 12 && plan.everySeconds >= 60 && allLogged(plan);

/** Some days of a monitor's log by the minute: what is shorter, longer, finer or coarser is left to the sweep. */
const wellCounted = ({ days, everySeconds, logsMonitor }: SitePlan): boolean =>
  days >= 7 && days <= 12 && everySeconds >= 60 && everySeconds <= 120 && logsMonitor;

/** One solar charger on lead, logged beside the monitor: sun and loads move both currents. */
const plainSun = ({ chargers, chemistry, logsMonitor, everySeconds, days }: SitePlan): boolean =>
  chargers.length === 1 &&
  chargers[0]!.kind === 'solar' &&
  chargers[0]!.logged &&
  chemistry !== 'lfp' &&
  logsMonitor &&
  everySeconds >= 30 &&
  everySeconds <= 300 &&
  days >= 6;

const DRIFT = (FAULTS as readonly Fault[]).filter((one) => one.complaint === 'drifting-soc');
const SUNS = {
  stepping: 6,
  calm: 6,
};
/** Cut-offs: one site each of the faults that come up soon. */
export const CUT_CODES = [
  'really-empty',
  'battery-resistance',
  'load-path-drop',
  'cutoff-set-high',
  'weak-cell',
  'cold-battery',
  'surge-trip',
  'capacity-lost',
];
const COUNTED: Record<string, readonly string[]> = {
  '1': [],
  '2': [],
  '3': [],
  '4': [],
  '5': [],
  '6': [],
  '11': ['false-sync'],
  '21': ['capacity-wrong'],
  '22': ['efficiency-wrong'],
  '23': ['current-offset'],
  '31': ['current-scale'],
  '32': ['sensor-reversed'],
  '41': ['voltage-guess'],
};

/** Name of a site → how it is drawn, with the seed of its name in testSiteSeeds.json. */
export const TEST_SITES: Record<string, Order> = {
  // Undercharging.
  plain: { faults: [], wanted: any },
  ...Object.fromEntries([1, 2, 3, 4, 5, 6].map((k) => [`charged-${k}`, { faults: [], wanted: wellLogged }])),
  ...Object.fromEntries(
    ['charge-voltage-low', 'source-too-small', 'absorption-too-short'].flatMap((code) =>
      [11, 12, 13, 14, 15].map((k) => [`${code}-${k}`, { faults: [fault(code)], wanted: wellLogged }]),
    ),
  ),
  // Trust: where loads step, and where only the sun moves the current.
  ...Object.fromEntries(
    Object.entries(SUNS).flatMap(([name, count]) =>
      Array.from({ length: count }, (_, k) => [`${name}-${k}`, { faults: [], wanted: plainSun }]),
    ),
  ),
  // Drift.
  ...Object.fromEntries(
    DRIFT.flatMap((one) =>
      [1, 2].map((k) => [
        `${one.code}-${k}`,
        {
          faults: [one],
          wanted:
            one.code === 'full-too-rarely' ? any : (plan: SitePlan) => wellCounted(plan) && allLogged(plan),
        },
      ]),
    ),
  ),
  'pair-1': {
    faults: [fault('capacity-wrong'), fault('charged-voltage-unreached')],
    wanted: (plan) => wellCounted(plan) && allLogged(plan),
  },
  'pair-2': {
    faults: [fault('current-scale')],
    wanted: (plan) => wellCounted(plan) && allLogged(plan),
  },
  // Cut-offs.
  ...Object.fromEntries(
    CUT_CODES.map((code) => [
      `cut-${code}`,
      {
        faults: [fault(code)],
        wanted: ({ days, everySeconds }: SitePlan) => days <= 10 && everySeconds >= 10,
      },
    ]),
  ),
  // Counting.
  ...Object.fromEntries(
    Object.entries(COUNTED).map(([k, codes]) => [
      `counted-${k}`,
      { faults: codes.map(fault), wanted: wellCounted },
    ]),
  ),
  'counted-33': {
    faults: [fault('source-not-counted')],
    wanted: (plan) =>
      plan.days >= 7 && plan.days <= 12 && plan.everySeconds === 60 && plan.chargers.length === 1,
  },
  'counted-34': {
    faults: [fault('current-offset')],
    wanted: (plan) => wellCounted(plan) && !plan.logsBms,
  },
};

/** A site of the table. */
export function testSite(name: string): TestSite {
  const folder = process.env.KEPT_SITES;
  if (!folder) throw new Error('KEPT_SITES is not set: tests/support/keepMade.mjs has not run.');
  return deserialize(readFileSync(join(folder, name))) as TestSite;
}

/** The logs of a site, read in. */
export const seriesOf = ({ system, logs }: Pick<RandomJob, 'system' | 'logs'>): Series[] =>
  logs.map(({ device, text }) => {
    const { kind } = devicesOf(system).find((one) => one.id === device)!;
    return takeInLog(new TextEncoder().encode(text), kind, { device }, system.timeZone).series;
  });
