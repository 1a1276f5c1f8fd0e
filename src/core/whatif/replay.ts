/** Recorded weather, loads and temperature once more, through the fitted battery, with chargers that may be set otherwise. */

import { mean, median } from '../quantity/numbers';
import { DAY, HOUR } from '../quantity/span';
import { aim, type Bus, driveTogether, restingCharger, settle } from '../simulate/charger';
import { isLead } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Fitted } from './fitted';
import type { Recorded } from './recorded';
import { type ChargerSettings, chargerOf } from './settings';

export interface Outcome {
  /** Whole days that were replayed, and on how many of them the battery got full. */
  days: number;
  fullDays: number;
  /** From the first current of the day to full, median over the days that got there, h; NaN without any. */
  hoursToFull: number;
  /** Lost to gassing, Ah; NaN for lithium. */
  gassedAh: number;
  /** Into the battery, and from each source, Ah. */
  ampHoursIn: number;
  fromSources: { id: string; ampHours: number }[];
  /** Highest charge of a day, mean over the days, %. */
  topPercent: number;
  lowestPercent: number;
  endPercent: number;
  /** Charge of the battery in each cell, %. */
  percent: Float32Array;
  /** V at the battery. */
  volts: Float32Array;
}

/** A battery is full at this charge: what is left goes in by days at float. */
const FULL = { lead: 0.98, lithium: 0.985 };
/** A day counts where the log covers so much of it. */
const LEAST_OF_DAY = 0.75;
/** A step of the replay is no longer than this, s: chargers answer at once, and the battery must not run ahead of them. */
const LONGEST_STEP = 300;

/** @param settings of each of the recorded sources, in their order */
export function replayCharging(
  system: KnownSystem,
  recorded: Recorded,
  battery: Fitted,
  settings: readonly ChargerSettings[],
): Outcome {
  const { minutes, loads, celsius, sources } = recorded;
  const { from, stepMs, count } = minutes;
  const lead = isLead(system.bank.chemistry);
  const full = lead ? FULL.lead : FULL.lithium;
  const first = recorded.percent.findIndex((one) => one === one);
  const start = Math.max(0, first);
  const cell = battery.at((recorded.percent[start] ?? 50) / 100, celsius[start]!);
  const chargers = sources.map((one, i) => chargerOf(system, one.source, settings[i]!, one));
  const states = sources.map(restingCharger);
  const percent = new Float32Array(count).fill(NaN);
  const volts = new Float32Array(count).fill(NaN);
  const given = new Float64Array(sources.length);
  const parts = Math.max(1, Math.ceil(stepMs / 1000 / LONGEST_STEP));
  const seconds = stepMs / 1000 / parts;
  const days = new Map<number, { cells: number; top: number; firstAt: number; fullAt: number }>();
  let ampHoursIn = 0;
  for (let at = start; at < count; at++) {
    const load = loads[at]!;
    if (load !== load) {
      percent[at] = 100 * cell.charge();
      continue;
    }
    const ms = from + at * stepMs;
    const key = Math.floor((ms - recorded.dayFromMs) / DAY);
    const day = days.get(key) ?? { cells: 0, top: 0, firstAt: NaN, fullAt: NaN };
    if (day.cells++ === 0) days.set(key, day);
    cell.state.celsius = celsius[at]!;
    const bus: Bus = { loadAmps: load, ampsAt: cell.ampsAt, voltsAt: cell.voltsAt };
    for (let part = 0; part < parts; part++) {
      const aims = chargers.map((spec, i) =>
        aim(spec, states[i]!, seconds, sources[i]!.could[at]! * settings[i]!.size, celsius[at]!, ms),
      );
      const outputs = driveTogether(aims, bus);
      let amps = -load;
      outputs.forEach((one, i) => {
        settle(aims[i]!, states[i]!, seconds, one);
        amps += one.amps;
        given[i]! += (one.amps * seconds) / 3600;
        if (one.amps > 0.004 * chargers[i]!.ratedA && day.firstAt !== day.firstAt) day.firstAt = ms;
      });
      const bar = cell.voltsAt(amps);
      cell.step(seconds, bar, amps, celsius[at]!);
      volts[at] = bar;
      if (amps > 0) ampHoursIn += (amps * seconds) / 3600;
    }
    percent[at] = 100 * cell.charge();
    day.top = Math.max(day.top, percent[at]!);
    if (cell.charge() >= full && day.fullAt !== day.fullAt) day.fullAt = ms;
  }
  const whole = [...days.values()].filter((one) => one.cells * stepMs >= LEAST_OF_DAY * DAY);
  const filled = whole.filter((one) => one.fullAt === one.fullAt);
  const known = percent.filter((one) => one === one);
  return {
    days: whole.length,
    fullDays: filled.length,
    hoursToFull: median(
      filled.filter((one) => one.fullAt > one.firstAt).map((one) => (one.fullAt - one.firstAt) / HOUR),
    ),
    gassedAh: cell.gassedAh?.() ?? NaN,
    ampHoursIn,
    fromSources: sources.map(({ source }, i) => ({ id: source.id, ampHours: given[i]! })),
    topPercent: mean(whole.map((one) => one.top)),
    lowestPercent: known.reduce((least, one) => Math.min(least, one), Infinity),
    endPercent: known.at(-1) ?? NaN,
    percent,
    volts,
  };
}

/** How the replay of what was stands beside what was. */
export interface ReplayError {
  /** Mean distance of the battery's voltage while it is charged, V, and of the charge, points. */
  volts: number;
  points: number;
  /** Into the battery: replayed over logged. */
  ampHours: number;
}

export function replayError(recorded: Recorded, { percent, volts, ampHoursIn }: Outcome): ReplayError {
  const { minutes, amps, capacityAh } = recorded;
  const off = { volts: 0, cells: 0, points: 0, known: 0 };
  let logged = 0;
  for (let at = 0; at < minutes.count; at++) {
    const apart = volts[at]! - minutes.volts[at]!;
    if (amps[at]! > 0.01 * capacityAh && apart === apart) {
      off.volts += Math.abs(apart);
      off.cells++;
    }
    if (amps[at]! > 0 && percent[at]! === percent[at]!) logged += (amps[at]! * minutes.stepMs) / HOUR;
    const points = percent[at]! - recorded.percent[at]!;
    if (points === points) {
      off.points += Math.abs(points);
      off.known++;
    }
  }
  return { volts: off.volts / off.cells, points: off.points / off.known, ampHours: ampHoursIn / logged };
}
