/** Opens the way in for a log: what it is said to be is checked, then its parts may come. */

import type { z } from 'zod';
import type { Intake } from '@/core/log/intake';
import type { LogDescription } from '@/core/log/takeIn';
import { devicesOf, systemSchema } from '@/core/system/schema';
import { type NewDevice, withDevice } from '@/core/system/newDevice';
import { type Store, within } from '@/store/database';
import { MOST_INTAKES, openIntake } from '@/store/intakes';
import { saveSystem, type StoredJob } from '@/store/jobs';
import { saveRecipe } from '@/store/recipes';
import type { intakeRequestSchema } from './doors';
import { Refusal, refusalOf } from './refusal';

export type IntakeRequest = Omit<z.output<typeof intakeRequestSchema>, 'description'> & {
  description: LogDescription;
};

/** @throws Refusal */
export async function beginIntake(
  store: Store,
  job: Pick<StoredJob, 'id' | 'systemId' | 'system' | 'systemVersion'>,
  { newDevice, recipeKey, ...log }: IntakeRequest,
): Promise<Intake> {
  const { fileName } = log;
  const { device, timeZone, columns, dateOrder } = log.description;
  const known = devicesOf(job.system).some((one) => one.id === device);
  if (!known && !newDevice)
    throw new Refusal(400, `This system has no device “${device}”: choose the one that wrote the log.`);
  const intake = await within(store, async (transaction) => {
    if (!known) await describeDevice(transaction, job, device, newDevice!);
    const opened = await openIntake(transaction, { jobId: job.id, ...log });
    if (!opened)
      throw new Refusal(409, `This job has ${MOST_INTAKES} logs on their way in: put some away first.`);
    return opened;
  });
  if (recipeKey && columns)
    await saveRecipe(
      store,
      recipeKey,
      { columns, ...(dateOrder ? { dateOrder } : {}), ...(timeZone ? { timeZone } : {}) },
      fileName,
    );
  return intake;
}

/** Puts a device that nobody has described yet into the system, with no more than its name. @throws Refusal */
async function describeDevice(
  transaction: Store,
  { systemId, system, systemVersion }: Pick<StoredJob, 'systemId' | 'system' | 'systemVersion'>,
  device: string,
  kind: NewDevice,
): Promise<void> {
  const next = systemSchema.safeParse(withDevice(system, device, kind));
  if (!next.success) throw refusalOf(next.error);
  const saved = await saveSystem(transaction, systemId, systemVersion, next.data);
  if (!saved || 'conflict' in saved)
    throw new Refusal(409, 'Somebody else has just changed this system. Load the page anew and try again.');
}
