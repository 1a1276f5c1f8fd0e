/**
 * The voltages that a charger holds, found from the log: peaks in the histogram of regulated voltage, brought to 25 °C with the
 * temperature slope that makes them sharpest.
 */

import { median } from '../quantity/numbers';
import { REPORTED_STAGES, type ReportedStage } from '../log/channels';
import { compensationOf, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Source } from '../system/schema';
import { heldFrom } from './drift';
import { FLAT_PART } from './regulation';
import { type Ceiling, ceilingOf } from './ceiling';
import { APART, findEqualise, findStorage, nameSetpoints } from './names';
import { isChargedPast, isPassedThrough } from './passedThrough';
import type { Setpoint, Setpoints } from './setpoint';
import { stepsDown } from './stepsDown';
import { OTHERS_HOLD } from './together';
import { isLeftToLoads, jumpsOf } from './unanswered';
import { at25, type ChargeView } from './view';

const BIN = 0.02;
/** Standard deviation of what lies anywhere within a step of the meter, in parts of that step. */
const UNIFORM = 0.29;
/** A slope other than the likely one has to gather the voltages so many times better. */
const GATHERS = 1.06;
/** At a voltage of the others they are seen to hold it so many times as long as this source is. */
const THEIRS = 1.5;

/** The held voltages of a view with their names. Where no temperature was logged, the view is told how they wander. */
export function findSetpoints(
  view: ChargeView,
  held: Float32Array,
  bank: KnownBank,
  source: Source | null,
  { shared, answers }: { shared: boolean; answers: Float32Array | null } = { shared: false, answers: null },
): Setpoints {
  const { restVolts, least } = heldFrom(view, bank);
  const cells: number[] = [];
  for (let cell = 0; cell < view.grid.count; cell++)
    if (held[cell]! > 0.8 && view.volts[cell]! > restVolts && view.amps[cell]! > least) cells.push(cell);
  const temperatures = view.celsius ? cells.map((cell) => view.celsius![cell]!).filter((t) => t === t) : [];
  const celsius =
    temperatures.length > 0
      ? temperatures.reduce((r, t) => ({ min: Math.min(r.min, t), max: Math.max(r.max, t) }), {
          min: Infinity,
          max: -Infinity,
        })
      : null;

  // Lithium asks for no compensation, but a charger on a lead profile does it all the same.
  const lithium = !isLead(bank.chemistry);
  const voltsPerC = celsius ? sharpestSlope(view, cells, bank, source, celsius) : 0;
  const jumps = shared ? [] : jumpsOf(view, voltsPerC, least);
  const standing = peaks(view, cells, voltsPerC).filter((one) => !isOthers(one, view, answers, voltsPerC));
  const highest = Math.max(...standing.map((one) => one.volts));
  const seen = withCeiling(
    standing.filter(
      (one) =>
        !lithium ||
        !(
          isPassedThrough(one, view, held, least, voltsPerC) ||
          (one.volts === highest && isChargedPast(one, view, held, least, voltsPerC))
        ),
    ),
    ownCeiling(
      answers,
      ceilingOf(view, voltsPerC, least, lithium ? FLAT_PART * view.blocks : restVolts, shared),
    ),
    view,
  ).filter((one) => one.called === 'absorption' || one.called === 'float' || !isLeftToLoads(one, jumps));
  const all = ownWord(seen);
  const coldest = view.celsius
    ? view.celsius.reduce((least, one) => (one < least ? one : least), Infinity)
    : null;
  const names = nameSetpoints(all, view, held, cells, bank, source, voltsPerC);
  const floatVolts =
    names.float?.volts ?? source?.profile.floatV ?? (isLead(bank.chemistry) ? 13.2 : 13.35) * view.blocks;
  return {
    ...names,
    equalise: findEqualise(all, names.absorption, view, source, bank),
    storage: findStorage(all, names.float, view, held, voltsPerC),
    floatVolts,
    all,
    voltsPerC,
    celsius,
    coldest,
  };
}

/** Slope, in V per °C, among 0 to −10 mV per cell, that gathers the held voltages best; the told one wins when it is as good. */
function sharpestSlope(
  view: ChargeView,
  cells: number[],
  bank: KnownBank,
  source: Source | null,
  celsius: { min: number; max: number },
): number {
  const perMv = bank.cellsInSeries / 1000;
  // What is not told is most likely what the battery asks for.
  const { min, max } = compensationOf(bank);
  const usual = source?.profile.compensationMvPerCellPerC ?? (min + max) / 2;
  if (celsius.max - celsius.min < 3 || cells.length < 30) return usual * perMv;
  let best = usual * perMv;
  let bestScore = sharpness(view, cells, best) * GATHERS;
  for (let mv = 0; mv >= -10; mv -= 0.5) {
    const score = sharpness(view, cells, mv * perMv);
    if (score > bestScore) {
      best = mv * perMv;
      bestScore = score;
    }
  }
  return best;
}

/** How closely voltages gather. A reading stands for all voltages within its quantum: else those of a coarse meter would gather best unmoved. */
function sharpness(view: ChargeView, cells: number[], voltsPerC: number): number {
  const bin = Math.max(BIN * view.blocks, view.voltQuantum / 4);
  const half = Math.round(view.voltQuantum / bin / 2);
  const counts = new Map<number, number>();
  for (const cell of cells) {
    const key = Math.round(at25(view, cell, voltsPerC) / bin);
    for (let k = -half; k <= half; k++) counts.set(key + k, (counts.get(key + k) ?? 0) + 1);
  }
  let squares = 0;
  for (const count of counts.values()) squares += count * count;
  return squares;
}

function histogram(
  view: ChargeView,
  cells: number[],
  voltsPerC: number,
): { counts: Map<number, number>; bin: number } {
  const bin = Math.max(BIN * view.blocks, view.voltQuantum, 1.5 * view.voltNoise);
  const counts = new Map<number, number>();
  for (const cell of cells) {
    const key = Math.round(at25(view, cell, voltsPerC) / bin);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return { counts, bin };
}

function peaks(view: ChargeView, cells: number[], voltsPerC: number): Setpoint[] {
  const { counts, bin } = histogram(view, cells, voltsPerC);
  // Neighbours count, the bin itself a little more: of two bins with the same neighbourhood the fuller one is the peak.
  const smooth = (key: number) =>
    (counts.get(key - 1) ?? 0) + 1.01 * (counts.get(key) ?? 0) + (counts.get(key + 1) ?? 0);
  const reach = bin > 0.05 * view.blocks ? 1 : Math.max(2, Math.round((0.1 * view.blocks) / bin));
  const leastCells = Math.max(3, (15 * 60_000) / view.grid.step);
  const found: Setpoint[] = [];
  const perDay = 86_400_000 / view.grid.step;
  // A peak may stand between two bins that are filled.
  const candidates = new Set([...counts.keys()].flatMap((key) => [key - 1, key, key + 1]));
  for (const key of [...candidates].sort((a, b) => b - a)) {
    const height = smooth(key);
    if (height < leastCells) continue;
    let highest = true;
    for (let k = key - reach; k <= key + reach && highest; k++) {
      if (k === key || smooth(k) < height || (smooth(k) === height && k < key)) continue;
      // Against the top of that hill: from its slope it is no step.
      const top = topOf(smooth, k);
      highest =
        hasValley(smooth, key, top) &&
        stepsDown(view, cells, voltsPerC, {
          upper: bin * Math.max(key, top),
          lower: bin * Math.min(key, top),
          near: 1.5 * bin,
        });
    }
    if (!highest) continue;
    const members = cells.filter((cell) => Math.abs(at25(view, cell, voltsPerC) / bin - key) <= 2);
    for (const some of byItsWord(view, members, voltsPerC, leastCells)) found.push(setpointOf(some));
  }
  return found;

  function setpointOf(members: number[]): Setpoint {
    const volts = members.map((cell) => at25(view, cell, voltsPerC));
    const middle = median(volts);
    const days = new Map<number, number>();
    for (const cell of members) {
      const day = Math.floor(cell / perDay);
      days.set(day, (days.get(day) ?? 0) + 1);
    }
    const tenMinutes = Math.max(1, 600_000 / view.grid.step);
    return {
      volts: middle,
      width: Math.max(
        1.4826 * median(volts.map((v) => Math.abs(v - middle))),
        view.voltNoise,
        UNIFORM * view.voltQuantum,
        0.008 * view.blocks,
      ),
      hours: (members.length * view.grid.step) / 3_600_000,
      days: [...days.values()].filter((count) => count >= tenMinutes).length,
      called: calledMostly(view, members),
    };
  }
}

/** The top of the hill that a bin stands on. */
function topOf(smooth: (key: number) => number, key: number): number {
  const next = [key - 1, key + 1].find((one) => smooth(one) > smooth(key));
  return next === undefined ? key : topOf(smooth, next);
}

/** Two peaks are no one peak where between them some bin has less than this part of the smaller. */
const VALLEY = 0.5;

/** Whether few stand between two peaks, against the smaller of them. */
function hasValley(smooth: (key: number) => number, one: number, other: number): boolean {
  const [from, to] = [Math.min(one, other), Math.max(one, other)];
  let least = Infinity;
  for (let k = from + 1; k < to; k++) least = Math.min(least, smooth(k));
  return least < VALLEY * Math.min(smooth(one), smooth(other));
}

/** What the charger calls by another name must make up this part of a peak, and lie so far from the rest, V a 12 V block. */
const ANOTHER = { part: 0.1, apart: 0.02 };

/** Two voltages so close that they make one peak, where the charger itself calls the higher absorption and the lower float. */
function byItsWord(view: ChargeView, members: number[], voltsPerC: number, least: number): number[][] {
  const { reported } = view;
  if (!reported) return [members];
  const called = (stage: ReportedStage) =>
    members.filter((cell) => reported[cell] === REPORTED_STAGES.indexOf(stage));
  const parts = [called('absorption'), called('float')] as const;
  const [upper, lower] = parts.map((some) => median(some.map((cell) => at25(view, cell, voltsPerC))));
  const both = parts.every((some) => some.length >= Math.max(least, ANOTHER.part * members.length));
  return both && upper! - lower! > ANOTHER.apart * view.blocks ? [...parts] : [members];
}

/** Where the charger calls itself off it holds nothing, whatever the battery rests at; unless it never says anything else. */
const ownWord = (found: Setpoint[]): Setpoint[] =>
  found.every((one) => one.called === 'off') ? found : found.filter((one) => one.called !== 'off');

/** Whether the other sources hold a voltage, and this one only happens to give something at it. */
function isOthers(
  { volts, width, hours }: Setpoint,
  view: ChargeView,
  answers: Float32Array | null,
  voltsPerC: number,
): boolean {
  if (!answers) return false;
  let cells = 0;
  for (let cell = 0; cell < answers.length; cell++)
    if (answers[cell]! <= OTHERS_HOLD && Math.abs(at25(view, cell, voltsPerC) - volts) <= 3 * width) cells++;
  return (cells * view.grid.step) / 3_600_000 > THEIRS * hours;
}

/** A ceiling that the others do not hold: what steps down from theirs are they. */
const ownCeiling = (answers: Float32Array | null, ceiling: Ceiling | null): Ceiling | null =>
  answers &&
  ceiling &&
  ceiling.cells.filter((cell) => answers[cell]! <= OTHERS_HOLD).length > 0.5 * ceiling.cells.length
    ? null
    : ceiling;

/** A voltage that was held for no longer a day, hours. */
const MOMENT = 0.1;

/** Peaks joined by a voltage that was held too shortly on too few days to be a peak, though day after day. */
function withCeiling(found: Setpoint[], ceiling: Ceiling | null, view: ChargeView): Setpoint[] {
  if (!ceiling) return found;
  const { volts, cells } = ceiling;
  const same = found.find((one) => Math.abs(one.volts - volts) < Math.max(3 * one.width, 0.06 * view.blocks));
  if (same) {
    same.days = Math.max(same.days, cells.length);
    // So short each day, it is where the charger let go: what it calls itself by then is what comes after.
    if (same.hours < MOMENT * cells.length) Object.assign(same, { ceiling: true, called: null });
    return found;
  }
  if (found.some((one) => one.volts > volts - APART * view.blocks)) return found;
  return [
    {
      volts,
      width: Math.max(1.5 * view.voltNoise, 0.012 * view.blocks),
      hours: (cells.length * view.grid.step) / 3_600_000,
      days: cells.length,
      called: calledMostly(view, cells),
      ceiling: true,
    },
    ...found,
  ];
}

/** The stage that the charger reported for more than half of the cells. */
function calledMostly({ reported }: ChargeView, cells: readonly number[]): ReportedStage | null {
  if (!reported) return null;
  const counts = new Map<number, number>();
  for (const cell of cells) counts.set(reported[cell]!, (counts.get(reported[cell]!) ?? 0) + 1);
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return most && most[1] > cells.length / 2 ? (REPORTED_STAGES[most[0]] ?? null) : null;
}
