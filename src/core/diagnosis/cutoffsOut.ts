/** The section on cut-offs of a diagnosis. */

import type { Discharge } from '../capacity/discharges';
import type { Counting } from '../count/types';
import { isMoving, type ResistanceTrend } from '../cutoff/trend';
import type { Around, CutOffs } from '../cutoff/types';
import { isoTime, MINUTE } from '../quantity/span';
import { rounded, roundedOrNull } from './rounded';
import type { Diagnosis } from './result';

export function cutoffsOut(
  found: CutOffs | null,
  counting: Counting | null,
): Pick<Diagnosis, 'cutoffs' | 'nearMisses' | 'discharge'> {
  if (!found) return { cutoffs: [], nearMisses: [], discharge: null };
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
      promisedHours: roundedOrNull(one.promisedHours, 1),
      missedWh: roundedOrNull(one.missedWh, 0),
      doubtful: one.isDoubtful,
      strip: one.around && stripOut(one.around),
    })),
    nearMisses: found.nearMisses.map(({ at, by, volts, limit }) => ({
      at: isoTime(at),
      by,
      volts: rounded(volts, 3),
      limit: rounded(limit, 3),
    })),
    discharge: {
      fromFull: (counting?.discharges ?? []).slice(-MOST_DISCHARGES).map(dischargeOut),
      resistance: resistance && {
        milliohms: rounded(1000 * resistance.ohms, 2),
        band: rounded(2000 * resistance.error, 2),
        steps: resistance.steps,
        usualMilliohms: rounded(1000 * resistance.usual, 2),
        trend: trendOut(resistance.trend, resistance.ohms),
      },
      paths: paths.map(({ id, ohms, error, amps, trend }) => ({
        load: id,
        milliohms: rounded(1000 * ohms, 2),
        band: rounded(2000 * error, 2),
        lostVolts: rounded(ohms * amps, 2),
        amps: rounded(amps, 1),
        trend: trendOut(trend, ohms),
      })),
    },
  };
}

const trendOut = (trend: ResistanceTrend | null, ohms: number) =>
  trend && {
    aMonth: rounded(1000 * trend.aMonth, 2),
    band: rounded(2000 * trend.error, 2),
    moves: isMoving(trend, ohms),
    points: trend.points.map((one) => ({ at: isoTime(one.at), milliohms: rounded(1000 * one.ohms, 2) })),
  };

/** The latest are shown. */
const MOST_DISCHARGES = 12;

const dischargeOut = (one: Discharge) => ({
  from: isoTime(one.from),
  to: isoTime(one.to),
  ampHours: rounded(one.ampHours, 1),
  wattHours: one.wattHours > 0 ? rounded(one.wattHours, 0) : null,
  amps: rounded(one.amps, 1),
  celsius: roundedOrNull(one.celsius, 1),
  endVolts: roundedOrNull(one.endVolts, 2),
  left: roundedOrNull(one.left, 1),
  percentOut: rounded(one.percent, 1),
  holds: one.holds && { percent: rounded(one.holds.percent, 1), band: rounded(one.holds.band, 1) },
  // Only of what can stand as a capacity test.
  course: one.holds && {
    stepMinutes: rounded(one.course.stepMs / MINUTE, 2),
    volts: one.course.volts.map((volts) => roundedOrNull(volts, 2)),
    amps: one.course.amps.map((amps) => roundedOrNull(amps, 2)),
  },
});

const stripOut = ({ from, stepMs, volts, amps, loadVolts, loadAmps, lowestCell }: Around) => {
  const column = (values: Float32Array | null, digits: number) =>
    values && Array.from(values, (one) => roundedOrNull(one, digits));
  return {
    from: isoTime(from),
    stepSeconds: stepMs / 1000,
    volts: column(volts, 2),
    amps: column(amps, 1),
    loadVolts: column(loadVolts, 2),
    loadAmps: column(loadAmps, 1),
    lowestCell: column(lowestCell, 3),
  };
};
