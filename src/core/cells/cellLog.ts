/** The voltages of all cells on one clock, with the current and the ampere-hours that went through them. */

import { interpolateAt } from '../log/interpolateAt';
import { type Channel, cellChannels, cellNumber } from '../log/channels';
import { gapLimit, medianStep } from '../log/grid';
import { anyLogWith, batteryCurrent, type Timeline } from '../log/timeline';
import { HOUR } from '../quantity/span';
import { mean } from '../quantity/numbers';
import type { KnownBank } from '../system/known';
import { bankOhms, coldShare } from '../system/sag';

export interface CellLog {
  time: Float64Array;
  /** Names as people say them: "7", "lower". */
  names: string[];
  /** V, a column a cell. */
  volts: Float32Array[];
  /** A into the battery; null where nobody logged it. */
  amps: Float32Array | null;
  /** The current was logged with the cells, on one clock. */
  ampsOnItsClock: boolean;
  /** Ah that went in since the start, less what went out; null without a current. */
  ampHours: Float64Array | null;
  /** Ω of a good cell, at the log's temperature. */
  ohms: number;
}

/** Null with fewer than two cells. */
export function cellLogOf(bank: KnownBank, timeline: Timeline): CellLog | null {
  const log = anyLogWith(timeline, 'cell_01_voltage');
  const names = log ? cellChannels(log) : [];
  if (!log || names.length < 2) return null;
  return withCurrent(bank, timeline, {
    time: log.time,
    names: names.map((one) => cellNumber(one)!),
    volts: names.map((one: Channel) => log.channels[one]!),
    parts: bank.cellsInSeries,
  });
}

/** The halves of a bank, where the voltage between them was logged beside the whole. */
export function halfLogOf(bank: KnownBank, timeline: Timeline): CellLog | null {
  const log = timeline.series.find((one) => one.channels.midpoint_voltage && one.channels.battery_voltage);
  if (!log) return null;
  const lower = log.channels.midpoint_voltage!;
  const whole = log.channels.battery_voltage!;
  return withCurrent(bank, timeline, {
    time: log.time,
    names: ['lower half', 'upper half'],
    volts: [lower, whole.map((one, i) => one - lower[i]!)],
    parts: 2,
  });
}

function withCurrent(
  bank: KnownBank,
  timeline: Timeline,
  { time, names, volts, parts }: Pick<CellLog, 'time' | 'names' | 'volts'> & { parts: number },
): CellLog {
  const current = batteryCurrent(timeline);
  const amps = current
    ? current.time === time
      ? current.amps
      : interpolateAt(current.time, current.amps, time)
    : null;
  const heat = anyLogWith(timeline, 'battery_temperature')?.channels.battery_temperature;
  const celsius = heat ? mean(heat) : NaN;
  return {
    time,
    names,
    volts,
    amps,
    ampsOnItsClock: current?.time === time,
    ampHours: amps && runningSum(time, amps),
    ohms: (bankOhms(bank) * coldShare(bank.chemistry, celsius)) / parts,
  };
}

/** Ah since the start by the trapezoid rule; gaps and missing samples add nothing. */
function runningSum(time: Float64Array, amps: Float32Array): Float64Array {
  const total = new Float64Array(time.length);
  const limit = gapLimit(medianStep(time));
  for (let i = 1; i < time.length; i++) {
    const step = time[i]! - time[i - 1]!;
    const flows = (amps[i]! + amps[i - 1]!) / 2;
    total[i] = total[i - 1]! + (step <= limit && flows === flows ? (flows * step) / HOUR : 0);
  }
  return total;
}
