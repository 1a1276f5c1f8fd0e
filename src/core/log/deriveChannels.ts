/** Turns what some logs write instead of channels into channels: power over voltage, charge and discharge into one current, halves into the bank. */

import type { Channel, RawChannel, ReadChannel } from './channels';

type Columns = Partial<Record<ReadChannel, Float32Array>>;

export interface Derived {
  channels: Partial<Record<Channel, Float32Array>>;
  /** What could not be used, a sentence each. */
  notes: string[];
}

/** Below this voltage a power says nothing of the current, V. */
const LEAST_VOLTS = 1;

export function deriveChannels(columns: Columns): Derived {
  const channels: Columns = { ...columns };
  const notes: string[] = [];
  const take = (name: RawChannel): Float32Array | undefined => {
    const column = channels[name];
    delete channels[name];
    return column;
  };

  const into = take('battery_charge_current');
  // What the loads draw, where that is what was logged beside it.
  const outOf = take('battery_discharge_current') ?? (into && channels.load_current);
  if ((into || outOf) && !channels.battery_current) {
    const length = (into ?? outOf)!.length;
    // Each column is written without sign by most loggers; where it has one, its size is what counts.
    const size = (column: Float32Array | undefined, i: number) => {
      const value = column?.[i];
      return value === undefined || value !== value ? (column ? NaN : 0) : Math.abs(value);
    };
    channels.battery_current = Float32Array.from({ length }, (_, i) => {
      const a = size(into, i);
      const b = size(outOf, i);
      // A logger that leaves the idle direction empty means nothing by it.
      return a !== a && b !== b ? NaN : (a === a ? a : 0) - (b === b ? b : 0);
    });
  }

  const upper = take('upper_half_voltage');
  const { midpoint_voltage: lower, battery_voltage: whole } = channels;
  if (upper && lower && !whole) channels.battery_voltage = upper.map((volts, i) => volts + lower[i]!);
  if (upper && whole && !lower) channels.midpoint_voltage = whole.map((volts, i) => volts - upper[i]!);
  if (upper && !whole && !lower)
    notes.push(
      'The voltage of the upper half was not used: with no other voltage beside it, it does not give the bank.',
    );

  for (const [power, current, voltages] of [
    ['battery_power', 'battery_current', ['battery_voltage', 'source_voltage']],
    ['source_power', 'source_current', ['source_voltage', 'battery_voltage']],
    ['load_power', 'load_current', ['load_voltage', 'battery_voltage', 'source_voltage']],
  ] as const) {
    const watts = take(power);
    if (!watts || channels[current]) continue;
    const volts = voltages.map((name) => channels[name]).find((one) => one !== undefined);
    if (!volts) {
      notes.push(`${power.replace('_', ' ')} was not used: without a voltage beside it no current follows.`);
      continue;
    }
    channels[current] = watts.map((one, i) => (volts[i]! >= LEAST_VOLTS ? one / volts[i]! : NaN));
  }
  return { channels: channels as Partial<Record<Channel, Float32Array>>, notes };
}
