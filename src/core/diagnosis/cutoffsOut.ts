/** The section on cut-offs of a diagnosis. */

import type { CutOffs } from '../cutoff/types';
import { isNumber } from '../quantity/numbers';
import { isoTime, MINUTE } from '../quantity/span';
import type { Diagnosis } from './result';

export function cutoffsOut(found: CutOffs | null): Pick<Diagnosis, 'cutoffs' | 'discharge'> {
  if (!found) return { cutoffs: [], discharge: null };
  const { resistance, paths, cells } = found;
  return {
    cutoffs: found.list.map((one) => ({
      at: isoTime(one.at),
      by: one.by,
      why: one.why,
      trips: one.trips,
      socShown: to(one.shown, 1),
      socTrue: to(one.held, 1),
      socBand: to(2 * one.deviation, 1),
      volts: to(one.volts, 2),
      loadVolts: to(one.loadVolts, 2),
      amps: to(one.amps, 1),
      loadAmps: to(one.loadAmps, 1),
      restVolts: to(one.restVolts, 2),
      minCellVolts: to(one.lowestV, 3),
      meanCellVolts: to(one.meanV, 3),
      lowestCell: one.lowestCell === '' ? null : one.lowestCell,
      celsius: to(one.celsius, 1),
      minutesAway: to((one.back - one.last) / MINUTE, 0),
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
      firstLow: cells?.low
        ? {
            cell: cells.low.cell,
            times: cells.low.times,
            of: cells.low.of,
            millivolts: Math.round(1000 * cells.low.under),
          }
        : null,
      firstHigh: cells?.high
        ? {
            cell: cells.high.cell,
            times: cells.high.times,
            of: cells.high.of,
            millivolts: Math.round(1000 * cells.high.over),
          }
        : null,
    },
  };
}

/** No negative nothing: it would not survive JSON. */
const rounded = (value: number, digits: number): number => Number(value.toFixed(digits)) + 0;
const to = (value: number, digits: number): number | null =>
  isNumber(value) ? rounded(value, digits) : null;
