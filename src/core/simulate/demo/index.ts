/**
 * The demo systems: an invented service cooperative on an invented archipelago, the Isole Mirtane. Nothing and nobody in it is
 * real. Each system has its story; the logs come out of the simulation, never out of a drawing.
 */

import { noRecords, type SystemRecords } from '../../records/records';
import type { KnownSystem } from '../../system/known';
import type { Job } from '../../system/schema';
import { writeLog } from '../logger';
import { seededRandom } from '../random';
import { runSite, seenBy, type Truth } from '../site';
import type { DemoSystem, Simulated } from './demoSystem';
import { ferryLamps } from './ferry-lamps';
import { fogHorn } from './fog-horn';
import { harbourOffice } from './harbour-office';
import { cisternPumps, type OnSiteDemo } from './cistern-pumps';
import { parishRadio } from './parish-radio';
import { seismicVault } from './seismic-vault';
import { tideGauge } from './tide-gauge';
import { vaccineColdRoom } from './vaccine-cold-room';
import { weatherMast } from './weather-mast';

export interface DemoLog {
  path: string;
  device: string;
  text: string;
}

export interface DemoJob {
  slug: string;
  system: KnownSystem;
  job: Job;
  records: SystemRecords;
  logs: DemoLog[];
}

const SYSTEMS: readonly DemoSystem[] = [
  tideGauge,
  seismicVault,
  vaccineColdRoom,
  ferryLamps,
  fogHorn,
  parishRadio,
  weatherMast,
  harbourOffice,
];

export const DEMO_SLUGS = SYSTEMS.map((one) => one.slug);

/** Systems without a log: there was only an hour on site. */
export const ON_SITE_DEMOS: readonly OnSiteDemo[] = [cisternPumps];

/** A demo system as it is described. @throws when there is no such system */
export function demoSystem(slug: string): DemoSystem {
  const found = SYSTEMS.find((one) => one.slug === slug);
  if (!found) throw new Error(`There is no demo system "${slug}". There are: ${DEMO_SLUGS.join(', ')}.`);
  return found;
}

/** A demo system with what its logs are made from. @throws when there is no such system */
export function demoSite(slug: string): DemoSystem & Simulated {
  const found = demoSystem(slug);
  return { ...found, ...found.simulated };
}

/** The noiseless truth behind a demo system, for tests. */
export function demoTruth(slug: string): Truth {
  const { site, seed } = demoSite(slug);
  return runSite(site, seededRandom(seed));
}

/**
 * A demo job with its logs, the same every time.
 * @param truth of the system, where it has been simulated already @throws when there is no such system
 */
export function demoJob(slug: string, truth: Truth = demoTruth(slug)): DemoJob {
  const { system, job, records, simulated } = demoSystem(slug);
  const random = seededRandom(simulated.seed + 1000);
  return {
    slug,
    system,
    job,
    records: { ...noRecords(), ...records },
    logs: simulated.loggers.map((spec) => ({
      path: spec.path,
      device: spec.device,
      text: writeLog(seenBy(truth, spec.device), spec, random),
    })),
  };
}
