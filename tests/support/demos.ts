/** The demo systems as they were simulated before the tests began: a simulation takes seconds, and many tests ask for the same. */

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { deserialize } from 'node:v8';
import type { DemoJob } from '@/core/simulate/demo';
import type { Truth } from '@/core/simulate/site';

const at = (file: string) => {
  const folder = process.env.KEPT_DEMOS;
  if (!folder) throw new Error('KEPT_DEMOS is not set: tests/support/keepMade.mjs has not run.');
  return readFileSync(join(folder, file));
};

const jobs = new Map<string, DemoJob>();
const truths = new Map<string, Truth>();

/** A demo job with its logs. The same object for all tests of a file: do not change it. */
export function keptDemo(slug: string): DemoJob {
  if (!jobs.has(slug)) jobs.set(slug, JSON.parse(at(`${slug}.json`).toString()) as DemoJob);
  return jobs.get(slug)!;
}

/** The noiseless truth behind it. */
export function keptTruth(slug: string): Truth {
  if (!truths.has(slug)) truths.set(slug, deserialize(at(`${slug}.truth`)) as Truth);
  return truths.get(slug)!;
}
