/** Simulates and diagnoses every site of the table into a folder. */

import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { serialize } from 'node:v8';
import { conclude } from '@/core/diagnosis/diagnose';
import { observe } from '@/core/diagnosis/observe';
import { randomJob } from '@/core/simulate/randomJob';
import { seededRandom } from '@/core/simulate/random';
import type { SitePlan } from '@/core/simulate/sitePlan';
import { inTwo } from './inTwo';
import seeds from './testSiteSeeds.json';
import { seriesOf, TEST_SITES, type TestSite } from './testSites';

const SEEDS = new Map(Object.entries(seeds));

inTwo(Object.keys(TEST_SITES), (name, folder) => {
  const { faults, wanted } = TEST_SITES[name]!;
  const seed = SEEDS.get(name);
  if (seed === undefined) throw new Error(`The site ${name} has no seed in testSiteSeeds.json.`);
  const made = randomJob(faults, seededRandom(seed), wanted);
  const observed = observe(made.system, seriesOf(made));
  const site: TestSite = {
    ...made,
    // What is data of it: a load's own course of hours is not.
    plan: JSON.parse(JSON.stringify(made.plan)) as SitePlan,
    counting: observed.counting,
    cutoffs: observed.cutoffs,
    findings: conclude(made.job, made.system, observed).findings,
  };
  writeFileSync(join(folder, name), serialize(site));
});
