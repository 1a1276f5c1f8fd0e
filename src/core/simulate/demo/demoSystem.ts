/** What a demo system is, and what all of them share. */

import { DAY, HOUR } from '../../quantity/span';
import type { SystemRecords } from '../../records/records';
import type { KnownSystem } from '../../system/known';
import type { Job } from '../../system/schema';
import type { LoggerSpec } from '../logger';
import type { SiteSpec } from '../site';

/** How a demo system's logs are made. */
export interface Simulated {
  seed: number;
  site: SiteSpec;
  loggers: (LoggerSpec & { path: string; device: string })[];
}

export interface DemoSystem {
  /** Short name used on the command line and in file names. */
  slug: string;
  system: KnownSystem;
  job: Job;
  /** Hydrometer rounds and capacity tests from before. */
  records?: Partial<SystemRecords>;
  simulated: Simulated;
}

export const ZONE = 'Europe/Rome';
export const ISLANDS = { latitude: 40.4, longitude: 13.2 };
export const START = Date.UTC(2026, 8, 20, 22);

export const hourInRome = (ms: number): number => ((ms + 2 * HOUR) % DAY) / HOUR;
/** The islands' generator rests from 23:00 to 05:00. */
export const islandMains = (ms: number): boolean => hourInRome(ms) >= 5 && hourInRome(ms) < 23;
