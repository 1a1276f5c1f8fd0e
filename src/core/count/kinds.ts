/** The ways in which devices make a percentage, each replayed over the log: by a count, from the voltage, by a charger's own count. */

import { restPercent } from '../system/restVoltage';
import type { Chemistry } from '../system/schema';
import type { CounterLog } from './counterLog';
import { type Replay, replay } from './replay';
import type { CounterSettings } from './settings';

export type CounterKind =
  /** A sensor that the battery's current passes, or the sum of several. */
  | { by: 'count' }
  /** No count at all: the percentage that a battery at rest has at this voltage, for so many 12 V blocks in series. */
  | { by: 'voltage'; chemistry: Chemistry; blocks: number }
  /** A charger's own current; at each end of its bulk (epoch ms, in order) it is set to a fixed charge, and it knows no other full. */
  | { by: 'charger'; ends: readonly number[]; percent: number };

export function replayAs(
  kind: CounterKind,
  log: Pick<CounterLog, 'time' | 'amps' | 'volts'>,
  settings: CounterSettings,
  start: number,
  out?: Float32Array<ArrayBuffer>,
): Replay {
  if (kind.by === 'count') return replay(log, settings, start, out);
  if (kind.by === 'voltage') return fromVoltage(log, kind, start, out);
  return replay({ ...log, volts: null }, settings, start, out, kind);
}

/** Displays are slow: a percentage goes to its new value within some minutes (common practice, no source). ms */
const SLOW = 120_000;

function fromVoltage(
  { time, volts }: Pick<CounterLog, 'time' | 'volts'>,
  { chemistry, blocks }: Extract<CounterKind, { by: 'voltage' }>,
  start: number,
  out?: Float32Array<ArrayBuffer>,
): Replay {
  const reading = out ?? new Float32Array(time.length);
  let percent = start;
  for (let i = 0; i < time.length; i++) {
    const told = volts ? restPercent(chemistry, volts[i]! / blocks) : NaN;
    if (told === told)
      percent += (told - percent) * (i > 0 ? Math.min(1, (time[i]! - time[i - 1]!) / SLOW) : 0);
    reading[i] = percent;
  }
  return { reading, syncs: [] };
}
