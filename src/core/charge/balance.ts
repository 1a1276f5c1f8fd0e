/** Charge in and out of the battery over the log, between states that are known: what was put back for what was taken. */

import { median } from '../quantity/numbers';
import { DAY, type Span } from '../quantity/span';
import { integrate } from '../log/grid';
import { anyLogWith, batteryCurrent, type BatteryCurrent, type Timeline } from '../log/timeline';
import { blocksInSeries, CHEMISTRY, isLead, type Range } from '../system/chemistry';
import type { KnownBank, KnownSystem } from '../system/known';
import { restPercent } from '../system/restVoltage';
import type { SourceCharging } from './types';

export interface Balance extends Span {
  between: 'full charges' | 'ends of the log';
  ampHoursIn: number;
  ampHoursOut: number;
  /** State of charge at both ends, %, NaN where nothing tells it. */
  startPercent: number;
  endPercent: number;
  /** In over out, what is stored between the ends taken off; NaN where the ends are not known. */
  returned: number;
  /** What meters and unknown ends leave open of it, one way. */
  returnedBand: number;
  /** What the chemistry needs, from that to that. */
  needs: Range;
}

/** Ah that must go through, in parts of the capacity, before a ratio says anything. */
const LEAST_THROUGH = 0.5;
/** Currents at which a battery's voltage still tells its state, parts of the capacity: drawn, and taken. */
const CALM = { drawn: 0.02, taken: 0.003 };
const LEAST_CALM_SAMPLES = 20;
/** Drop under a small load of hours, V a 12 V block, for a current of the whole capacity. */
const DROP = 5;
/** Zero error of a meter, parts of the capacity in A, and of a state that the voltage tells, parts of the capacity (common practice). */
const ZERO = 0.0005;
const STATE = 0.15;

/** Null without the battery's own current. */
export function balanceOf(
  system: KnownSystem,
  timeline: Timeline,
  charging: readonly SourceCharging[],
): Balance | null {
  const current = batteryCurrent(timeline);
  if (!current) return null;
  const { bank } = system;
  const fulls = charging
    .filter((one) => (one.source?.across ?? 'bank') === 'bank')
    .flatMap((one) => one.charges)
    .filter((one) => one.full)
    .map((one) => one.to)
    .sort((a, b) => a - b);
  const [first, last] = [fulls[0], fulls.at(-1)];
  const needs = CHEMISTRY[bank.chemistry].returnFactor;
  if (first !== undefined && last !== undefined && last - first > DAY) {
    const span = { from: first, to: last };
    const through = integrate(current.time, current.amps, span);
    if (through.out >= LEAST_THROUGH * bank.capacityAh)
      return {
        ...span,
        between: 'full charges',
        ampHoursIn: through.in,
        ampHoursOut: through.out,
        startPercent: 100,
        endPercent: 100,
        returned: through.in / through.out,
        returnedBand: (ZERO * bank.capacityAh * through.hours) / through.out,
        needs,
      };
  }
  const span = { from: current.time[0]!, to: current.time.at(-1)! };
  const through = integrate(current.time, current.amps, span);
  const startPercent = stateIn({ from: span.from, to: span.from + DAY }, current, timeline, bank);
  const endPercent = stateIn({ from: span.to - DAY, to: span.to }, current, timeline, bank);
  const stored = ((endPercent - startPercent) / 100) * bank.capacityAh;
  const enough = through.out >= LEAST_THROUGH * bank.capacityAh && span.to - span.from > 2 * DAY;
  return {
    ...span,
    between: 'ends of the log',
    ampHoursIn: through.in,
    ampHoursOut: through.out,
    startPercent,
    endPercent,
    returned: enough ? (through.in - stored) / through.out : NaN,
    returnedBand: ((ZERO * through.hours + STATE * Math.SQRT2) * bank.capacityAh) / through.out,
    needs,
  };
}

/** State of charge, %, by the voltage in the calm hours of a day; NaN without such hours, and for lithium, whose voltage lies flat. */
function stateIn(day: Span, { time, amps }: BatteryCurrent, timeline: Timeline, bank: KnownBank): number {
  const log = anyLogWith(timeline, 'battery_voltage');
  if (!log || log.time !== time || !isLead(bank.chemistry)) return NaN;
  const volts = log.channels.battery_voltage!;
  const rest: number[] = [];
  for (let i = 0; i < time.length; i++) {
    if (time[i]! < day.from || time[i]! > day.to) continue;
    const part = amps[i]! / bank.capacityAh;
    if (part < CALM.taken && part > -CALM.drawn)
      rest.push(volts[i]! / blocksInSeries(bank) + DROP * Math.max(0, -part));
  }
  return rest.length < LEAST_CALM_SAMPLES ? NaN : restPercent(bank.chemistry, median(rest));
}
