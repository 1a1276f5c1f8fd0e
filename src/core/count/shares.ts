/** How much of each device's current the monitor shows: by steps against the device's own log, or beside the BMS's meter. */

import { isNumber, mean, quantile, robustDeviation } from '../quantity/numbers';
import { MINUTE } from '../quantity/span';
import { cellStart, type Grid, medianStep, toGrid } from '../log/grid';
import { interpolateAt } from '../log/interpolateAt';
import { besideRows } from '../log/phase';
import { lastDigit } from '../log/resolution';
import { logOf, type Timeline } from '../log/timeline';
import { blocksInSeries, deadVolts } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { CounterLog } from './counterLog';
import { CLEARLY, fitOfShares } from './fitOfShares';
import { sharesAsOne } from './movesAsOne';
import { shareByBlocks } from './shareBlocks';
import { RAISES, type Seen, stepsOver } from './shareSteps';
import { rowsLate, rowsSooner } from './rowsLate';
import {
  AS_ONE,
  openAtOneTime,
  openByDirection,
  openByLevels,
  openByOthers,
  partsAlone,
  UNTOLD,
} from './sharesOpen';
import { chargingVolts } from './unseen';

/** How much of a device's current the monitor shows: 1 all, 0 nothing, under 0 the wrong way round. */
export interface Share {
  id: string;
  kind: 'source' | 'load';
  share: number;
  /** One standard deviation. */
  error: number;
  /** Steps that it was seen by. */
  steps: number;
  /** Hours in which it carried the loads and the monitor showed them all the same, where that tells it. */
  carriedHours?: number;
}

/** Mean current of a device that has a log of its own, A. */
export interface MeanCurrent {
  id: string;
  kind: Share['kind'];
  amps: number;
}

/** Steps are taken over so long: clouds and switching both show in it. */
const LAG = 6 * MINUTE;
/** What steps over less time tell is another share where it is so many errors away. */
const APART = 2;
/**
 * Least step of a device's current, parts of the capacity, and in last digits of the coarser meter (rounded off, less is anything between
 * nothing and twice itself); fewest that decide.
 */
const LEAST_STEP = 0.02;
const LEAST_DIGITS = 4;
const FEWEST = 4;
/**
 * What a device's meter trembles by is in no other meter, and looks like a current that is not seen: a step is so many deviations of it at
 * the least, and what moves by less than so many in all does not move.
 */
const NOISE = { step: 5, moves: 6 };
/** A monitor writes seldom beside a device whose log has so many samples to one of its own. */
const SELDOM = 1.5;
/** A share that is as open as this is looked for in means over longer. */
const OPEN = 0.15;

/** Fewer cells than this decide nothing. */
export const LEAST_CELLS = 300;

export const meansOf = (system: KnownSystem, timeline: Timeline): MeanCurrent[] =>
  devicesWithCurrent(system).flatMap(({ id, kind, channel }) => {
    const own = logOf(timeline, id, channel);
    return own ? [{ id, kind, amps: mean(own.channels[channel]!) }] : [];
  });

/** Devices that may have a log of their own current, and its channel. */
export const devicesWithCurrent = ({ sources, loads }: Pick<KnownSystem, 'sources' | 'loads'>) => [
  ...sources.map(({ id }) => ({ id, kind: 'source' as const, channel: 'source_current' as const })),
  ...loads.map(({ id }) => ({ id, kind: 'load' as const, channel: 'load_current' as const })),
];

/** All devices with logs of their own at once: two suns move together. */
export function sharesOf(
  system: KnownSystem,
  timeline: Timeline,
  log: CounterLog,
  grid: Grid,
  { amps, volts }: { amps: Float32Array; volts: Float32Array | null },
  held: Uint8Array,
): Share[] {
  const { capacityAh } = system.bank;
  const monitorEvery = medianStep(log.time);
  const shown = lastDigit(log.amps);
  let slowest = grid.step;
  const devices = devicesWithCurrent(system).flatMap(({ id, kind, channel }) => {
    const own = logOf(timeline, id, channel);
    if (!own || own.device === log.device) return [];
    const every = medianStep(own.time);
    slowest = Math.max(slowest, every);
    const average = toGrid(besideRows(own.time, log.time), own.channels[channel]!, grid);
    // A monitor that writes seldom may write the moment, or the mean since it wrote last.
    const moment =
      monitorEvery >= SELDOM * every
        ? toGrid(log.time, interpolateAt(own.time, own.channels[channel]!, log.time), grid).map((one, i) =>
            isNumber(one) ? one : average[i]!,
          )
        : average;
    // What moves little is judged by what it moves.
    const range = quantile(average, 0.98) - quantile(average, 0.02);
    const digit = Math.max(shown, lastDigit(own.channels[channel]!));
    const noise = noiseOf(average);
    const least =
      range < NOISE.moves * noise
        ? Infinity
        : Math.max(
            0.002 * capacityAh,
            Math.min(LEAST_STEP * capacityAh, 0.3 * range),
            LEAST_DIGITS * digit,
            NOISE.step * noise,
          );
    const counted = [...system.sources, ...system.loads].find((one) => one.id === id)?.counted ?? null;
    // What is written more often lies less than a row of the monitor's beside it.
    if (moment !== average) return [{ id, kind, counted, amps: average, moment, least }];
    const late = rowsLate(kind === 'source' ? average : average.map((one) => -one), amps, least);
    const onTime = rowsSooner(average, late);
    return [{ id, kind, counted, amps: onTime, moment: onTime, least }];
  });
  if (devices.length === 0) return [];
  const seen: Seen = {
    devices,
    amps,
    volts,
    held,
    grid,
    level: chargingVolts(system.bank),
    dead: deadVolts(system.bank),
    raised: RAISES * blocksInSeries(system.bank),
    isOnlySource: system.sources.length === 1,
  };
  const shortest = Math.max(1, Math.round((2 * slowest) / grid.step));
  const lag = Math.max(shortest, Math.round(LAG / grid.step));
  // A load that always comes minutes after a charger hides behind it in a long step, and not in a short one.
  const short = shortest < lag ? sharesOver(shortest, seen) : [];
  // What a sun without a log gives moves with the others: nothing can be told of one alone.
  const isSolar = (id: string) => system.sources.find((one) => one.id === id)?.kind === 'solar';
  const unlogged = system.sources.filter(({ id }) => !devices.some((one) => one.id === id));
  const hidden = unlogged.some(({ kind }) => kind === 'solar');
  // A charger without a log answers some steps of a source and others not, so that a part of the source is shown: as open as that.
  const answered = (one: Share): Share =>
    one.kind === 'source' && unlogged.length > 0 && one.share > 0 && one.share < 1
      ? { ...one, error: Math.hypot(one.error, one.share * (1 - one.share)) }
      : one;
  // Two that move at once are not told apart by it.
  const [only] = devices.length === 1 ? devices : [];
  const byMeans = (one: Share): Share => {
    if (!only || only.kind !== 'source' || one.error < OPEN || one.error >= UNTOLD) return one;
    const blocks = shareByBlocks(only.amps, amps, grid, Math.max(slowest, monitorEvery), only.least);
    const fits =
      blocks &&
      blocks.error < one.error &&
      Math.abs(blocks.share - one.share) <= APART * Math.hypot(one.error, blocks.error);
    return fits ? { ...one, ...blocks } : one;
  };
  return sharesOver(lag, seen)
    .filter(({ id, steps }) => steps >= FEWEST / 2 && !(hidden && isSolar(id)))
    .map((one) => {
      const other = short.find(({ id }) => id === one.id);
      const apart = other ? Math.abs(other.share - one.share) : 0;
      const differs = other && apart > APART * Math.hypot(one.error, other.error);
      return answered(byMeans(differs ? { ...one, error: Math.hypot(one.error, apart) } : one));
    });
}

/**
 * What a current trembles by from cell to cell, one standard deviation, A. The resolution of a meter is found otherwise: of a load that is on
 * or off it would be the whole load.
 */
function noiseOf(amps: Float32Array): number {
  const moves: number[] = [];
  for (let i = 1; i < amps.length; i++) {
    const move = amps[i]! - amps[i - 1]!;
    if (move === move) moves.push(move);
  }
  return moves.length === 0 ? 0 : robustDeviation(moves) / Math.SQRT2;
}

/** Shares by steps over so many cells. */
function sharesOver(lag: number, seen: Seen): Share[] {
  const { amps, devices, grid, isOnlySource } = seen;
  const { rows, moved } = stepsOver(lag, seen);
  const stepsOf = (own: Float32Array, kind: Share['kind']) =>
    Float64Array.from(rows, (i) => (own[i + lag]! - own[i]!) * (kind === 'source' ? 1 : -1));
  // What never moves by enough to be judged itself moves with the others all the same.
  const moving = devices
    .map((device, k) => ({ device, steps: moved[k]!, column: stepsOf(device.amps, device.kind) }))
    .filter(({ column }) => column.some((one) => one !== 0));
  if (moving.length === 0) return [];
  const values = Float64Array.from(rows, (i) => amps[i + lag]! - amps[i]!);
  const fitOf = (columns: Float64Array[]) => {
    const fit = fitOfShares(columns, values);
    return fit ? [{ columns, fit }] : [];
  };
  const ofMeans = fitOf(moving.map((one) => one.column));
  const ofMoments = moving.some(({ device }) => device.moment !== device.amps)
    ? fitOf(moving.map(({ device }) => stepsOf(device.moment, device.kind)))
    : [];
  // Which of the two it writes shows in what is left over; where it does not, either may be.
  const fits = [...ofMeans, ...ofMoments];
  const smallest = Math.min(...fits.map(({ fit }) => fit.scatter));
  const good = fits.filter(({ fit }) => CLEARLY * fit.scatter <= smallest);
  if (good.length === 0) return [];
  const { columns, fit } = good[0]!;
  // Steps that overlap are no steps of their own.
  const widen = Math.sqrt(lag);
  const open = openByDirection(columns, values, fit.values, widen);
  const others = openByOthers(
    columns,
    values,
    fit.values,
    moving.map(({ steps }) => steps >= FEWEST),
  );
  const alone = partsAlone(columns);
  const asOne = sharesAsOne(
    moving.map(({ device }, k) => ({ column: columns[k]!, counted: device.counted })),
    { alone, shares: fit.values, values, widen },
  );
  const times = rows.map((i) => cellStart(grid, i));
  return moving.map(({ device, steps }, at) => {
    const shares = good.map((one) => one.fit.values[at]!);
    const share = mean(shares);
    const whole = asOne[at];
    if (whole !== undefined) return { id: device.id, kind: device.kind, ...whole, steps: Math.round(steps) };
    return {
      id: device.id,
      kind: device.kind,
      share: onlyAnswers(share, device, amps) ? 0 : share,
      error:
        alone[at]! < AS_ONE
          ? UNTOLD
          : Math.hypot(
              fit.errors[at]! * widen,
              Math.max(...shares) - share,
              open[at]!,
              others[at]!,
              device.kind === 'source'
                ? openAtOneTime(columns, values, times, at, fit.values[at]!, () =>
                    isOnlySource ? openByLevels(device.amps, amps, share) : 0,
                  )
                : 0,
            ),
      steps: Math.round(steps),
    };
  });
}

/** What a monitor shows of a source that it sees the wrong way round, at the least, while the source gives most. */
const TURNED_SHOWS = -0.3;
/** Part of the most that it ever gives. */
const NEARLY_ALL = 0.8;

/**
 * A charger that bypasses the monitor and answers the loads steps against them, as if it were seen the wrong way round; but where it
 * gives most, the monitor shows no more than the loads.
 */
function onlyAnswers(
  share: number,
  device: { kind: Share['kind']; amps: Float32Array },
  amps: Float32Array,
): boolean {
  if (device.kind !== 'source' || share > TURNED_SHOWS) return false;
  const most = quantile(device.amps, 0.995);
  let given = 0;
  let shown = 0;
  device.amps.forEach((one, i) => {
    if (!(one >= NEARLY_ALL * most) || amps[i]! !== amps[i]!) return;
    given += one;
    shown += amps[i]!;
  });
  return given > 0 && shown / given > TURNED_SHOWS;
}
