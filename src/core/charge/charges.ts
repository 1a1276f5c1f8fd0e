/** Charges: runs of stages from the moment a source starts to give until it has been away for long, with what ended each stage. */

import { HOUR, MINUTE, type Span } from '../quantity/span';
import { median, quantile } from '../quantity/numbers';
import { CHEMISTRY } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Source } from '../system/schema';
import { cellAt, cellStart, firstAtOrAfter, gapsIn, integrate } from '../log/grid';
import type { Timeline } from '../log/timeline';
import { batteryCurrent } from '../log/timeline';
import { whatEnded } from './ended';
import { judgeRegulation } from './regulation';
import { at25, findSetpoints, type Setpoints } from './setpoints';
import { segmentStages, STATES } from './stages';
import { fitTail, type TailFit } from './tail';
import { chargeViews, type ChargeView } from './view';

export type StageName = 'bulk' | 'absorption' | 'float' | 'equalise' | 'hold' | 'off';
export type EndedBy = 'tail' | 'timer' | 'source-lost' | 'load' | 'bms' | 'other-source' | 'unknown';

export interface Stage extends Span {
  stage: StageName;
  /** Median voltage, V, at the temperature of the moment, and brought to 25 °C. */
  volts: number;
  volts25: number;
  /** Median voltage at the battery as another device saw it, V, or NaN. */
  batteryVolts: number;
  /** Median battery temperature, °C, or NaN. */
  celsius: number;
  /** Current at the end, A: the battery's where it is known, else the source's own. */
  endAmps: number;
  /** Source's own current at the end, A. */
  endSourceAmps: number;
  /** Current over the second half of the stage, median, A: what it had settled to before the end, which a failing supply bends. */
  settledAmps: number;
  /** Source's own current over the whole stage, median, A. */
  usualSourceAmps: number;
  /** True when `endAmps` is what the battery took, without loads. */
  endAmpsAreBattery: boolean;
  /** The BMS let no current in at its end: whatever the current says then, it is no tail. */
  blocked: boolean;
  /** Charge into the battery (or from the source when the battery's is not logged), Ah. */
  ampHours: number;
  endedBy: EndedBy;
  /** Time at the voltage, without dips of the supply, ms. */
  heldMs: number;
  /** How often the supply fell short in it. */
  dips: number;
  /** The falling current, for absorption where it can be fitted. */
  tail: TailFit | null;
  /** The stage runs into the end (or from the start) of the log: its length is not known. */
  cutOff: boolean;
}

export interface Charge extends Span {
  source: string | null;
  stages: Stage[];
  /** The battery got truly full in it. */
  full: boolean;
  ampHours: number;
}

/** What the log says of one source's charging. No samples in it: what weighs causes reads this. */
export interface SourceCharging {
  source: Source | null;
  setpoints: Setpoints;
  charges: Charge[];
  /** When the log that they are seen in runs, and where it is silent: of other times nothing is known. */
  logged: { span: Span; gaps: Span[] };
  /** Most that the source gave while the supply was the limit, A: 95th percentile over bulk. NaN without bulk. */
  bulkAmps: number;
  /** The battery's own current was logged or can be had by subtraction. */
  knowsBatteryAmps: boolean;
}

/** A source that was away (or idle) for longer than this begins a new charge. */
const NEW_CHARGE_AFTER = 2 * HOUR;

/** Charges of every source that can be judged, from the timeline to stages with their ends. */
export function findCharges(system: KnownSystem, timeline: Timeline): SourceCharging[] {
  return chargeViews(system, timeline).map((view) => {
    const source = system.sources.find((one) => one.id === view.source) ?? null;
    const { capacityAh } = system.bank;
    const regulation = judgeRegulation(view, capacityAh);
    const setpoints = findSetpoints(view, regulation, system.bank, source);
    const path = segmentStages({ view, regulation, setpoints, capacityAh });
    const runs = runsOf(path);
    const charges = groupRuns(runs, view).map((group) => chargeOf(group, view, setpoints, timeline));
    whatEnded(charges, view, source, system);
    for (const charge of charges) charge.full = isFull(charge, system, view.ampNoise);
    return {
      source,
      setpoints,
      charges,
      logged: {
        span: { from: view.log.time[0]!, to: view.log.time.at(-1)! },
        gaps: gapsIn(view.log.time),
      },
      bulkAmps: bulkAmpsOf(view, runs),
      knowsBatteryAmps: view.batteryAmps !== null,
    };
  });
}

interface Run {
  state: number;
  from: number;
  to: number;
}

/** Equal states joined, in cells; `to` is exclusive. */
function runsOf(path: Uint8Array): Run[] {
  const runs: Run[] = [];
  for (let cell = 0; cell < path.length; cell++) {
    const last = runs[runs.length - 1];
    if (last && last.state === path[cell]) last.to = cell + 1;
    else runs.push({ state: path[cell]!, from: cell, to: cell + 1 });
  }
  return runs;
}

const OFF = STATES.indexOf('off');
const BULK = STATES.indexOf('bulk');
const ABSORPTION = STATES.indexOf('absorption');
const FLOAT = STATES.indexOf('float');
const isDip = (state: number) =>
  state === STATES.indexOf('absorptionDip') || state === STATES.indexOf('floatDip');

/** Splits the runs into charges: at a long off, and where bulk starts again out of float and reaches absorption. */
function groupRuns(runs: Run[], view: ChargeView): Run[][] {
  const groups: Run[][] = [];
  let group: Run[] = [];
  const close = () => {
    while (
      group.length > 0 &&
      (group[group.length - 1]!.state === OFF || isDip(group[group.length - 1]!.state))
    )
      group.pop();
    if (group.length > 0) groups.push(group);
    group = [];
  };
  runs.forEach((run, i) => {
    const length = (run.to - run.from) * view.grid.step;
    if (run.state === OFF && length > NEW_CHARGE_AFTER) close();
    else if (
      run.state === BULK &&
      group.some((one) => one.state === FLOAT) &&
      runs[i + 1]?.state === ABSORPTION
    ) {
      close();
      group.push(run);
    } else if (run.state !== OFF || group.length > 0) group.push(run);
  });
  close();
  return groups;
}

function chargeOf(runs: Run[], view: ChargeView, setpoints: Setpoints, timeline: Timeline): Charge {
  const stages: Stage[] = [];
  let open: { name: StageName; runs: Run[]; dips: number } | null = null;
  const close = () => {
    if (open) stages.push(stageOf(open.name, open.runs, open.dips, view, setpoints, timeline));
    open = null;
  };
  runs.forEach((run, i) => {
    const name: StageName =
      run.state === OFF ? 'off' : run.state === BULK ? 'bulk' : run.state < FLOAT ? 'absorption' : 'float';
    if (isDip(run.state)) {
      // A dip counts only when the stage goes on after it; otherwise it was the stage's end and the source failing.
      const goesOn = runs[i + 1]?.state === run.state - 1;
      if (goesOn && open) open.dips++;
      else {
        close();
        open = { name: 'bulk', runs: [run], dips: 0 };
      }
      return;
    }
    if (open && open.name === name) open.runs.push(run);
    else {
      close();
      open = { name, runs: [run], dips: 0 };
    }
  });
  close();
  const span = { from: stages[0]!.from, to: stages[stages.length - 1]!.to };
  return { ...span, source: view.source, stages, full: false, ampHours: ampHoursIn(span, view, timeline) };
}

function ampHoursIn(span: Span, view: ChargeView, timeline: Timeline): number {
  const { time, amps } = batteryCurrent(timeline) ?? { time: view.log.time, amps: view.log.amps };
  const through = integrate(time, amps, span);
  return through.in - through.out;
}

function stageOf(
  name: StageName,
  runs: Run[],
  dips: number,
  view: ChargeView,
  setpoints: Setpoints,
  timeline: Timeline,
): Stage {
  const { grid } = view;
  const first = runs[0]!.from;
  const last = runs[runs.length - 1]!.to;
  const cells = runs.flatMap((run) => Array.from({ length: run.to - run.from }, (_, i) => run.from + i));
  const known = cells.filter((cell) => view.volts[cell]! === view.volts[cell]!);
  const setpoint = name === 'absorption' ? setpoints.absorption : name === 'float' ? setpoints.float : null;
  const span = refine(
    { from: cellStart(grid, first), to: cellStart(grid, last) },
    setpoint?.volts,
    setpoint?.width,
    view,
    setpoints,
  );
  const battery = view.batteryAmps;
  const ending = endingCells(known, view);
  const endSourceAmps = median(ending.map((cell) => view.amps[cell]!));
  const endBattery = battery ? median(ending.map((cell) => battery[cell]!)) : NaN;
  const endAmpsAreBattery = endBattery === endBattery;
  return {
    stage: name,
    ...span,
    volts: median(known.map((cell) => view.volts[cell]!)),
    volts25: median(known.map((cell) => at25(view, cell, setpoints.voltsPerC))),
    batteryVolts: view.batteryVolts ? median(known.map((cell) => view.batteryVolts![cell]!)) : NaN,
    celsius: view.celsius ? median(known.map((cell) => view.celsius![cell]!)) : NaN,
    endAmps: endAmpsAreBattery ? endBattery : endSourceAmps,
    endSourceAmps,
    settledAmps: median(known.slice(known.length >> 1).map((cell) => (battery ?? view.amps)[cell]!)),
    usualSourceAmps: median(known.map((cell) => view.amps[cell]!)),
    endAmpsAreBattery,
    ampHours: ampHoursIn(span, view, timeline),
    blocked: isBlocked(ending, view),
    endedBy: 'unknown',
    heldMs: dips === 0 ? span.to - span.from : cells.length * grid.step,
    dips,
    tail: name === 'absorption' ? tailOf(known, view) : null,
    cutOff: first === 0 || last >= grid.count,
  };
}

/** Whether the BMS let nothing in at the end of a stage. */
function isBlocked(ending: readonly number[], { allowed }: ChargeView): boolean {
  return allowed !== null && median(ending.map((cell) => allowed[cell]!).filter((one) => one === one)) < 0.5;
}

/** The last five minutes of a stage without its very last cell, which may lie half beyond its end; at least one cell. */
function endingCells(cells: number[], view: ChargeView): number[] {
  const wanted = Math.max(1, Math.round((5 * MINUTE) / view.grid.step));
  const inner = cells.length > 2 ? cells.slice(0, -1) : cells;
  return inner.slice(-wanted);
}

function tailOf(cells: number[], view: ChargeView): TailFit | null {
  const amps = view.batteryAmps ?? view.amps;
  // The current falls fast at first, while the charge spreads inside the battery; what decides is how it goes on.
  const used = cells.slice(Math.round(Math.max((2 * MINUTE) / view.grid.step, 0.4 * cells.length)));
  if (used.length < 8) return null;
  return fitTail(
    used.map((cell) => ((cell - cells[0]!) * view.grid.step) / HOUR),
    used.map((cell) => amps[cell]!),
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

/** A battery that is full already lets a charger end absorption soon; what is shorter than this is a jump of the voltage. */
const LEAST_ABSORPTION = 3 * MINUTE;

/**
 * Held at the charge voltage until the battery's current was down to the full tail; or after that long on float, where the lower
 * voltage asks for a far smaller current.
 */
function isFull(charge: Charge, system: KnownSystem, ampNoise: number): boolean {
  const { bank } = system;
  const { fullTailPercent } = CHEMISTRY[bank.chemistry];
  const percentOf = (amps: number) => (100 * amps) / bank.capacityAh;
  return charge.stages.some((one, i) => {
    const amps = one.endedBy === 'source-lost' || one.endedBy === 'load' ? one.settledAmps : one.endAmps;
    // No current because the BMS lets none in is no tail, nor is a current that a load draws from the battery.
    if (one.blocked || amps < -3 * ampNoise) return false;
    if (one.stage === 'absorption')
      return !one.cutOff && one.heldMs >= LEAST_ABSORPTION && percentOf(amps) <= fullTailPercent;
    const absorbed = charge.stages.slice(0, i).some((before) => before.stage === 'absorption');
    return (
      one.stage === 'float' &&
      absorbed &&
      one.heldMs > 4 * HOUR &&
      one.endAmpsAreBattery &&
      percentOf(one.settledAmps) <= fullTailPercent / 8
    );
  });
}

/** 95th percentile of the source's current over bulk, A. */
function bulkAmpsOf(view: ChargeView, runs: Run[]): number {
  const amps: number[] = [];
  for (const run of runs)
    if (run.state === BULK) for (let cell = run.from; cell < run.to; cell++) amps.push(view.amps[cell]!);
  return quantile(amps, 0.95);
}
