/** Trips of one cutter close together are one cut-off. */

import type { Timeline } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import type { KnownBank } from '../system/known';
import type { Found } from './alike';
import { voltsAtBegin } from './began';
import { restAfter } from './recovered';
import type { CutOff } from './types';

/** Trips of one load within this are one cut-off. */
export const TOGETHER = 30 * MINUTE;

/** The cut-offs, the earliest first, each with its trips and with what the battery came back to. */
export function together(found: readonly Found[], timeline: Timeline, bank: KnownBank): CutOff[] {
  const list: CutOff[] = [];
  for (const { drop, at, by, why, moment } of found) {
    const same = list.find((one) => one.by === by && at - one.last < TOGETHER);
    const back = drop?.back ?? NaN;
    if (same) {
      same.last = at;
      same.trips++;
      same.back = back;
      continue;
    }
    list.push({
      at,
      last: at,
      trips: 1,
      by,
      why,
      back,
      shown: moment.shown,
      held: moment.held,
      deviation: moment.deviation,
      volts: moment.volts,
      loadVolts: drop?.loadVolts ?? NaN,
      loadAmps: drop?.peak ?? NaN,
      amps: moment.amps,
      othersGoOn: drop?.goesOn ?? false,
      ranMs: drop?.ranMs ?? NaN,
      beganVolts: NaN,
      restVolts: NaN,
      lowestV: moment.lowestV,
      meanV: moment.meanV,
      lowestCell: moment.lowestCell,
      celsius: moment.celsius,
      promisedHours: NaN,
      missedWh: NaN,
      isDoubtful: false,
      around: null,
    });
  }
  for (const one of list) {
    one.beganVolts = voltsAtBegin(timeline, one);
    one.restVolts = restAfter(timeline, one, bank);
  }
  return list;
}
