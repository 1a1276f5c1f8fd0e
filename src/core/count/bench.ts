/**
 * The settings bench: a monitor's settings tried over a whole log, against the true charge; and the settings that would have kept it
 * truest. Runs where the log is: in a web worker, or in a test.
 */

import { clamp, median } from '../quantity/numbers';
import { HOUR, type Span } from '../quantity/span';
import { firstAtOrAfter } from '../log/grid';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { CounterLog } from './counterLog';
import { type CounterKind, replayAs } from './kinds';
import { type CounterSettings, usualSettings } from './settings';

export interface BenchLog extends Pick<CounterLog, 'time' | 'amps' | 'volts'> {
  /** True charge hour by hour, %, and its band, two standard deviations. */
  truth: { from: number; stepMs: number; percent: ArrayLike<number>; band: ArrayLike<number> };
  /** Charges that filled the battery. */
  fulls: readonly Span[];
  /** Reading at the start, %. */
  start: number;
  kind: CounterKind;
}

export interface Trial {
  /** Root of the mean square of reading less truth, where the truth is known, points. */
  off: number;
  /** Syncs, those on a battery that held less than 90 %, and full charges that brought none. */
  syncs: number;
  wrong: number;
  missed: number;
  /** Median jump at a sync, points; NaN without any. */
  jump: number;
}

/** Truth known worse than this judges nothing, %: two standard deviations. */
const KNOWN = 20;
const NOT_FULL = 90;

/** @param reading array to replay into, as long as the log */
export function tryOut(
  log: BenchLog,
  settings: CounterSettings,
  reading?: Float32Array<ArrayBuffer>,
): { trial: Trial; reading: Float32Array<ArrayBuffer> } {
  const { time, truth } = log;
  const played = replayAs(log.kind, log, settings, log.start, reading);
  const valueAt = (of: ArrayLike<number>, ms: number): number => {
    const k = (ms - truth.from) / truth.stepMs;
    const low = clamp(Math.floor(k), 0, of.length - 1);
    const high = Math.min(of.length - 1, low + 1);
    return of[low]! + (of[high]! - of[low]!) * clamp(k - low, 0, 1);
  };
  // The doubt goes to the settings: plainly not full by a standard deviation, which is half the band.
  const mostAt = (ms: number): number => valueAt(truth.percent, ms) + valueAt(truth.band, ms) / 2;
  let squares = 0;
  let known = 0;
  for (let k = 0; k < truth.percent.length; k++) {
    if (!(truth.band[k]! <= KNOWN)) continue;
    const i = firstAtOrAfter(time, truth.from + k * truth.stepMs);
    if (i >= time.length) break;
    squares += (played.reading[i]! - truth.percent[k]!) ** 2;
    known++;
  }
  // Several on one full charge are one; what counts is where the battery stood.
  const at = played.syncs.map(({ index, from }) => ({ ms: time[index]!, from }));
  const first = at.filter((one, k) => k === 0 || one.ms - at[k - 1]!.ms > 2 * HOUR || one.from < 98);
  const trial = {
    off: known > 0 ? Math.sqrt(squares / known) : NaN,
    syncs: first.length,
    wrong: first.filter((one) => mostAt(one.ms) < NOT_FULL).length,
    missed: log.fulls.filter((full) => !isSet(full, at, played.reading, time)).length,
    jump: median(first.map((one) => 100 - one.from)),
  };
  return { trial, reading: played.reading };
}

/** A full charge leaves the reading at full, by a sync or because it counted so far. */
function isSet(
  full: Span,
  syncs: readonly { ms: number }[],
  reading: Float32Array,
  time: Float64Array,
): boolean {
  const until = full.to + HOUR;
  if (syncs.some(({ ms }) => ms >= full.from && ms <= until)) return true;
  for (let i = firstAtOrAfter(time, full.from); i < time.length && time[i]! <= until; i++)
    if (reading[i]! >= 99.5) return true;
  return false;
}

/**
 * What weighs beside points of error: syncs that are false and full charges without one, as a share of all; a count that is never set
 * right although there were full charges; a capacity far from the label, which is more likely another error in disguise.
 */
const COST = { wrong: 40, missed: 25, never: 10, label: 15 };

export function costOf(trial: Trial, fulls: number, label: number, { capacityAh }: CounterSettings): number {
  return (
    (fulls > 0 && trial.syncs === 0 ? COST.never : 0) +
    COST.label * Math.abs(capacityAh / label - 1) +
    (trial.off === trial.off ? trial.off : 0) +
    (trial.syncs > 0 ? (COST.wrong * trial.wrong) / trial.syncs : 0) +
    (fulls > 0 ? (COST.missed * trial.missed) / fulls : 0)
  );
}

export interface Preset {
  name: string;
  settings: CounterSettings;
}

/** What each school would set. @param held lowest absorption and float of the chargers, V for the bank */
export function schoolPresets(
  bank: KnownBank,
  held: { absorption: number; float: number | null },
  now: CounterSettings,
): Preset[] {
  const blocks = blocksInSeries(bank);
  const usual = usualSettings(bank, held.absorption);
  const lead = isLead(bank.chemistry);
  const with_ = (name: string, some: Partial<CounterSettings>): Preset => ({
    name,
    settings: {
      ...now,
      capacityAh: bank.capacityAh,
      efficiencyPercent: usual.efficiencyPercent,
      peukert: usual.peukert,
      detectionMinutes: 3,
      ...some,
    },
  });
  return lead
    ? [
        ...(held.float === null
          ? []
          : [with_('Steady source', { chargedV: held.float - 0.2 * blocks, tailPercent: 4 })]),
        with_('Varying source', { chargedV: held.absorption - 0.2 * blocks, tailPercent: 5 }),
        with_('Cycled near the top', {
          chargedV: held.absorption - 0.2 * blocks,
          tailPercent: 4,
          efficiencyPercent: 78,
        }),
      ]
    : [
        with_('Under absorption', { chargedV: held.absorption - 0.2 * blocks, tailPercent: 4 }),
        with_('13.8 V', { chargedV: 13.8 * blocks, tailPercent: 4 }),
        with_('13.5 V', { chargedV: 13.5 * blocks, tailPercent: 2 }),
      ];
}

/** Values to try of each setting, coarse; the finest steps are those that a monitor has. */
function candidates(
  bank: KnownBank,
  now: CounterSettings,
): Record<
  'chargedV' | 'tailPercent' | 'detectionMinutes' | 'efficiencyPercent' | 'capacityAh' | 'peukert',
  number[]
> {
  const blocks = blocksInSeries(bank);
  const lead = isLead(bank.chemistry);
  const steps = (from: number, to: number, by: number): number[] =>
    Array.from({ length: Math.round((to - from) / by) + 1 }, (_, k) => Number((from + k * by).toFixed(4)));
  return {
    chargedV: steps(lead ? 13 : 13.3, lead ? 14.6 : 14.4, 0.1).map((one) =>
      Number((one * blocks).toFixed(2)),
    ),
    tailPercent: [1, 2, 3, 4, 5, 6, 8],
    detectionMinutes: [1, 3, 5, 10],
    efficiencyPercent: lead ? steps(70, 98, 2) : steps(92, 100, 1),
    capacityAh: steps(0.75, 1.15, 0.05).map((one) => Math.round(one * bank.capacityAh)),
    peukert: lead ? [now.peukert, 1.05, 1.1, 1.15, 1.2, 1.25, 1.3] : [now.peukert, 1, 1.05, 1.1],
  };
}

/**
 * The settings with the smallest error that keep syncs true over the whole log: from the school that does best, one setting after the
 * other, until none betters it.
 * @param onStep told after each setting with the part done, 0 to 1
 */
export function fitSettings(
  log: BenchLog,
  bank: KnownBank,
  from: readonly CounterSettings[],
  onStep: (done: number) => void = () => {},
): { settings: CounterSettings; trial: Trial } {
  const scratch = new Float32Array(log.time.length);
  const score = (settings: CounterSettings) => {
    const { trial } = tryOut(log, settings, scratch);
    return { settings, trial, cost: costOf(trial, log.fulls.length, bank.capacityAh, settings) };
  };
  let best = from.map(score).reduce((a, b) => (b.cost < a.cost ? b : a));
  const grid = candidates(bank, best.settings);
  const names = Object.keys(grid) as (keyof typeof grid)[];
  const ROUNDS = 2;
  for (let round = 0; round < ROUNDS; round++)
    names.forEach((name, k) => {
      for (const value of grid[name]) {
        if (value === best.settings[name]) continue;
        const tried = score({ ...best.settings, [name]: value });
        if (tried.cost < best.cost - LEAST_GAIN) best = tried;
      }
      onStep((round * names.length + k + 1) / (ROUNDS * names.length));
    });
  return { settings: best.settings, trial: best.trial };
}

/** A setting is left as it is unless another gains so much, points: no setting is tuned to noise. */
const LEAST_GAIN = 0.05;
