/** Simulates every demo system into a folder: its job and logs as JSON, its truth beside it. */

import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { serialize } from 'node:v8';
import { DEMO_SLUGS, demoJob, demoTruth } from '@/core/simulate/demo';
import { inTwo } from './inTwo';

inTwo(DEMO_SLUGS, (slug, folder) => {
  const truth = demoTruth(slug);
  writeFileSync(join(folder, `${slug}.truth`), serialize(truth));
  writeFileSync(join(folder, `${slug}.json`), JSON.stringify(demoJob(slug, truth)));
});
