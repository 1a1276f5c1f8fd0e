/** What lies between two moments of a job’s logs: the caliper. Charge is counted from the samples. */

import { isNumber } from '../quantity/numbers';
import type { Span } from '../quantity/span';
import { cellChannels, type Channel, type Series } from './channels';
import { firstAtOrAfter, gapLimit, integrate, medianStep } from './grid';
import { interpolateAt } from './interpolateAt';
import { anyLogWith, batteryCurrent, batteryLog, type Timeline } from './timeline';

export interface Measured extends Span {
  /** Into and out of the battery; null where nobody logged its current. */
  battery: {
    ampHoursIn: number;
    ampHoursOut: number;
    /** NaN where its voltage was not logged. */
    wattHoursIn: number;
    wattHoursOut: number;
    meanAmps: number;
    /** Furthest from nothing, with its sign. */
    peakAmps: number;
    /** Hours that were counted; less than the span where the log is silent. */
    hours: number;
  } | null;
  /** V of the battery at both ends; NaN where not logged. */
  volts: { from: number; to: number };
  /** Percentages at both ends, by the device that shows them. */
  percents: { device: string; from: number; to: number }[];
  /** Ah that each source gave, by its own log. */
  sources: { device: string; ampHours: number }[];
  /** Highest less lowest cell at both ends, V; null without cells. */
  spread: { from: number; to: number } | null;
}

export function measure(timeline: Timeline, span: Span): Measured {
  const volts = batteryLog(timeline, 'battery_voltage') ?? anyLogWith(timeline, 'source_voltage');
  const voltage: Channel = volts?.channels.battery_voltage ? 'battery_voltage' : 'source_voltage';
  const cells = anyLogWith(timeline, 'cell_01_voltage');
  const at = (log: Series | null, channel: Channel, ms: number) => (log ? valueAt(log, channel, ms) : NaN);
  return {
    ...span,
    battery: ofBattery(timeline, volts, voltage, span),
    volts: { from: at(volts, voltage, span.from), to: at(volts, voltage, span.to) },
    percents: timeline.series
      .filter((one) => one.channels.soc)
      .map((one) => ({
        device: one.device,
        from: valueAt(one, 'soc', span.from),
        to: valueAt(one, 'soc', span.to),
      })),
    sources: timeline.series.flatMap(({ device, time, channels }) => {
      const amps = channels.source_current;
      return amps ? [{ device, ampHours: integrate(time, amps, span).in }] : [];
    }),
    spread: cells && { from: spreadAt(cells, span.from), to: spreadAt(cells, span.to) },
  };
}

function ofBattery(
  timeline: Timeline,
  volts: Series | null,
  voltage: Channel,
  span: Span,
): Measured['battery'] {
  const current = batteryCurrent(timeline);
  if (!current) return null;
  const { time, amps } = current;
  const through = integrate(time, amps, span);
  let peakAmps = NaN;
  for (let i = firstAtOrAfter(time, span.from); i < time.length && time[i]! <= span.to; i++)
    if (!(Math.abs(amps[i]!) <= Math.abs(peakAmps)) && isNumber(amps[i]!)) peakAmps = amps[i]!;
  const watts = volts && wattsOf(time, amps, volts, voltage);
  const energy = watts ? integrate(time, watts, span) : { in: NaN, out: NaN };
  return {
    ampHoursIn: through.in,
    ampHoursOut: through.out,
    wattHoursIn: energy.in,
    wattHoursOut: energy.out,
    meanAmps: (through.in - through.out) / through.hours,
    peakAmps,
    hours: through.hours,
  };
}

function wattsOf(time: Float64Array, amps: Float32Array, volts: Series, voltage: Channel): Float32Array {
  if (volts.time === time) return amps.map((one, i) => one * volts.channels[voltage]![i]!);
  const there = interpolateAt(volts.time, volts.channels[voltage]!, time);
  return amps.map((one, i) => one * there[i]!);
}

/** The line between the samples beside a moment; the nearest at the ends of the log; NaN in its gaps. */
export function valueAt({ time, channels }: Series, channel: Channel, ms: number): number {
  const values = channels[channel];
  if (!values || time.length === 0) return NaN;
  const next = firstAtOrAfter(time, ms);
  if (time[next] === ms) return values[next]!;
  const limit = gapLimit(medianStep(time));
  if (next === 0 || next >= time.length) {
    const end = next === 0 ? 0 : time.length - 1;
    return Math.abs(time[end]! - ms) <= limit ? values[end]! : NaN;
  }
  const [t0, t1] = [time[next - 1]!, time[next]!];
  if (t1 - t0 > limit) return NaN;
  return values[next - 1]! + ((values[next]! - values[next - 1]!) * (ms - t0)) / (t1 - t0);
}

function spreadAt(cells: Series, ms: number): number {
  let least = Infinity;
  let most = -Infinity;
  for (const one of cellChannels(cells)) {
    const value = valueAt(cells, one, ms);
    if (value < least) least = value;
    if (value > most) most = value;
  }
  return most >= least ? most - least : NaN;
}
