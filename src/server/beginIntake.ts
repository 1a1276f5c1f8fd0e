/** Opens the way in for a log: what it is said to be is checked, then its parts may come. */

import { z } from 'zod';
import { logDescriptionSchema } from '@/core/bundle/schema';
import { isTimeZone } from '@/core/quantity/timeZone';
import { type Intake, MOST_BYTES } from '@/core/log/intake';
import { devicesOf } from '@/core/system/schema';
import type { Store } from '@/store/database';
import { openIntake } from '@/store/intakes';
import type { StoredJob } from '@/store/jobs';
import { saveRecipe } from '@/store/recipes';

export const intakeRequestSchema = z.object({
  fileName: z.string().min(1).max(255),
  size: z.number().int().min(0),
  modified: z.number().int().min(0).default(0),
  description: logDescriptionSchema,
  /** What the confirmed reading is kept under, to be offered for the next log of its kind. */
  recipeKey: z.string().max(1_000_000).optional(),
});
export type IntakeRequest = z.infer<typeof intakeRequestSchema>;

/** Where it cannot be taken in, a sentence. */
export async function beginIntake(
  store: Store,
  job: StoredJob,
  { fileName, size, modified, description, recipeKey }: IntakeRequest,
): Promise<Intake | { refused: string }> {
  const { device, timeZone, columns, dateOrder } = description;
  if (!devicesOf(job.system).some((one) => one.id === device))
    return { refused: `This system has no device "${device}": choose the one that wrote the log.` };
  if (timeZone !== undefined && !isTimeZone(timeZone))
    return { refused: `"${timeZone}" is not a time zone: use a name such as "Europe/Rome".` };
  if (size === 0)
    return { refused: 'This file is empty. Export the log again and check that it has readings in it.' };
  if (size > MOST_BYTES)
    return { refused: 'A log may have 4 GB at most. Export it in parts and take them in one by one.' };
  const intake = await openIntake(store, { jobId: job.id, fileName, size, modified, description });
  if (recipeKey && columns)
    await saveRecipe(
      store,
      recipeKey,
      { columns, ...(dateOrder ? { dateOrder } : {}), ...(timeZone ? { timeZone } : {}) },
      fileName,
    );
  return intake;
}
