/** The section on cut-offs of a diagnosis. */

import type { CutOffs } from '../cutoff/types';
import { isoTime, MINUTE } from '../quantity/span';
import { rounded, roundedOrNull } from './rounded';
import type { Diagnosis } from './result';

export function cutoffsOut(found: CutOffs | null): Pick<Diagnosis, 'cutoffs' | 'discharge'> {
  if (!found) return { cutoffs: [], discharge: null };
  const { resistance, paths } = found;
  return {
    cutoffs: found.list.map((one) => ({
      at: isoTime(one.at),
      by: one.by,
      why: one.why,
      trips: one.trips,
      socShown: roundedOrNull(one.shown, 1),
      socTrue: roundedOrNull(one.held, 1),
      socBand: roundedOrNull(2 * one.deviation, 1),
      volts: roundedOrNull(one.volts, 2),
      loadVolts: roundedOrNull(one.loadVolts, 2),
      amps: roundedOrNull(one.amps, 1),
      loadAmps: roundedOrNull(one.loadAmps, 1),
      restVolts: roundedOrNull(one.restVolts, 2),
      minCellVolts: roundedOrNull(one.lowestV, 3),
      meanCellVolts: roundedOrNull(one.meanV, 3),
      lowestCell: one.lowestCell === '' ? null : one.lowestCell,
      celsius: roundedOrNull(one.celsius, 1),
      minutesAway: roundedOrNull((one.back - one.last) / MINUTE, 0),
    })),
    discharge: {
      resistance: resistance && {
        milliohms: rounded(1000 * resistance.ohms, 2),
        band: rounded(2000 * resistance.error, 2),
        steps: resistance.steps,
        usualMilliohms: rounded(1000 * resistance.usual, 2),
      },
      paths: paths.map(({ id, ohms, error, amps }) => ({
        load: id,
        milliohms: rounded(1000 * ohms, 2),
        band: rounded(2000 * error, 2),
        lostVolts: rounded(ohms * amps, 2),
        amps: rounded(amps, 1),
      })),
    },
  };
}
