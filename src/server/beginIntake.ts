/** Opens the way in for a log: what it is said to be is checked, then its parts may come. */

import type { z } from 'zod';
import type { Intake } from '@/core/log/intake';
import type { LogDescription } from '@/core/log/takeIn';
import { devicesOf } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { MOST_INTAKES, openIntake } from '@/store/intakes';
import type { StoredJob } from '@/store/jobs';
import { saveRecipe } from '@/store/recipes';
import type { intakeRequestSchema } from './doors';
import { Refusal } from './refusal';

export type IntakeRequest = Omit<z.output<typeof intakeRequestSchema>, 'description'> & {
  description: LogDescription;
};

/** @throws Refusal */
export async function beginIntake(
  store: Store,
  job: Pick<StoredJob, 'id' | 'system'>,
  { fileName, size, modified, description, recipeKey }: IntakeRequest,
): Promise<Intake> {
  const { device, timeZone, columns, dateOrder } = description;
  if (!devicesOf(job.system).some((one) => one.id === device))
    throw new Refusal(400, `This system has no device “${device}”: choose the one that wrote the log.`);
  const intake = await openIntake(store, { jobId: job.id, fileName, size, modified, description });
  if (!intake)
    throw new Refusal(409, `This job has ${MOST_INTAKES} logs on their way in: put some away first.`);
  if (recipeKey && columns)
    await saveRecipe(
      store,
      recipeKey,
      { columns, ...(dateOrder ? { dateOrder } : {}), ...(timeZone ? { timeZone } : {}) },
      fileName,
    );
  return intake;
}
