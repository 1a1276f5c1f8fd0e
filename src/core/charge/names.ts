/** What the held voltages are: absorption, float, equalisation, storage. */

import { expectedVolts, isLead, type Range } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Source } from '../system/schema';
import type { Setpoint, Setpoints } from './setpoint';
import { stepsDown } from './stepsDown';
import { at25, type ChargeView } from './view';

/**
 * Which peak is absorption and which is float. Of two habits the higher is absorption, the lower float; what the charger itself calls
 * them goes before that, what it is set to does not: a wrong setting is what we look for. A single one is absorption when charges
 * climb into it, float when it is only ever kept.
 */
export function nameSetpoints(
  all: Setpoint[],
  view: ChargeView,
  held: Float32Array,
  cells: readonly number[],
  bank: KnownBank,
  source: Source | null,
  voltsPerC: number,
): Pick<Setpoints, 'absorption' | 'float'> {
  if (all.length === 0) return { absorption: null, float: null };
  const mostDays = Math.max(0, ...all.filter((one) => !one.ceiling).map((one) => one.days));
  const habits = all.filter(
    (one) => one.called !== 'equalise' && one.days >= (mostDays <= 3 ? 1 : 2) && one.days >= 0.2 * mostDays,
  );
  // What is held round the clock is a float, however the battery came there; what stood above it once, as it came, is absorption.
  const kept = habits.find(
    (one) => one.called !== 'absorption' && one.days >= 2 && one.hours >= CLOCK * one.days,
  );
  const above =
    kept && all.find((one) => one.volts > kept.volts + APART * view.blocks && one.called !== 'float');
  if (kept && above && !habits.some((one) => one.volts > kept.volts && one !== above))
    return { absorption: above, float: kept };
  const byHours = (some: Setpoint[]): Setpoint | null =>
    [...some].sort((a, b) => b.hours - a.hours)[0] ?? null;
  // An equalisation is rarer than what is held below it, and higher than any battery is charged.
  const rare = (one: Setpoint) =>
    one.called !== 'absorption' &&
    one.volts > bank.chargeVolts.max + 0.4 * view.blocks &&
    habits.some(
      (other) =>
        other.volts < one.volts - 0.4 * view.blocks &&
        other.days >= 2 * one.days &&
        other.volts > bank.chargeVolts.min - 0.6 * view.blocks &&
        // A float, however long, is come down to: it makes nothing rare of the absorption above it.
        !comesDownTo(other, view, held, voltsPerC),
    );
  const top = habits.find((one) => one.called !== 'float' && !rare(one));
  // What is only ever kept is a float; what the charger itself calls absorption came before it, were it but once.
  if (!top) {
    const float = byHours(habits);
    const once = all.find((one) => one.called === 'absorption' && float && one.volts > float.volts);
    return { absorption: once ?? null, float };
  }
  const under = habits.filter(
    (one) =>
      (one.volts < top.volts - APART * view.blocks ||
        // However close, where the charger itself parts them, or charges go down from one to the other.
        (one.called === 'float' && top.called === 'absorption' && one.volts < top.volts) ||
        (one.volts < top.volts &&
          stepsDown(view, cells, voltsPerC, {
            upper: top.volts,
            lower: one.volts,
            near: 2 * Math.max(top.width, one.width),
          }))) &&
      one.called !== 'absorption' &&
      (one.hours > 0.1 * top.hours || one.called === 'float'),
  );
  const most = byHours(under);
  // Storage may be kept for longer than the float before it.
  const before =
    most &&
    under.find(
      (one) =>
        isKept(one) &&
        one.volts > most.volts &&
        one.days >= HABIT.part * most.days &&
        findStorage(under, one, view, held, voltsPerC) === most,
    );
  const lower = before ?? most;
  if (lower || top.called === 'absorption') return { absorption: top, float: lower };
  // What is mostly come down to is a float, of whatever was too short to be seen above it.
  if (comesDownTo(top, view, held, voltsPerC)) return { absorption: null, float: top };
  const climbs = climbsInto(top, view, held, voltsPerC, bank.capacityAh);
  if ((climbs >= 1 || top.ceiling) && !isToldFloat(top, view, source))
    return { absorption: top, float: null };
  const { floatV, absorptionV } = source?.profile ?? {};
  // Nothing but the voltage itself tells: by what is set, or by what the battery asks for.
  const to = (volts: number) => Math.abs(top.volts - volts);
  const nearer =
    climbs === 0 &&
    (floatV !== undefined && absorptionV !== undefined
      ? to(absorptionV) < to(floatV)
      : isLead(bank.chemistry) &&
        to(middleOf(expectedVolts(bank, 'absorption', 25))) < to(middleOf(expectedVolts(bank, 'float', 25))));
  return nearer ? { absorption: top, float: null } : { absorption: null, float: top };
}

/** Hours of a day on which a voltage is held round the clock. */
const CLOCK = 18;

const middleOf = ({ min, max }: Range): number => (min + max) / 2;

/** Two voltages closer than this are one, seen through a cable or at another temperature, V a 12 V block. */
export const APART = 0.15;

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
  held: Float32Array,
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
    } else if (Math.abs(volts - setpoint.volts) < near && held[cell]! > 0.8) {
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

/** Times that show a habit, and the part of all times that it must be. */
const HABIT = { least: 2, part: 0.6 };

/**
 * Whether a held voltage is mostly come to from one well above it, sinking all the way: lithium may take hours for that.
 * @param above V at 25 °C that lies well above it
 */
export function comesDownTo(
  setpoint: Setpoint,
  view: ChargeView,
  held: Float32Array,
  voltsPerC: number,
  above = setpoint.volts + Math.max(APART * view.blocks, 4 * setpoint.width),
): boolean {
  const near = Math.max(3 * setpoint.width, 0.04 * view.blocks);
  const hour = Math.round(3_600_000 / view.grid.step);
  let arrivals = 0;
  let fromAbove = 0;
  let sinks = false;
  let lastAt = -Infinity;
  for (let cell = 0; cell < view.grid.count; cell++) {
    const volts = at25(view, cell, voltsPerC);
    // What others lift it to is not this source's.
    if (volts > above && view.amps[cell]! > 3 * view.ampNoise) sinks = true;
    else if (volts < setpoint.volts - 0.12 * view.blocks) sinks = false;
    else if (Math.abs(volts - setpoint.volts) < near && held[cell]! > 0.8) {
      if (cell - lastAt > 3 * hour) {
        arrivals++;
        if (sinks) fromAbove++;
      }
      lastAt = cell;
    }
  }
  return fromAbove >= HABIT.least && fromAbove >= HABIT.part * arrivals;
}

/** A voltage held above absorption: one that the charger calls so, that its profile asks for, or that is no voltage to charge at. */
export function findEqualise(
  all: readonly Setpoint[],
  absorption: Setpoint | null,
  view: ChargeView,
  source: Source | null,
  bank: KnownBank,
): Setpoint | null {
  if (!absorption) return null;
  const told = source?.profile.equalise?.volts ?? bank.equalise?.volts;
  return (
    all.find(
      (one) =>
        one.volts > absorption.volts + 0.3 * view.blocks &&
        (one.called === 'equalise' ||
          (told !== undefined && Math.abs(one.volts - told) < 0.3 * view.blocks) ||
          one.volts > bank.chargeVolts.max + 0.4 * view.blocks),
    ) ?? null
  );
}

/** Hours of a day for which a voltage is kept at the least, so that it is no passing by, and how far under float, V a 12 V block. */
const KEPT = { hours: 1, under: 0.1 };

const isKept = ({ called, days, hours }: Setpoint): boolean =>
  (called === null || called === 'float') && days >= HABIT.least && hours >= KEPT.hours * days;

/** A voltage under float that the charger comes down to day after day, and keeps for hours: a battery that is not used needs no more. */
export function findStorage(
  all: readonly Setpoint[],
  float: Setpoint | null,
  view: ChargeView,
  held: Float32Array,
  voltsPerC: number,
): Setpoint | null {
  if (!float) return null;
  return (
    all.find(
      (one) =>
        one.volts < float.volts - KEPT.under * view.blocks &&
        isKept(one) &&
        comesDownTo(one, view, held, voltsPerC, (one.volts + float.volts) / 2),
    ) ?? null
  );
}
