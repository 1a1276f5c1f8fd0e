/** What the logs of the battery say of a moment. */

import { referenceAt } from '../count/reference';
import type { Counting } from '../count/types';
import { type Channel, cellChannels, cellNumber, type Series } from '../log/channels';
import { firstAtOrAfter, medianStep } from '../log/grid';
import { anyLogWith, batteryLog, type Timeline } from '../log/timeline';
import { quantile } from '../quantity/numbers';
import { HOUR, MINUTE } from '../quantity/span';
import { dipReader } from './dip';

export interface Moment {
  /** Lowest in the minutes before, V, and just after. */
  volts: number;
  after: number;
  /** It came down to that at once, between two samples of the battery's log. */
  dips: boolean;
  /** By how much it sank to that from sample to sample, V, and when it was first looked at; what is drawn may have begun meanwhile. */
  sinks: { volts: number; since: number };
  /** The same from the last sample to it alone: a short run has no more. */
  sinksLast: { volts: number; since: number };
  /** Highest in the half hour before, V; NaN where the log does not go back so far. */
  highestV: number;
  /** Part of the log in which the battery's voltage was lower than that. */
  lowShare: number;
  /** Out of the battery as its voltage was lowest, A: a later sample of its current may already be without the load. */
  amps: number;
  /** Percentage shown, and the highest of some moments in the hours before: a small load brings a reading of whole points down slowly. */
  shown: number;
  shownBefore: number;
  /** Points by which it fell from sample to sample just before. */
  shownFalls: number;
  held: number;
  deviation: number;
  celsius: number;
  lowestV: number;
  meanV: number;
  lowestCell: string;
}

/** The battery's minutes before a moment, or its last samples. */
const BEFORE = 3 * MINUTE;
/** Samples over which a voltage or a reading is seen to sink. */
const SINKS_OVER = 4;
/** What a disconnect would have let go long since: a voltage that long. */
export const LONG = 30 * MINUTE;
const SHOWN_BEFORE = [5 * MINUTE, 30 * MINUTE, 90 * MINUTE, 4 * HOUR];

export function momentReader(timeline: Timeline, counting: Counting | null): (at: number) => Moment {
  const of = (channel: Channel) => batteryLog(timeline, channel);
  const volts = of('battery_voltage') ?? of('source_voltage');
  const steps = new Map<Series, number>();
  const stepOf = (one: Series) => {
    if (!steps.has(one)) steps.set(one, medianStep(one.time));
    return steps.get(one)!;
  };
  const voltage: Channel = volts?.channels.battery_voltage ? 'battery_voltage' : 'source_voltage';
  let sorted: Float64Array | null = null;
  /** Sorted when first asked for: most logs have nothing to look at. */
  const shareBelow = (one: Series, level: number) => {
    sorted ??= Float64Array.from(one.channels[voltage]!).sort();
    return firstAtOrAfter(sorted, level) / sorted.length;
  };
  const dipTo = volts && voltage === 'battery_voltage' ? dipReader(timeline, volts) : null;
  const amps = of('battery_current');
  const reading = of('soc');
  const heat = anyLogWith(timeline, 'battery_temperature');
  const cells = anyLogWith(timeline, 'cell_01_voltage');
  const names = cells ? cellChannels(cells) : [];
  return (at) => {
    const low = volts ? lowestBefore(volts, voltage, at, stepOf(volts)) : -1;
    const voltAt = (i: number) => volts?.channels[voltage]![i] ?? NaN;
    const own = voltAt(low);
    const last = volts ? firstAtOrAfter(volts.time, at) - 1 : -1;
    const dip = dipTo && low >= 0 && last >= low ? dipTo(volts!.time[last]!, voltAt(last), at) : null;
    const isDip = dip !== null && dip.volts < own;
    const lowest = isDip ? dip.volts : own;
    const cell = cells
      ? lowestCellBefore(cells, names, at, stepOf(cells))
      : { volts: NaN, mean: NaN, name: '' };
    const held = counting ? referenceAt(counting.course, at) : { percent: NaN, deviation: NaN };
    return {
      volts: lowest,
      dips: isDip,
      after: volts ? valueAfter(volts, voltage, at) : NaN,
      sinks: {
        volts: (voltAt(low - SINKS_OVER) - own) / SINKS_OVER,
        since: volts?.time[low - SINKS_OVER] ?? NaN,
      },
      sinksLast: { volts: voltAt(low - 1) - own, since: volts?.time[low - 1] ?? NaN },
      highestV: volts ? highestBefore(volts, voltage, at) : NaN,
      lowShare: volts ? shareBelow(volts, lowest) : NaN,
      amps: amps
        ? outBefore(amps, volts && low >= 0 ? volts.time[isDip ? last : low]! : at, stepOf(amps)) +
          (isDip ? dip.moreA : 0)
        : NaN,
      shown: reading ? valueBefore(reading, 'soc', at, stepOf(reading)) : NaN,
      shownBefore: reading
        ? highest(SHOWN_BEFORE.map((ago) => valueBefore(reading, 'soc', at - ago, stepOf(reading))))
        : NaN,
      shownFalls: reading ? fallBefore(reading, at, stepOf(reading)) : NaN,
      held: held.percent,
      deviation: held.deviation,
      celsius: heat ? valueBefore(heat, 'battery_temperature', at, stepOf(heat)) : NaN,
      lowestV: cell.volts,
      meanV: cell.mean,
      lowestCell: cell.name,
    };
  };
}

/** NaN where none is known. */
const highest = (values: readonly number[]): number => quantile(values, 1);

/** What the battery truly held, %; NaN where not known. */
export const heldAt = (counting: Counting | null, at: number): number =>
  counting ? referenceAt(counting.course, at).percent : NaN;

/** The last value before a moment; NaN where the log was silent. */
function valueBefore({ time, channels }: Series, channel: Channel, at: number, step: number): number {
  const i = firstAtOrAfter(time, at) - 1;
  return i >= 0 && at - time[i]! < Math.max(10 * MINUTE, 4 * step) ? channels[channel]![i]! : NaN;
}

/** Out of the battery at a moment or just before it, A, the larger: a voltage that does not come back is as low without its load. */
function outBefore(amps: Series, at: number, step: number): number {
  return highest([at, at + 1].map((one) => -valueBefore(amps, 'battery_current', one, step)));
}

/** Mean fall of the reading from sample to sample just before; NaN where the log begins, or was silent meanwhile. */
function fallBefore({ time, channels }: Series, at: number, step: number): number {
  const i = firstAtOrAfter(time, at) - 1;
  const reading = channels.soc!;
  const isWhole = time[i]! - time[i - SINKS_OVER]! <= 2 * SINKS_OVER * step;
  return isWhole ? (reading[i - SINKS_OVER]! - reading[i]!) / SINKS_OVER : NaN;
}

/** The second value from a moment on: the first may have been read before what happens there. */
const valueAfter = ({ time, channels }: Series, channel: Channel, at: number): number =>
  channels[channel]![firstAtOrAfter(time, at) + 1] ?? NaN;

/** The sample with the lowest voltage just before a moment; -1 where the log was silent. */
function lowestBefore({ time, channels }: Series, channel: Channel, at: number, step: number): number {
  const values = channels[channel]!;
  let lowest = -1;
  // A sample at the moment itself may still be under the load.
  for (let i = firstAtOrAfter(time, at + 1) - 1; i >= 0 && at - time[i]! <= Math.max(BEFORE, 2 * step); i--)
    if (values[i]! > 1 && (lowest < 0 || values[i]! < values[lowest]!)) lowest = i;
  return lowest;
}

function highestBefore({ time, channels }: Series, channel: Channel, at: number): number {
  const from = firstAtOrAfter(time, at - LONG);
  const values = channels[channel]!;
  let most = NaN;
  for (let i = from; from > 0 && i < time.length && time[i]! < at; i++)
    if (!(values[i]! <= most)) most = values[i]!;
  return most;
}

function lowestCellBefore({ time, channels }: Series, names: readonly Channel[], at: number, step: number) {
  const found = { volts: NaN, mean: NaN, name: '' };
  for (
    let i = firstAtOrAfter(time, at + step + 1) - 1;
    i >= 0 && at - time[i]! <= Math.max(BEFORE, 2 * step);
    i--
  ) {
    let least = Infinity;
    let which = '';
    let total = 0;
    for (const name of names) {
      const volts = channels[name]![i]!;
      total += volts;
      if (volts < least) [least, which] = [volts, name];
    }
    if (!(least >= found.volts) && least > 1)
      Object.assign(found, {
        volts: least,
        mean: total / names.length,
        name: cellNumber(which) ?? '',
      });
  }
  return found;
}
