/** How the cells of a battery, or the halves of a bank, stand beside each other over a log. */

import { gapLimit, medianStep } from '../log/grid';
import type { Timeline } from '../log/timeline';
import { isNumber, median, theilSen } from '../quantity/numbers';
import { DAY, HOUR } from '../quantity/span';
import { isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import { type CellLog, cellLogOf, halfLogOf } from './cellLog';
import { type End, type Ends, endsOf, firstAt, highsOf } from './ends';
import { heatMap } from './heatMap';
import { lagAt, type OneLag } from './lag';
import { type Middle, middleOf } from './middle';
import { stepOhms } from './stepOhms';
import type { CellFigures, Cells, Lag } from './types';

/** Null where neither cells nor the voltage between the halves were logged. */
export function cellsOf({ bank, bms }: KnownSystem, timeline: Timeline): Cells | null {
  const ofCells = cellLogOf(bank, timeline);
  const log = ofCells ?? halfLogOf(bank, timeline);
  if (!log || log.time.length < 2) return null;
  const seen = middleOf(log);
  // Lead has no such ends: its cells gas, and their voltage falls slowly.
  const ends: Ends = isLead(bank.chemistry) || !ofCells ? { tops: [], bottoms: [] } : endsOf(log, seen);
  const flat = flatSamples(log, seen, isLead(bank.chemistry) || !ofCells);
  const highs = ends.tops.length === 0 && ends.bottoms.length > 0 ? highsOf(log, seen) : [];
  const resistance = ofCells && stepOhms(ofCells, bank.capacityAh);
  const spread = (at: readonly number[]) => median(at.map((i) => seen.most[i]! - seen.least[i]!));
  return {
    kind: ofCells ? 'cells' : 'halves',
    battery: null,
    capacityAh: bank.capacityAh,
    logged: { from: log.time[0]!, to: log.time[log.time.length - 1]! },
    figures: log.names.map((_, k) => ({
      ...figuresOf(log, seen, ends, { flat, highs }, k, bank.capacityAh),
      ohms: resistance?.ohms[k] ?? NaN,
      ohmsError: resistance?.errors[k] ?? NaN,
    })),
    tops: ends.tops.length,
    bottoms: ends.bottoms.length,
    spread: {
      flat: spread(flat),
      top: spread(ends.tops.map((one) => one.index)),
      bottom: spread(ends.bottoms.map((one) => one.index)),
    },
    chargedToHigh: chargedTo(highs, ends.bottoms, log),
    low: firstAt(ends.bottoms, log.names),
    high: firstAt(ends.tops, log.names),
    balancingADay: bms?.balanceV === undefined || !ofCells ? NaN : balancing(log, seen, bms.balanceV),
    heat: heatMap(log, seen),
  };
}

/** Ah from the last end at the bottom, median. */
function chargedTo(highs: readonly number[], bottoms: readonly End[], { ampHours }: CellLog): number {
  if (!ampHours) return NaN;
  return median(
    highs.flatMap((high) => {
      const low = bottoms.findLast((one) => one.index < high);
      return low ? ampHours[high]! - ampHours[low.index]! : [];
    }),
  );
}

/** Lithium between its ends, V. */
const FLAT = { from: 3.15, to: 3.36 };
/** So many samples, evenly over the log, say how cells stand in the flat part. */
const SAMPLES = 2000;

/** @param all lead and halves have no flat part: then the whole log counts */
function flatSamples({ time }: CellLog, { middle }: Middle, all: boolean): number[] {
  const stride = Math.max(1, Math.floor(time.length / SAMPLES));
  const found: number[] = [];
  for (let i = 0; i < time.length; i += stride)
    if (all ? middle[i]! === middle[i]! : middle[i]! > FLAT.from && middle[i]! < FLAT.to) found.push(i);
  return found;
}

function figuresOf(
  log: CellLog,
  seen: Middle,
  ends: Ends,
  { flat, highs }: Readonly<Record<'flat' | 'highs', readonly number[]>>,
  k: number,
  capacityAh: number,
): Omit<CellFigures, 'ohms' | 'ohmsError'> {
  const column = log.volts[k]!;
  const apart = (at: readonly number[]) => median(at.map((i) => column[i]! - seen.middle[i]!));
  const indexes = (some: readonly End[]) => some.map((one) => one.index);
  const tops = lags(log, seen, 'top', indexes(ends.tops), k);
  const bottoms = lags(log, seen, 'bottom', indexes(ends.bottoms), k);
  return {
    cell: log.names[k]!,
    apart: { flat: apart(flat), top: apart(indexes(ends.tops)), bottom: apart(indexes(ends.bottoms)) },
    firstHigh: ends.tops.filter((one) => one.cell === k).length,
    firstLow: ends.bottoms.filter((one) => one.cell === k).length,
    behindAtTop: together(tops),
    behindAtHigh: together(lags(log, seen, 'top', highs, k)),
    shortAtBottom: together(bottoms),
    fallsBehindADay: trend(log, tops, capacityAh),
  };
}

interface SeenLag extends OneLag {
  index: number;
}

const lags = (
  log: CellLog,
  seen: Middle,
  end: 'top' | 'bottom',
  at: readonly number[],
  k: number,
): SeenLag[] =>
  at.flatMap((index) => {
    const lag = lagAt(log, seen, end, index, k);
    return lag ? [{ index, ...lag }] : [];
  });

const together = (some: readonly SeenLag[]): Lag => ({
  ampHours: median(some.map((one) => one.ampHours)),
  least: median(some.map((one) => one.least)),
  most: median(some.map((one) => one.most)),
  times: some.length,
});

/** A trend wants so many charges over so long, and lags that are small and known well, parts of the capacity. */
const TREND = { fewest: 5, days: 6, known: 0.01, most: 0.08 };

/** Ah a day; NaN where too few charges got to the top, or only to the flat part. */
function trend({ time }: CellLog, some: readonly SeenLag[], capacityAh: number): number {
  const known = some.filter(
    ({ ampHours, least, most }) =>
      Math.abs(most - least) < TREND.known * capacityAh && Math.abs(ampHours) < TREND.most * capacityAh,
  );
  const days = known.map((one) => time[one.index]! / DAY);
  if (known.length < TREND.fewest || !(days[days.length - 1]! - days[0]! >= TREND.days)) return NaN;
  return theilSen(
    days,
    known.map((one) => one.ampHours),
  );
}

function balancing({ time, amps }: CellLog, { most }: Middle, balanceV: number): number {
  const limit = gapLimit(medianStep(time));
  let held = 0;
  let logged = 0;
  for (let i = 1; i < time.length; i++) {
    const step = time[i]! - time[i - 1]!;
    if (step > limit) continue;
    logged += step;
    if (most[i]! >= balanceV && !(amps && amps[i]! < 0)) held += step;
  }
  const hours = held / HOUR / (logged / DAY);
  return isNumber(hours) ? hours : NaN;
}
