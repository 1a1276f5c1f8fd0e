/**
 * How fast a lead battery's voltage sinks with what is drawn from it, at small currents and long after a charge: a battery that holds half
 * sinks twice as fast. What level it sinks from is another battery's matter; how steep it sinks is nearly the same for all of them.
 */

import type { SourceCharging } from '../charge/types';
import { isNumber, mean, median, quantile, sum } from '../quantity/numbers';
import { HOUR, type Span } from '../quantity/span';
import { cellStart, type Grid } from '../log/grid';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import { LOAD_DROPS } from '../system/restVoltage';

export interface Sinking {
  /** Ah that it holds by this, and one standard deviation. */
  capacityAh: number;
  deviation: number;
  /** Stretches without a charge from which this is. */
  spans: Span[];
  /** Of one stretch, the median: V of the bank that it sank by, Ah drawn in it, and A on its mean. */
  volts: number;
  ampHours: number;
  amps: number;
}

/**
 * V a 12 V block from full to empty at small currents. At rest it is 0.76 (Battery Council International, from memory), and under
 * a load of hours more (common practice, no source); makers' batteries differ by so much, as a part.
 */
const FALLS = { volts: 1, differs: 0.2 };
/** Above this a block is charged, or kept full, V. */
const CHARGED = 13;
/** Near empty any battery sinks fast: V a block at next to no current below which it tells nothing (common practice, no source). */
const LOW = 11.8;
/** What counts as a charge, parts of the capacity, and how long it is felt. */
const INTO = { part: 0.003, settles: 2 * HOUR };
/** A load that strains the battery, parts of the capacity, and how long that is felt; it costs capacity of its own: of what is drawn it may be this part. */
const STRAINS = { part: 0.1, settles: HOUR / 2, share: 0.25 };
/** So soon after a charge that got it full. */
const FROM_FULL = 4 * HOUR;
/** A stretch that tells: so long, so many cells, and so far down, V a block and steps of the meter; and so many of them. */
const STRETCH = { ms: 2 * HOUR, cells: 12, volts: 0.05, steps: 2, fewest: 3 };
/** Drawn on the mean of a stretch, parts of the capacity an hour: less is as good as nothing, more costs capacity of its own. */
const RATE = { least: 0.001, most: 0.05 };
/** Stretches that differ by more than this part tell nothing. */
const SCATTER = 0.3;
/** Charges that put back before float more than so many times what was counted out fill what a load drew that is not counted. */
const MOST_BACK = 1.7;
/** °C below which no capacity is judged from voltages. */
const COLD = 5;

interface Stretch extends Span {
  /** Of each cell: parts of the capacity drawn so far, current as a part of it, V a block. */
  drawn: number[];
  part: number[];
  volts: number[];
  /** Drawn since the last charge, before it begins, parts of the capacity. */
  before: number;
  /** Drawn by loads that strain it, parts of the capacity; cells before the first of them, and when the last of those was. */
  strained: number;
  calmCells: number;
  calmTo: number;
  /** Of a stretch that is the calm part of another: that one. */
  whole?: Stretch;
}

/**
 * @param amps into the battery on the grid, A, put right
 * @param volts of the bank on the grid
 * @param celsius of the battery on the grid; null where nobody logged it
 * @param charging what its chargers did
 * @param digit least step of the meter that shows the volts; 0 where it shows all
 * @returns null where it does not show, or not all that is drawn is counted
 */
export function sinkingOf(
  bank: KnownBank,
  grid: Grid,
  amps: Float32Array,
  volts: Float32Array,
  celsius: Float32Array | null,
  charging: readonly SourceCharging[],
  digit = 0,
): Sinking | null {
  if (!isLead(bank.chemistry)) return null;
  const stretches = stretchesOf(bank, grid, amps, volts, celsius)
    .filter((one) => !isStrained(one) || isFromFull(one, charging))
    .map((one) => (isStrained(one) ? calmPart(one) : one))
    .filter(tells);
  if (stretches.length < STRETCH.fewest) return null;
  const sums = stretches.map(sumsOf);
  const perPart = resistanceOf(sums);
  if (perPart === null) return null;
  const slopes = sums.map((one) => slopeOf(one, perPart));
  const slope = median(slopes);
  const fell = median(stretches.map((one, k) => -slopes[k]! * one.drawn.at(-1)!));
  const scatter = (quantile(slopes, 0.84) - quantile(slopes, 0.16)) / 2 / Math.abs(slope);
  const least = Math.max(STRETCH.volts, (STRETCH.steps * digit) / blocksInSeries(bank));
  if (!(slope < 0) || fell < least || scatter > SCATTER) return null;
  if (putBack(bank, stretches, charging) > MOST_BACK) return null;
  const capacityAh = (bank.capacityAh * FALLS.volts) / -slope;
  return {
    capacityAh,
    deviation: capacityAh * Math.hypot(FALLS.differs, scatter / Math.sqrt(stretches.length)),
    spans: stretches.map(({ from, to }) => ({ from, to })),
    volts: fell * blocksInSeries(bank),
    ampHours: bank.capacityAh * median(stretches.map((one) => one.drawn.at(-1)!)),
    amps: bank.capacityAh * median(stretches.map(rateOf)),
  };
}

/** Stretches in which nothing goes in and the last charge is no longer felt. */
function stretchesOf(
  bank: KnownBank,
  grid: Grid,
  amps: Float32Array,
  volts: Float32Array,
  celsius: Float32Array | null,
): Stretch[] {
  const blocks = blocksInSeries(bank);
  const stretches: Stretch[] = [];
  let current: Stretch | null = null;
  let drawn = 0;
  // Nothing was seen before the start of a log.
  let chargedAt = cellStart(grid, 0);
  let strainedAt = -Infinity;
  for (let cell = 0; cell < grid.count; cell++) {
    const at = cellStart(grid, cell);
    const part = amps[cell]! / bank.capacityAh;
    const perBlock = volts[cell]! / blocks;
    const isCharged = part > INTO.part || perBlock > CHARGED;
    if (isCharged) {
      chargedAt = at;
      drawn = 0;
    }
    const isCold = celsius !== null && celsius[cell]! < COLD;
    if (part !== part || perBlock !== perBlock || isCharged || isCold || at - chargedAt < INTO.settles) {
      current = null;
      if (part < 0 && !isCharged) drawn -= (part * grid.step) / HOUR;
      continue;
    }
    if (!current) {
      current = {
        from: at,
        to: at,
        drawn: [],
        part: [],
        volts: [],
        before: drawn,
        strained: 0,
        calmCells: 0,
        calmTo: at,
      };
      stretches.push(current);
      drawn = 0;
    }
    drawn -= (part * grid.step) / HOUR;
    if (part < -STRAINS.part) {
      strainedAt = at;
      current.strained -= (part * grid.step) / HOUR;
    }
    if (at - strainedAt < STRAINS.settles || perBlock < LOW + LOAD_DROPS.lead * part) continue;
    current.to = at;
    current.drawn.push(drawn);
    current.part.push(part);
    current.volts.push(perBlock);
    if (current.strained === 0) [current.calmCells, current.calmTo] = [current.drawn.length, at];
  }
  return stretches;
}

const isStrained = ({ strained, drawn }: Stretch): boolean => strained > STRAINS.share * (drawn.at(-1) ?? 0);

/** Whether a charge that got it full ended shortly before: a battery that is nearly empty sinks fast whatever it holds. */
const isFromFull = ({ from }: Stretch, charging: readonly SourceCharging[]): boolean =>
  charging.some(({ charges }) =>
    charges.some((one) => one.full && one.from < from && from - one.to < FROM_FULL),
  );

/** Of a stretch that is strained, what came before. */
const calmPart = (whole: Stretch): Stretch => ({
  ...whole,
  whole,
  to: whole.calmTo,
  drawn: whole.drawn.slice(0, whole.calmCells),
  part: whole.part.slice(0, whole.calmCells),
  volts: whole.volts.slice(0, whole.calmCells),
});

function tells(one: Stretch): boolean {
  const { from, to, drawn } = one;
  if (drawn.length < STRETCH.cells || to - from < STRETCH.ms) return false;
  const rate = rateOf(one);
  return rate >= RATE.least && rate <= RATE.most;
}

/** Ah that the charge after a stretch put back before float, for each that was drawn since the last; NaN where no full charge follows at once. */
function putBack(
  bank: KnownBank,
  stretches: readonly Stretch[],
  charging: readonly SourceCharging[],
): number {
  const charges = charging.filter((one) => one.knowsBatteryAmps).flatMap((one) => one.charges);
  const back = stretches.map((stretch) => {
    const { to, before, drawn } = stretch.whole ?? stretch;
    const next = charges.find((one) => one.full && Math.abs(one.from - to) < HOUR);
    if (!next) return NaN;
    const filling = next.stages.filter(({ stage }) => stage === 'bulk' || stage === 'absorption');
    const into = sum(filling.map((one) => one.ampHours));
    return into / bank.capacityAh / (before + drawn.at(-1)!);
  });
  return median(back.filter(isNumber));
}

/** Drawn on its mean, parts of the capacity an hour. */
const rateOf = ({ from, to, drawn }: Stretch): number => ((drawn.at(-1)! - drawn[0]!) * HOUR) / (to - from);

/** Sums over a stretch of what its cells lie off its means by: drawn charge, current and voltage, each with each. */
interface Sums {
  dd: number;
  dp: number;
  pp: number;
  dv: number;
  pv: number;
}

function sumsOf({ drawn, part, volts }: Stretch): Sums {
  const [meanDrawn, meanPart, meanVolts] = [mean(drawn), mean(part), mean(volts)];
  const sums = { dd: 0, dp: 0, pp: 0, dv: 0, pv: 0 };
  for (let k = 0; k < drawn.length; k++) {
    const d = drawn[k]! - meanDrawn;
    const p = part[k]! - meanPart;
    const v = volts[k]! - meanVolts;
    sums.dd += d * d;
    sums.dp += d * p;
    sums.pp += p * p;
    sums.dv += d * v;
    sums.pv += p * v;
  }
  return sums;
}

/** V a block for a current of the whole capacity, from all stretches at once; null where drawn charge and current cannot be told apart. */
function resistanceOf(stretches: readonly Sums[]): number | null {
  const all = (key: keyof Sums) => sum(stretches.map((one) => one[key]));
  const [dd, dp, pp] = [all('dd'), all('dp'), all('pp')];
  // A load that never changes costs a voltage that never changes.
  if (pp < 1e-9 * dd) return 0;
  const left = dd * pp - dp * dp;
  return left > 1e-3 * dd * pp ? (all('pv') * dd - all('dv') * dp) / left : null;
}

/** V a block for the whole capacity, of one stretch, without what its current costs. */
const slopeOf = ({ dd, dp, dv }: Sums, perPart: number): number => (dv - perPart * dp) / dd;
