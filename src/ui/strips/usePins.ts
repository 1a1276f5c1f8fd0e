'use client';
/** Pins of a job: added and taken off, kept with the job. */

import { useRouter } from 'next/navigation';
import type { Span } from '@/core/quantity/span';
import type { Job, Pin } from '@/core/system/schema';
import { changeJob } from '@/ui/notebook/changeJob';
import { useToast } from '@/ui/primitives/Toasts';

export function usePins(jobId: string, job: Job, version: number) {
  const router = useRouter();
  const tell = useToast();
  async function change(to: (pins: Pin[]) => Pin[]): Promise<boolean> {
    const problem = await changeJob(jobId, { version, job }, (was) => ({ ...was, pins: to(was.pins ?? []) }));
    if (problem) tell(problem);
    else router.refresh();
    return problem === null;
  }
  const put = (pin: Pin) => change((pins) => [...pins.filter((one) => one.id !== pin.id), pin]);
  return {
    pins: job.pins ?? [],
    add: (span: Span, note: string) =>
      put({
        id: crypto.randomUUID(),
        from: new Date(span.from).toISOString(),
        to: new Date(span.to).toISOString(),
        note: note.trim(),
      }),
    async remove(pin: Pin): Promise<void> {
      if (await change((pins) => pins.filter((one) => one.id !== pin.id)))
        tell(`Taken off: “${pin.note}”.`, () => void put(pin));
    },
  };
}
