/** Can the voltages be believed: against each other, and against a current that moves while they do not? */

import { fitLine, median, quantile } from '../../quantity/numbers';
import { HOUR, lengthOf, type Span } from '../../quantity/span';
import { duration, volts as asVolts } from '../../quantity/text';
import { blocksInSeries, isLead } from '../../system/chemistry';
import type { Series } from '../channels';
import { voltsOf } from '../clockOffset';
import { cellStart, firstAtOrAfter, gapLimit, medianStep } from '../grid';
import { anyLogWith, type Timeline } from '../timeline';
import { onOneGrid } from './currents';
import { deviceName, type TrustInput, type TrustNote } from './note';

/** V per 12 V block that two meters may differ by a constant. */
const AGREE = 0.12;

/** A charger and the battery's meter differ by a constant once what the path drops is taken off. */
export function voltageDisagrees({ timeline, system, bank }: TrustInput): TrustNote[] {
  if (!bank) return [];
  const battery = anyLogWith(timeline, 'battery_voltage');
  if (!battery) return [];
  const blocks = blocksInSeries(bank);
  return system.sources.flatMap(({ id, across }): TrustNote[] => {
    const own = timeline.series.find((one) => one.device === id && one.channels.source_voltage);
    if (!own || own === battery || (across ?? 'bank') !== 'bank') return [];
    const { x, y, grid } = onOneGrid(
      own,
      own.channels.source_voltage!,
      battery,
      battery.channels.battery_voltage!,
    );
    const current = own.channels.source_current
      ? onOneGrid(own, own.channels.source_current, battery, battery.channels.battery_voltage!).x
      : null;
    const difference: number[] = [];
    const amps: number[] = [];
    for (let i = 0; i < x.length; i++) {
      const d = x[i]! - y[i]!;
      const a = current ? current[i]! : 0;
      if (d !== d || a !== a || Math.abs(d) > blocks) continue;
      difference.push(d);
      amps.push(a);
    }
    if (difference.length < 60) return [];
    const { intercept, residualDeviation } = fitLine(amps, difference);
    const constant = Number.isFinite(intercept)
      ? intercept
      : difference.reduce((a, b) => a + b, 0) / difference.length;
    // Clocks apart make the difference scatter: then it is no constant.
    if (Math.abs(constant) <= AGREE * blocks || residualDeviation > Math.abs(constant)) return [];
    // A constant is there at the smallest currents too: a few samples between on and off bend a line, and move its end far.
    const least = quantile(amps, 0.25);
    const there = median(difference.filter((_, i) => amps[i]! <= least));
    if (!(Math.sign(constant) * there > AGREE * blocks)) return [];
    return [
      {
        code: 'voltage-disagrees',
        devices: [id, battery.device],
        text: `${deviceName(system, id)} reads ${asVolts(Math.abs(constant))} ${constant > 0 ? 'more' : 'less'} than ${deviceName(system, battery.device)} with no current flowing: one of the two meters is off.`,
        spans: [{ from: grid.from, to: cellStart(grid, grid.count) }],
      },
    ];
  });
}

/** Share of the capacity after which the voltage must have moved, coarse meters and the flat curve of lithium allowed for. */
const STUCK_SHARE = { lead: 0.25, lithium: 0.6 };

/** A value must stand still at least so long, and in so many samples. */
const STILL = { ms: 3 * HOUR, samples: 30 };

/** A voltage that does not move while the battery gives a good part of its charge, or a current that does not while the battery is cycled. */
export function stuckValue({ timeline, system, bank }: TrustInput): TrustNote[] {
  if (!bank) return [];
  const blocks = blocksInSeries(bank);
  return timeline.series.flatMap((series): TrustNote[] => {
    const { battery_voltage: volts, battery_current: amps } = series.channels;
    if (!volts || !amps) return [];
    const name = deviceName(system, series.device);
    const told = (what: string, although: string, runs: Run[]): TrustNote[] =>
      runs.length > 0 ? [noteOf(series, name, what, although, runs)] : [];
    const stillVolts = standing(series, volts);
    const stillAmps = standing(series, amps);
    const both = bothStill(stillVolts, stillAmps).filter(
      (run) =>
        // A battery that is switched off stands still by right, whatever a charger beyond the switch does.
        (amps[run.first] !== 0 && othersMove(timeline, series, run, 0.5 * blocks)) ||
        countGoesOn(series, amps, run, bank.capacityAh),
    );
    const voltsOnly = stillVolts.filter(
      ({ first, last, from, to }) =>
        !both.some((run) => run.from < to && run.to > from) &&
        drawn(series, amps, first, last) >
          STUCK_SHARE[isLead(bank.chemistry) ? 'lead' : 'lithium'] * bank.capacityAh,
    );
    const ampsOnly = stillAmps.filter(
      ({ first, last }) => amps[first] !== 0 && cycled(volts, first, last, 0.5 * blocks),
    );
    return [
      ...told('voltage and current', 'although the battery was charged or drawn on meanwhile', both),
      ...told('voltage', 'although the battery gave a good part of its capacity', voltsOnly),
      ...told('current', 'although the voltage rose and fell', ampsOnly),
    ];
  });
}

/** Where both stand still for long. */
function bothStill(volts: readonly Run[], amps: readonly Run[]): Run[] {
  return volts.flatMap((one) =>
    amps.flatMap((other) => {
      const first = Math.max(one.first, other.first);
      const last = Math.min(one.last, other.last);
      const run = { first, last, from: Math.max(one.from, other.from), to: Math.min(one.to, other.to) };
      return last - first + 1 >= STILL.samples && run.to - run.from >= STILL.ms ? [run] : [];
    }),
  );
}

/** Whether another device saw the voltage rise and fall by so much meanwhile. */
function othersMove({ series }: Timeline, own: Series, run: Run, by: number): boolean {
  return series.some((one) => {
    const volts = voltsOf(one);
    if (one.device === own.device || !volts) return false;
    const first = firstAtOrAfter(one.time, run.from);
    const last = firstAtOrAfter(one.time, run.to) - 1;
    return last - first + 1 >= STILL.samples && cycled(volts, first, last, by);
  });
}

/** Share of the capacity by which a count must part from a current that stands still. */
const COUNTED_SHARE = 0.1;

/** Whether the device's own count of charge went on otherwise than the current that it shows. */
function countGoesOn({ time, channels }: Series, amps: Float32Array, run: Run, capacityAh: number): boolean {
  const { consumed_charge: consumed, soc } = channels;
  const hours = (time[run.last]! - time[run.first]!) / HOUR;
  const shown = amps[run.first]! * hours;
  const moved = (values: Float32Array | undefined, scale: number) => {
    const counted = values ? (values[run.last]! - values[run.first]!) * scale : NaN;
    // At its ends a count stands although current flows.
    return (
      Math.abs(counted) > COUNTED_SHARE * capacityAh && Math.abs(counted - shown) > Math.abs(counted) / 2
    );
  };
  // Whichever sign a device gives to what was consumed.
  return (moved(consumed, 1) && moved(consumed, -1)) || moved(soc, capacityAh / 100);
}

interface Run extends Span {
  first: number;
  last: number;
}

function standing({ time }: Series, values: Float32Array): Run[] {
  const runs: Run[] = [];
  const limit = gapLimit(medianStep(time));
  let first = 0;
  for (let i = 1; i <= time.length; i++) {
    const on = i < time.length && values[i] === values[first] && time[i]! - time[i - 1]! <= limit;
    if (on) continue;
    if (i - first >= STILL.samples && time[i - 1]! - time[first]! >= STILL.ms)
      runs.push({ from: time[first]!, to: time[i - 1]!, first, last: i - 1 });
    first = i;
  }
  return runs;
}

/** Ah that went out between two samples. */
function drawn({ time }: Series, amps: Float32Array, first: number, last: number): number {
  let out = 0;
  for (let i = first + 1; i <= last; i++) {
    const middle = (amps[i]! + amps[i - 1]!) / 2;
    if (middle < 0) out -= (middle * (time[i]! - time[i - 1]!)) / HOUR;
  }
  return out;
}

/** Did a value rise and fall by so much? */
function cycled(values: Float32Array, first: number, last: number, by: number): boolean {
  let low = Infinity;
  let high = -Infinity;
  let rose = false;
  let fell = false;
  for (let i = first; i <= last; i++) {
    const value = values[i]!;
    if (value !== value) continue;
    if (value < low) low = value;
    if (value > high) high = value;
    if (value - low >= by) rose = true;
    if (high - value >= by) fell = true;
  }
  return rose && fell;
}

function noteOf(series: Series, of: string, what: string, although: string, runs: Run[]): TrustNote {
  const longest = Math.max(...runs.map(lengthOf));
  return {
    code: 'stuck-value',
    devices: [series.device],
    text: `The ${what} in the log of ${of} ${what.includes(' and ') ? 'stand' : 'stands'} still for up to ${duration(longest)}, ${although}: ${what.includes(' and ') ? 'they were' : 'it was'} not measured there.`,
    spans: runs.map(({ from, to }) => ({ from, to })),
  };
}
