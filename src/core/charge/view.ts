/**
 * One source's charging as it is judged: voltage, current and temperature on an even grid, with the resolution of the meters.
 * A source with a log of its own is seen through that log, joined by what the monitor saw of the battery; without one, the bank
 * is seen through the monitor alone.
 */

import { HOUR } from '../quantity/span';
import { bankOf } from '../system/bankOf';
import { blocksInSeries } from '../system/chemistry';
import type { KnownSystem } from '../system/known';
import type { Source } from '../system/schema';
import type { Channel, Series } from '../log/channels';
import { cellOf, type Grid, judgingGrid, medianStep, toGrid } from '../log/grid';
import { spanOf } from '../log/channels';
import { batteryOnGrid } from './batteryOnGrid';
import type { Current } from './moves';
import { halfVolts } from '../log/halfVolts';
import { currentOfOtherHalf } from '../log/otherHalf';
import { resolutionOf } from '../log/resolution';
import { anyLogWith, batteryCurrent, logOf, type Timeline } from '../log/timeline';

/** The current of other sources together; NaN where one of their logs is silent. */
export interface Others extends Current {
  /** Mains and engines alone, which give all they have or hold a voltage. */
  constant: boolean;
}

export interface ChargeView {
  /** Source id; null when several sources may be behind a current that only the monitor logged. */
  source: string | null;
  grid: Grid;
  /** V, whole bank, as the charger sees it where it has a log. NaN in gaps. */
  volts: Float32Array;
  /** A that make the battery charge in this view: the source's own where logged, else the battery's. */
  amps: Float32Array;
  /** True when `amps` is what flows into the battery, false when loads may be inside it. */
  ampsAreBattery: boolean;
  /** A into the battery; null when nobody logged it. */
  batteryAmps: Float32Array | null;
  /** Its noise, one standard deviation, A. */
  batteryNoise: number;
  /** V at the battery where somebody else than the source logged it. */
  batteryVolts: Float32Array | null;
  /** Battery temperature °C (ambient where there is nothing better), NaN in gaps; null when not logged. */
  celsius: Float32Array | null;
  /** V by which held voltages have wandered, where no temperature was logged but the charger follows one; null otherwise. */
  drift: Float32Array | null;
  /** Whether the BMS lets the battery be charged, 0 or 1; null when nobody logged it. */
  allowed: Float32Array | null;
  /** Stage numbers reported by the source itself, or null. */
  reported: Float32Array | null;
  /** 12 V blocks in series: multiplies all voltage tolerances. */
  blocks: number;
  /** What the other sources across the same cells give together, as far as all of them are logged; null where one is not. */
  others: Others | null;
  /** Noise of the meters with their quantum as a part of it, one standard deviation, V and A. */
  voltNoise: number;
  ampNoise: number;
  /** Least difference that the voltage meter shows, V. */
  voltQuantum: number;
  /** The log that boundaries are refined on, at its own rate. */
  log: { time: Float64Array; volts: Float32Array; amps: Float32Array };
}

/** Views of every source that can be judged, or of the bank when no source has a log. Empty when there is no V and A together. */
export function chargeViews(system: KnownSystem, timeline: Timeline): ChargeView[] {
  const views: ChargeView[] = [];
  for (const { id } of system.sources) {
    for (const series of timeline.series.filter((one) => one.device === id)) {
      const view = viewOf(system, timeline, series, id);
      if (view) views.push(view);
    }
  }
  if (views.length > 0) return views;
  const bank = timeline.series.find((one) => one.channels.battery_voltage && one.channels.battery_current);
  const only = system.sources.length === 1 ? system.sources[0]!.id : null;
  const view = bank ? viewOf(system, timeline, bank, only) : null;
  return view ? [view] : [];
}

function viewOf(
  system: KnownSystem,
  timeline: Timeline,
  series: Series,
  source: string | null,
): ChargeView | null {
  const own = series.device === source;
  const { channels } = series;
  const volts = (own ? channels.source_voltage : undefined) ?? channels.battery_voltage;
  const ownAmps = own ? channels.source_current : undefined;
  const amps = ownAmps ?? channels.battery_current;
  if (!volts || !amps) return null;
  const grid = judgingGrid(spanOf(series), medianStep(series.time), series.time);
  const onGrid = (log: Series | null, channel: Channel) =>
    log ? toGrid(log.time, log.channels[channel]!, grid) : null;

  // Across one half of the bank, what the monitor sees is the same current only where it sits in that half.
  const across = system.sources.find((one) => one.id === source)?.across ?? 'bank';
  const sees = system.monitor?.sees ?? 'bank';
  const battery =
    own && across !== 'bank' && sees !== across
      ? currentOfOtherHalf(system, timeline)
      : batteryCurrent(timeline);
  const voltLog = anyLogWith(timeline, 'battery_voltage');
  const heat =
    anyLogWith(timeline, 'battery_temperature') ??
    (anyLogWith(timeline, 'ambient_temperature') as Series | null);
  // A charger that logs no current of its own, but the battery's, is seen by that.
  const ampsAreBattery = ownAmps === undefined;
  const voltGrid = toGrid(series.time, volts, grid);
  const ampGrid = toGrid(series.time, amps, grid);
  const blocks = blocksInSeries(bankOf(system, { across }));
  const batteryVolts = (logged: Float32Array): Float32Array | null =>
    !own || across === 'bank' ? logged : halfVolts(logged, across, system, timeline, grid);
  return {
    source,
    grid,
    volts: voltGrid,
    amps: ampGrid,
    ampsAreBattery,
    batteryAmps: ampsAreBattery ? ampGrid : battery ? batteryOnGrid(battery, series, grid, blocks) : null,
    batteryNoise: ampsAreBattery ? noiseOf(amps, system) : battery ? noiseOf(battery.amps, system) : 0,
    batteryVolts:
      voltLog && voltLog.device !== source ? batteryVolts(onGrid(voltLog, 'battery_voltage')!) : null,
    celsius: carried(
      onGrid(heat, heat?.channels.battery_temperature ? 'battery_temperature' : 'ambient_temperature'),
      Math.round(SLOW / grid.step),
    ),
    drift: null,
    allowed: onGrid(anyLogWith(timeline, 'bms_charge_allowed'), 'bms_charge_allowed'),
    reported: series.channels.source_stage ? nearestOnGrid(series, grid) : null,
    blocks,
    others: own ? othersOf(system, timeline, source, grid) : null,
    voltNoise: Math.max(resolutionOf(volts).noise, 0.004 * blocks),
    ampNoise: noiseOf(amps, system),
    voltQuantum: resolutionOf(volts).quantum,
    log: { time: series.time, volts, amps },
  };
}

/** A battery keeps its temperature for so long, while the log that has it is silent. */
const SLOW = 6 * HOUR;

/** Values with what is missing taken from before it, or from after it at the start, over so many cells at most. */
function carried(values: Float32Array | null, most: number): Float32Array | null {
  if (!values) return null;
  const pass = (from: number, step: 1 | -1) => {
    let last = NaN;
    let age = Infinity;
    for (let cell = from; cell >= 0 && cell < values.length; cell += step)
      if (values[cell]! === values[cell]!) {
        last = values[cell]!;
        age = 0;
      } else if (++age <= most) values[cell] = last;
  };
  pass(0, 1);
  pass(values.length - 1, -1);
  return values;
}

/** A meter of current is never trusted further than this part of the capacity, A. */
const noiseOf = (amps: Float32Array, { bank }: KnownSystem): number =>
  Math.max(resolutionOf(amps).noise, 0.0005 * bank.capacityAh);

/** The current of the other sources across the same cells, on this source's grid. */
function othersOf(system: KnownSystem, timeline: Timeline, id: string | null, grid: Grid): Others | null {
  const across = system.sources.find((one) => one.id === id)?.across ?? 'bank';
  const others = system.sources.filter((one) => one.id !== id && (one.across ?? 'bank') === across);
  const logs = others.map((one) => logOf(timeline, one.id, 'source_current'));
  if (others.length === 0 || logs.some((one) => one === null)) return null;
  const amps = new Float32Array(grid.count);
  let squares = 0;
  for (const log of logs) {
    const current = log!.channels.source_current!;
    toGrid(log!.time, current, grid).forEach((value, cell) => (amps[cell]! += value));
    squares += resolutionOf(current).noise ** 2;
  }
  return { amps, noise: Math.sqrt(squares), constant: others.every(({ kind }) => isConstant(kind)) };
}

/** Mains and engines give what they can: what steadily gives less is holding a voltage. The sun may simply be low. */
export const isConstant = (kind: Source['kind'] | undefined): boolean =>
  kind === 'mains' || kind === 'generator';

/** Reported stages: the last one told in each cell, held until the next. */
function nearestOnGrid(series: Series, grid: Grid): Float32Array {
  const out = new Float32Array(grid.count).fill(NaN);
  const stages = series.channels.source_stage!;
  for (let i = 0; i < stages.length; i++) {
    const cell = cellOf(grid, series.time[i]!);
    if (cell >= 0 && cell < grid.count && stages[i]! === stages[i]!) out[cell] = stages[i]!;
  }
  for (let cell = 1; cell < grid.count; cell++) if (out[cell]! !== out[cell]!) out[cell] = out[cell - 1]!;
  return out;
}

/** Voltage of a cell of the view brought to 25 °C; to the mean of the log where its temperature can only be guessed. */
export function at25(view: ChargeView, cell: number, voltsPerC: number): number {
  if (view.drift) return view.volts[cell]! - view.drift[cell]!;
  const celsius = view.celsius ? view.celsius[cell]! : NaN;
  return celsius === celsius ? view.volts[cell]! - voltsPerC * (celsius - 25) : view.volts[cell]!;
}
