/** A recording as its device wrote it: in UTC by the zone that is set, without what its clock is off by. */

import type { Series } from '@/core/log/channels';
import { setClock } from '@/core/log/clock';
import type { RecordingInfo } from '@/core/log/recording';
import type { Store } from '@/store/database';
import { findRecording } from '@/store/recordings';
import { loadSeries } from '@/store/samples';

/** What is made of it can still be set otherwise: offset and drift go beside it. @throws when it is not there */
export async function readingOf(store: Store, { id, zoned, clock }: RecordingInfo): Promise<Series> {
  const series = await loadSeries(store, id, true);
  const plan = (await findRecording(store, id))!.plan;
  const zone = { timeZone: clock.timeZone, offsetSeconds: 0, secondsPerDay: 0 };
  return { ...series, time: setClock(series.time, zoned ? plan.timeZone : null, zone) };
}
