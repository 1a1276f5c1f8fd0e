/** The part of a diagnosis on cut-offs, discharging and cells. */

import { z } from 'zod';
import { CELL_VERDICTS } from '../cells/verdict';
import { CUT_REASONS } from '../cutoff/types';
import { BATTERY_VERDICTS } from '../parallel/beside';

const number = z.number();
const known = z.number().nullable();

export const cutoff = z.object({
  at: z.string(),
  /** Id of a load, `bms` or `unknown`. */
  by: z.string(),
  why: z.enum(CUT_REASONS),
  trips: number,
  socShown: known,
  socTrue: known,
  /** One way, two standard deviations, points. */
  socBand: known,
  /** Just before, at the battery and at the load, V; A out of the battery, and what the load drew at most. */
  volts: known,
  loadVolts: known,
  amps: known,
  loadAmps: known,
  /** V to which the battery came back with the load away. */
  restVolts: known,
  minCellVolts: known,
  meanCellVolts: known,
  lowestCell: z.string().nullable(),
  celsius: known,
  /** Minutes until the load was back; null where it was not. */
  minutesAway: known,
  /** Hours to go that the reading promised an hour before. */
  promisedHours: known,
  /** Wh that it would have drawn while it was off, going by the day before. */
  missedWh: known,
  /** A clock may have ended it as well; it counts because of the complaint. */
  doubtful: z.boolean(),
  /** Ten minutes before and after, in even steps; null for what was not logged, and beyond the first of them. */
  strip: z
    .object({
      from: z.string(),
      stepSeconds: number,
      volts: z.array(known).nullable(),
      amps: z.array(known).nullable(),
      loadVolts: z.array(known).nullable(),
      loadAmps: z.array(known).nullable(),
      lowestCell: z.array(known).nullable(),
    })
    .nullable(),
});

/** Near a limit, and back without having gone off. */
export const nearMiss = z.object({ at: z.string(), by: z.string(), volts: number, limit: number });

/** From a truly full battery down to the lowest point. */
export const fromFull = z.object({
  from: z.string(),
  to: z.string(),
  ampHours: number,
  wattHours: known,
  /** Mean while it was drawn on, A. */
  amps: number,
  celsius: known,
  endVolts: known,
  /** % that was left. */
  left: known,
  /** What came out, per cent of the rating at the rated current and 25 °C. */
  percentOut: number,
  /** What the battery holds by this; null where it was not drawn until it was empty. */
  holds: z.object({ percent: number, band: number }).nullable(),
  course: z.object({ stepMinutes: number, volts: z.array(known), amps: z.array(known) }).nullable(),
});

/** Over the log, mΩ: in stretches, and in 30 days, one way two standard deviations; null where the log is too short. */
const trend = z
  .object({
    aMonth: number,
    band: number,
    moves: z.boolean(),
    points: z.array(z.object({ at: z.string(), milliohms: number })),
  })
  .nullable();

/** What discharging shows beside the cut-offs. */
export const discharge = z.object({
  fromFull: z.array(fromFull),
  /** The battery by steps of its current, mΩ, one way two standard deviations, and a good one's. */
  resistance: z
    .object({ milliohms: number, band: number, steps: number, usualMilliohms: number, trend: trend })
    .nullable(),
  /** Between battery and load. */
  paths: z.array(
    z.object({ load: z.string(), milliohms: number, band: number, lostVolts: number, amps: number, trend }),
  ),
});

const firstAtEnd = z.object({ cell: z.string(), times: number, of: number, millivolts: number }).nullable();
/** Ah by which a cell lags, known no better than between the least and the most. */
const lag = z.object({ ampHours: number, least: number, most: number, times: number }).nullable();

/** One of several batteries in parallel. */
export const battery = z.object({
  battery: z.string(),
  name: z.string(),
  /** Of the current of all, and its part by the labels. */
  givenPercent: known,
  takenPercent: known,
  partPercent: number,
  /** Over or under the middle of the others: its own percentage in points, its voltage with little flowing. */
  percentApart: known,
  millivoltsApart: known,
  hoursOut: known,
  out: z.array(z.tuple([z.string(), z.string()])),
  verdict: z.enum(BATTERY_VERDICTS),
});

/** The cells beside each other, or the halves of a bank. */
export const cells = z.object({
  kind: z.enum(['cells', 'halves']),
  /** Id of the battery whose cells these are, where there are several in parallel. */
  battery: z.string().nullable(),
  /** How often the top and the bottom were seen. */
  tops: number,
  bottoms: number,
  /** Highest less lowest, mV, medians. */
  spread: z.object({ flat: known, top: known, bottom: known }),
  firstLow: firstAtEnd,
  firstHigh: firstAtEnd,
  /** Hours a day with a cell above the voltage at which balancing begins. */
  balancingHoursADay: known,
  cells: z.array(
    z.object({
      cell: z.string(),
      /** mV over or under the middle of the cells. */
      flat: known,
      top: known,
      bottom: known,
      firstHigh: number,
      firstLow: number,
      behindAtTop: lag,
      shortAtBottom: lag,
      fallsBehindAhADay: known,
      /** With its joints, by steps of the current; one way two standard deviations. */
      milliohms: known,
      milliohmsBand: known,
      verdict: z.enum(CELL_VERDICTS),
    }),
  ),
  /** mV from the middle of the cells in even steps, a row a cell; and highest less lowest. */
  heat: z.object({
    from: z.string(),
    stepHours: number,
    apart: z.array(z.array(known)),
    spread: z.array(known),
  }),
});
