/**
 * The voltages that a charger holds, found from the log: peaks in the histogram of regulated voltage, brought to 25 °C with the
 * temperature slope that makes them sharpest.
 */

import { median } from '../quantity/numbers';
import { REPORTED_STAGES, type ReportedStage } from '../log/channels';
import { isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Source } from '../system/schema';
import type { Regulation } from './regulation';
import type { ChargeView } from './view';

export interface Setpoint {
  /** V at 25 °C, whole bank. */
  volts: number;
  /** One standard deviation of the held voltage about it, V. */
  width: number;
  /** Hours that it was held. */
  hours: number;
  /** Different days on which it was held for at least ten minutes. */
  days: number;
  /** What the charger itself mostly called it; null when it says nothing. */
  called: ReportedStage | null;
}

export interface Setpoints {
  absorption: Setpoint | null;
  float: Setpoint | null;
  /** All peaks, highest voltage first. */
  all: Setpoint[];
  /** Temperature slope that was used, V per °C for the whole bank. */
  voltsPerC: number;
  /** Battery temperatures seen, °C; null without a sensor. */
  celsius: { min: number; max: number } | null;
}

/** Voltage of a cell of the view brought to 25 °C. */
export function at25(view: ChargeView, cell: number, voltsPerC: number): number {
  const celsius = view.celsius ? view.celsius[cell]! : NaN;
  return celsius === celsius ? view.volts[cell]! - voltsPerC * (celsius - 25) : view.volts[cell]!;
}

const BIN = 0.02;

export function findSetpoints(
  view: ChargeView,
  regulation: Regulation,
  bank: KnownBank,
  source: Source | null,
): Setpoints {
  // Below this nobody holds a battery of this chemistry on purpose: it is at rest.
  const restVolts = (isLead(bank.chemistry) ? 13 : 13.4) * view.blocks;
  const least = view.ampsAreBattery ? -2 * view.ampNoise : Math.max(view.ampNoise, 0.001 * bank.capacityAh);
  const cells: number[] = [];
  for (let cell = 0; cell < view.grid.count; cell++)
    if (regulation.held[cell]! > 0.8 && view.volts[cell]! > restVolts && view.amps[cell]! > least)
      cells.push(cell);
  const temperatures = view.celsius ? cells.map((cell) => view.celsius![cell]!).filter((t) => t === t) : [];
  const celsius =
    temperatures.length > 0
      ? temperatures.reduce((r, t) => ({ min: Math.min(r.min, t), max: Math.max(r.max, t) }), {
          min: Infinity,
          max: -Infinity,
        })
      : null;

  // Lithium asks for no compensation, but a charger on a lead profile does it all the same.
  const voltsPerC = celsius ? sharpestSlope(view, cells, bank, source, celsius) : 0;
  const all = peaks(view, cells, voltsPerC);
  return { ...nameSetpoints(all, view, regulation, bank, source, voltsPerC), all, voltsPerC, celsius };
}

/** Slope, in V per °C, among 0 to −6 mV per cell, that gathers the held voltages best; the told one wins when it is as good. */
function sharpestSlope(
  view: ChargeView,
  cells: number[],
  bank: KnownBank,
  source: Source | null,
  celsius: { min: number; max: number },
): number {
  const perMv = bank.cellsInSeries / 1000;
  const told = source?.profile.compensationMvPerCellPerC;
  if (celsius.max - celsius.min < 3 || cells.length < 30) return (told ?? 0) * perMv;
  let best = (told ?? 0) * perMv;
  let bestScore = sharpness(view, cells, best) * 1.03;
  for (let mv = 0; mv >= -6; mv -= 0.5) {
    const score = sharpness(view, cells, mv * perMv);
    if (score > bestScore) {
      best = mv * perMv;
      bestScore = score;
    }
  }
  return best;
}

function sharpness(view: ChargeView, cells: number[], voltsPerC: number): number {
  const { counts } = histogram(view, cells, voltsPerC);
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
  const reach = Math.max(2, Math.round((0.1 * view.blocks) / bin));
  const leastCells = Math.max(3, (15 * 60_000) / view.grid.step);
  const found: Setpoint[] = [];
  const perDay = 86_400_000 / view.grid.step;
  // A peak may stand between two bins that are filled.
  const candidates = new Set([...counts.keys()].flatMap((key) => [key - 1, key, key + 1]));
  for (const key of [...candidates].sort((a, b) => b - a)) {
    const height = smooth(key);
    if (height < leastCells) continue;
    let highest = true;
    for (let k = key - reach; k <= key + reach && highest; k++)
      if (k !== key && (smooth(k) > height || (smooth(k) === height && k > key))) highest = false;
    if (!highest) continue;
    const members = cells.filter((cell) => Math.abs(at25(view, cell, voltsPerC) / bin - key) <= 2);
    const volts = members.map((cell) => at25(view, cell, voltsPerC));
    const middle = median(volts);
    const days = new Map<number, number>();
    for (const cell of members) {
      const day = Math.floor(cell / perDay);
      days.set(day, (days.get(day) ?? 0) + 1);
    }
    const tenMinutes = Math.max(1, 600_000 / view.grid.step);
    found.push({
      volts: middle,
      width: Math.max(
        1.4826 * median(volts.map((v) => Math.abs(v - middle))),
        view.voltNoise,
        0.008 * view.blocks,
      ),
      hours: (members.length * view.grid.step) / 3_600_000,
      days: [...days.values()].filter((count) => count >= tenMinutes).length,
      called: calledMostly(view, members),
    });
  }
  return found;
}

/** The stage that the charger reported for more than half of the cells. */
function calledMostly({ reported }: ChargeView, cells: readonly number[]): ReportedStage | null {
  if (!reported) return null;
  const counts = new Map<number, number>();
  for (const cell of cells) counts.set(reported[cell]!, (counts.get(reported[cell]!) ?? 0) + 1);
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return most && most[1] > cells.length / 2 ? (REPORTED_STAGES[most[0]] ?? null) : null;
}

/**
 * Which peak is absorption and which is float. Absorption is the highest that is a habit (an occasional equalisation is not);
 * float is lower and held after it. A single peak is absorption when charges climb into it with a falling current, float when
 * it is only ever a small current at a float voltage.
 */
function nameSetpoints(
  all: Setpoint[],
  view: ChargeView,
  regulation: Regulation,
  bank: KnownBank,
  source: Source | null,
  voltsPerC: number,
): Pick<Setpoints, 'absorption' | 'float'> {
  if (all.length === 0) return { absorption: null, float: null };
  const mostDays = Math.max(...all.map((one) => one.days));
  const habits = all.filter((one) => one.days >= Math.min(2, mostDays) && one.days >= 0.2 * mostDays);
  const apart = 0.2 * view.blocks;
  const climbs = habits.map((one) => climbsInto(one, view, regulation, voltsPerC, bank.capacityAh));
  // What the charger itself calls float is none, whatever the battery does there.
  const top = habits.findIndex((one, i) => climbs[i]! >= 1 && one.called !== 'float');
  if (top >= 0) {
    const absorption = habits[top]!;
    if (isToldFloat(absorption, view, source)) return { absorption: null, float: absorption };
    const lower = habits.filter((one) => one.volts < absorption.volts - apart && one.called !== 'absorption');
    const float = [...lower].sort((a, b) => b.hours - a.hours)[0] ?? null;
    return { absorption, float };
  }
  // Nothing was climbed into: the log only shows batteries being kept.
  const byHours = [...habits].sort((a, b) => b.hours - a.hours);
  const only = byHours[0];
  if (!only) return { absorption: null, float: null };
  if (only.called === 'absorption' || only.called === 'float') {
    const named = (stage: ReportedStage) => byHours.find((one) => one.called === stage) ?? null;
    return { absorption: named('absorption'), float: named('float') };
  }
  const told = source?.profile;
  const nearer =
    told?.floatV !== undefined &&
    told.absorptionV !== undefined &&
    Math.abs(only.volts - told.floatV) > Math.abs(only.volts - told.absorptionV);
  return nearer ? { absorption: only, float: null } : { absorption: null, float: only };
}

/** A voltage that is the told float and far from the told absorption is float, however the battery got there. */
function isToldFloat(setpoint: Setpoint, view: ChargeView, source: Source | null): boolean {
  const { floatV, absorptionV } = source?.profile ?? {};
  if (floatV === undefined || absorptionV === undefined || absorptionV - floatV < 0.3 * view.blocks)
    return false;
  return (
    Math.abs(setpoint.volts - floatV) < 0.1 * view.blocks && absorptionV - setpoint.volts > 0.2 * view.blocks
  );
}

/**
 * How often a charge climbs into a setpoint: regulated cells at it that follow within an hour on cells well below it while the
 * battery took a charging current that is not small, or takes one as the voltage arrives (a strong charger has no bulk to speak of).
 */
function climbsInto(
  setpoint: Setpoint,
  view: ChargeView,
  regulation: Regulation,
  voltsPerC: number,
  capacityAh: number,
): number {
  const below = 0.12 * view.blocks;
  const near = Math.max(3 * setpoint.width, 0.04 * view.blocks);
  const hour = Math.round(3_600_000 / view.grid.step);
  let climbs = 0;
  let lastBelow = -Infinity;
  let lastAt = -Infinity;
  let peakAmps = 0;
  for (let cell = 0; cell < view.grid.count; cell++) {
    const volts = at25(view, cell, voltsPerC);
    if (!(volts === volts)) continue;
    const amps = view.batteryAmps?.[cell] ?? view.amps[cell]!;
    if (volts < setpoint.volts - below) {
      if (cell - lastBelow > hour) peakAmps = 0;
      lastBelow = cell;
      peakAmps = Math.max(peakAmps * 0.99, amps);
    } else if (Math.abs(volts - setpoint.volts) < near && regulation.held[cell]! > 0.8) {
      if (
        cell - lastAt > 3 * hour &&
        cell - lastBelow < hour &&
        Math.max(peakAmps, amps) > 0.015 * capacityAh
      )
        climbs++;
      lastAt = cell;
    } else if (volts > setpoint.volts + below) lastAt = cell;
  }
  return climbs;
}
