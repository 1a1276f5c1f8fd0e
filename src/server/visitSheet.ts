/** The sheet of a visit of a job. */

import type { Store } from '@/store/database';
import { findJob } from '@/store/jobs';
import { listPhotos } from '@/store/photos';
import { listRecords } from '@/store/records';
import { sheetOf, type VisitSheet } from '@/ui/report/visitSheet';

/** Null when there is no such visit. */
export async function visitSheet(store: Store, jobId: string, visitId: string): Promise<VisitSheet | null> {
  const found = await findJob(store, jobId);
  if (!found) return null;
  const [{ visit }, photos] = await Promise.all([
    listRecords(store, found.systemId),
    listPhotos(store, jobId),
  ]);
  const one = visit.find((each) => each.id === visitId && each.job === jobId);
  return one ? sheetOf(found.job, found.system, one, photos) : null;
}
