/** What the steps that read logs are given. */

import { notFound } from 'next/navigation';
import { digestOf } from '@/core/diagnosis/summary';
import { openJob } from '@/server/openJob';
import { store } from '@/server/store';
import { stepStates } from '@/ui/workspace/states';
import type { StepProps } from '@/ui/workspace/Workspace';

export interface OfJob {
  params: Promise<{ id: string }>;
}

/** Of a job that is not there the page says so. */
export async function stepProps(params: OfJob['params']): Promise<StepProps> {
  const { id } = await params;
  const open = await openJob(store(), id);
  if (!open) notFound();
  const { job, system, recordings, diagnosis } = open;
  return {
    id,
    job,
    jobVersion: open.jobVersion,
    systemId: open.systemId,
    system,
    systemVersion: open.systemVersion,
    changes: open.changes.map(({ on, label }) => ({ on, label })),
    recordings,
    intakes: open.intakes,
    diagnosis,
    notWeighed: open.notWeighed,
    states: stepStates(job, system, recordings.length, digestOf(diagnosis)),
  };
}
