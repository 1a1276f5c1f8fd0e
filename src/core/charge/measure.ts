/** Measuring a stage: its times at full rate, voltages, currents and charge. */

import { HOUR, MINUTE, type Span } from '../quantity/span';
import { median } from '../quantity/numbers';
import { cellAt, cellStart, firstAtOrAfter, integrate } from '../log/grid';
import { batteryCurrent, type Timeline } from '../log/timeline';
import { fullTailAmps, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { StageRuns } from './runs';
import type { Setpoints } from './setpoint';
import { DIP_OF } from './states';
import { fitTail, fitTowards, type TailFit } from './tail';
import type { Stage } from './types';
import { at25, type ChargeView } from './view';

/** Ah into the battery over a span, or from the source where the battery's current is not known. */
export function ampHoursIn(span: Span, view: ChargeView, timeline: Timeline): number {
  const { time, amps } = batteryCurrent(timeline) ?? { time: view.log.time, amps: view.log.amps };
  const through = integrate(time, amps, span);
  return through.in - through.out;
}

/** The middle of a view's column over some cells. */
const medianOver = (cells: readonly number[], column: Float32Array): number =>
  median(cells.map((cell) => column[cell]!));

/**
 * A stage as it was. Its dips are in its span, but not in the time held, nor in its medians.
 * @param setTailA A at which its charger is set to end absorption, where that is known
 */
export function measureStage(
  { stage: name, runs, dips, cutOff }: StageRuns,
  view: ChargeView,
  setpoints: Setpoints,
  timeline: Timeline,
  bank: KnownBank,
  setTailA?: number,
): Stage {
  const { grid } = view;
  const first = runs[0]!.from;
  const last = runs[runs.length - 1]!.to;
  const steady = runs.filter(({ state }) => name === 'bulk' || state === null || DIP_OF[state] === undefined);
  // A float that goes on at storage is measured at float.
  const floated = steady.filter(({ state }) => state !== 'storage');
  const held = floated.length > 0 ? floated : steady;
  const cells = held.flatMap((run) => Array.from({ length: run.to - run.from }, (_, i) => run.from + i));
  const known = cells.filter((cell) => view.volts[cell]! === view.volts[cell]!);
  const setpoint = name === 'absorption' || name === 'float' || name === 'equalise' ? setpoints[name] : null;
  const span = refine(
    { from: cellStart(grid, first), to: cellStart(grid, last) },
    setpoint?.volts,
    setpoint?.width,
    view,
    setpoints,
  );
  const battery = view.batteryAmps;
  const ending = endingCells(known, view);
  const endSourceAmps = medianOver(ending, view.amps);
  const endBattery = battery ? medianOver(ending, battery) : NaN;
  const endAmpsAreBattery = endBattery === endBattery;
  return {
    stage: name,
    ...span,
    volts: medianOver(known, view.volts),
    topVolts: topVolts(known, view),
    volts25: median(known.map((cell) => at25(view, cell, setpoints.voltsPerC))),
    batteryVolts: view.batteryVolts ? medianOver(known, view.batteryVolts) : NaN,
    celsius: view.celsius ? medianOver(known, view.celsius) : NaN,
    endAmps: endAmpsAreBattery ? endBattery : endSourceAmps,
    endSourceAmps,
    leastEndAmps: ending.slice(-3).reduce((least, cell) => Math.min(least, view.amps[cell]!), Infinity),
    settledAmps: medianOver(known.slice(known.length >> 1), battery ?? view.amps),
    usualSourceAmps: medianOver(known, view.amps),
    soonSourceAmps: soonAmps(known, view),
    fallsPerHour: battery ? fallsPerHour(known, view, battery) : NaN,
    endAmpsAreBattery,
    ampHours: ampHoursIn(span, view, timeline),
    blocked: isBlocked(ending, view),
    endedBy: 'unknown',
    heldMs: last - first === cells.length ? span.to - span.from : cells.length * grid.step,
    holdingMs:
      runs
        .filter(({ state }) => state === 'equalise' || state === name)
        .reduce((sum, one) => sum + one.to - one.from, 0) * grid.step,
    dips,
    pastTailMs: battery ? pastTail(known, view, battery, bank) * grid.step : NaN,
    pastSettingMs:
      battery && setTailA !== undefined ? pastSetting(known, view, battery, bank, setTailA) * grid.step : NaN,
    atTailFrom: battery ? atTailFrom(known, view, battery, bank) : NaN,
    clockMs: NaN,
    tail: name === 'absorption' ? tailOf(known, view, bank) : null,
    cutOff: cutOff || first === 0 || last >= grid.count,
  };
}

/** So many cells after a stage its voltage is looked for, where the battery takes less than this part of what it took at the end. */
const AFTER = { cells: 2, takes: 0.1 };

/**
 * Highest voltage that a stage came to, V. A battery rests under what it was charged with: one that rests higher was charged so high, in
 * the last of a steep climb that the log went by.
 */
function topVolts(cells: readonly number[], { volts, batteryAmps, grid }: ChargeView): number {
  const last = cells.at(-1);
  const top = cells.reduce((most, cell) => Math.max(most, volts[cell]!), -Infinity);
  if (last === undefined || !batteryAmps) return top;
  const rests = Array.from({ length: AFTER.cells }, (_, i) => last + 1 + i).filter(
    (cell) => cell < grid.count && batteryAmps[cell]! <= AFTER.takes * batteryAmps[last - 1]!,
  );
  return rests.reduce((most, cell) => (volts[cell]! > most ? volts[cell]! : most), top);
}

/** A current is seen to fall, or not, over the last part of a stage that was held for so long at least; by the middle of its quarters. */
const FALLS = { over: 2 * HOUR, least: 3 * HOUR };

function fallsPerHour(cells: readonly number[], { grid }: ChargeView, battery: Float32Array): number {
  if (cells.length * grid.step < FALLS.least) return NaN;
  const last = cells.slice(-Math.round(FALLS.over / grid.step));
  const quarter = Math.ceil(last.length / 4);
  const fell = medianOver(last.slice(0, quarter), battery) - medianOver(last.slice(-quarter), battery);
  return fell / ((0.75 * FALLS.over) / HOUR);
}

/** Of the cells at the tail so many may be above it: a load that stops sets the current free for a moment. */
const STRAY = 0.1;

/** Epoch ms from which the battery's current stood at its tail until the last of the cells; NaN where it did not. */
function atTailFrom(
  cells: readonly number[],
  view: ChargeView,
  battery: Float32Array,
  bank: KnownBank,
): number {
  const tail = fullTailAmps(bank);
  let above = 0;
  let first = -1;
  for (let k = cells.length - 1; k >= 0; k--) {
    if (!(battery[cells[k]!]! <= tail)) above++;
    else if (above <= STRAY * (cells.length - k)) first = cells[k]!;
  }
  return first < 0 ? NaN : cellStart(view.grid, first);
}

/** Tails above which a charger's own current hides the battery's; lead takes long to come down to its tail, and chargers are set for that. */
const ABOVE = { lead: 1.5, lithium: 1.2 };

/** So long at its tail a battery is full, whatever it gasses away. */
const CAREFUL = 3 * HOUR;

/**
 * A charger's own current is plainly above what it is set to end at: so many times that, and so many deviations of its meter. A battery that
 * stays under so much for hours is as good as there: meters and a tail that hardly falls any more come no nearer.
 */
const PLAINLY = { times: 1.25, noise: 3, nearly: 2 * HOUR };

/** Cells in which the battery was down to what its charger is set to end at, while the loads kept the charger's own current above that. */
function pastSetting(
  cells: readonly number[],
  view: ChargeView,
  battery: Float32Array,
  bank: KnownBank,
  setTailA: number,
): number {
  const tail = Math.min(setTailA, fullTailAmps(bank));
  const nearly = Math.min(PLAINLY.times * setTailA, fullTailAmps(bank));
  const above = PLAINLY.times * setTailA + PLAINLY.noise * view.ampNoise;
  const careful = PLAINLY.nearly / view.grid.step;
  let isNearly = 0;
  return cells.filter((cell) => {
    if (battery[cell]! <= nearly) isNearly++;
    const isThere = battery[cell]! <= tail || (battery[cell]! <= nearly && isNearly > careful);
    return isThere && view.amps[cell]! > above && view.amps[cell]! > PLAINLY.times * battery[cell]!;
  }).length;
}

/** Cells in which the battery was at its tail while the charger, for the loads, still gave far more. */
function pastTail(
  cells: readonly number[],
  view: ChargeView,
  battery: Float32Array,
  bank: KnownBank,
): number {
  const tail = fullTailAmps(bank);
  // Chargers that go on to half of that tail are only careful, and some batteries gas away more: those tell by the hours.
  const careful = CAREFUL / view.grid.step;
  const above = isLead(bank.chemistry) ? ABOVE.lead : ABOVE.lithium;
  let atTail = 0;
  return cells.filter((cell) => {
    const amps = battery[cell]!;
    if (!(amps <= tail)) return false;
    atTail++;
    return (amps <= tail / 2 || atTail > careful) && view.amps[cell]! > Math.max(above * tail, amps + tail);
  }).length;
}

/** Cells of half an hour. */
const halfHour = ({ grid }: ChargeView): number => Math.max(2, Math.round((30 * MINUTE) / grid.step));

/** Half an hour before a moment: what the battery stood at, and what it was drawn upon. */
export function before(ms: number, view: ChargeView): { volts: number; amps: number } {
  const last = cellAt(view.grid, ms) - 2;
  const from = Math.max(0, last - halfHour(view));
  const battery = view.batteryVolts ?? view.volts;
  return {
    volts: median(battery.subarray(from, Math.max(from, last))),
    amps: view.batteryAmps ? median(view.batteryAmps.subarray(from, Math.max(from, last))) : NaN,
  };
}

/** Battery current over the half hour after a moment, A. */
export function ampsAfter(ms: number, view: ChargeView): number {
  const first = cellAt(view.grid, ms) + 2;
  return view.batteryAmps ? median(view.batteryAmps.subarray(first, first + halfHour(view))) : NaN;
}

/** Whether the BMS let nothing in at the end of a stage. */
function isBlocked(ending: readonly number[], { allowed }: ChargeView): boolean {
  return allowed !== null && median(ending.map((cell) => allowed[cell]!).filter((one) => one === one)) < 0.5;
}

/** The end of a stage: so long, and no more than this part of it, for in a short one the current falls fast. */
const ENDING = { most: 5 * MINUTE, part: 1 / 5 };

/** The cells at the end of a stage without its very last one, which may lie half beyond its end; at least one cell. */
function endingCells(cells: number[], view: ChargeView): number[] {
  const most = Math.round(ENDING.most / view.grid.step);
  const wanted = Math.max(1, Math.min(most, Math.round(ENDING.part * cells.length)));
  const inner = cells.length > 2 ? cells.slice(0, -1) : cells;
  return inner.slice(-wanted);
}

/** After the fall from one voltage to the next the battery carries the loads for a moment: from then on, for so long, as steady as that. */
const SOON = { from: 5 * MINUTE, to: 65 * MINUTE, falls: 0.05 };

function soonAmps(cells: readonly number[], { grid, amps }: ChargeView): number {
  const since = (cell: number) => (cell - cells[0]!) * grid.step;
  const soon = cells.filter((cell) => since(cell) >= SOON.from && since(cell) <= SOON.to);
  const half = Math.ceil(soon.length / 2);
  const first = medianOver(soon.slice(0, half), amps);
  return first - medianOver(soon.slice(half), amps) < SOON.falls * first ? medianOver(soon, amps) : NaN;
}

/** So many time constants in, a falling current has nearly settled. */
const SETTLED = 3;
/** Current that a sound lead battery still takes at its charge voltage once full, % of capacity (common practice, no source). */
const SOUND_END = 0.5;

function tailOf(cells: number[], view: ChargeView, bank: KnownBank): TailFit | null {
  const amps = view.batteryAmps ?? view.amps;
  // The current falls fast at first, while the charge spreads inside the battery; what decides is how it goes on.
  const used = cells.slice(Math.round(Math.max((2 * MINUTE) / view.grid.step, 0.4 * cells.length)));
  if (used.length < 8) return null;
  const at = (cell: number) => ((cell - cells[0]!) * view.grid.step) / HOUR;
  const free = fitTail(
    used.map(at),
    used.map((cell) => amps[cell]!),
  );
  // Only a current that has nearly settled shows where it ends.
  if (free && at(cells.at(-1)!) > SETTLED * free.tauHours) return free;
  return fitTowards(
    cells.map(at),
    cells.map((cell) => amps[cell]!),
    isLead(bank.chemistry) ? (SOUND_END * bank.capacityAh) / 100 : 0,
  );
}

/** Moves the ends of a held stage to the samples of the log at which the voltage arrives at its setpoint and leaves it. */
function refine(
  span: Span,
  setpointVolts: number | undefined,
  width: number | undefined,
  view: ChargeView,
  setpoints: Setpoints,
): Span {
  if (setpointVolts === undefined || width === undefined) return span;
  const { time, volts } = view.log;
  const { grid } = view;
  const shiftAt = (ms: number) => {
    const cell = cellAt(grid, ms);
    return view.volts[cell]! - at25(view, cell, setpoints.voltsPerC) || 0;
  };
  const near = Math.max(3 * width, 0.03 * view.blocks);
  const isAt = (i: number) => Math.abs(volts[i]! - shiftAt(time[i]!) - setpointVolts) <= near;
  const reach = 1.5 * grid.step;
  let { from, to } = span;
  for (let i = firstAtOrAfter(time, span.from - reach); i < time.length && time[i]! <= span.from + reach; i++)
    if (isAt(i)) {
      from = time[i]!;
      break;
    }
  for (let i = firstAtOrAfter(time, span.to + reach) - 1; i >= 0 && time[i]! >= span.to - reach; i--)
    if (isAt(i)) {
      to = Math.max(from + 1, time[i]!);
      break;
    }
  return to > from ? { from, to } : span;
}
