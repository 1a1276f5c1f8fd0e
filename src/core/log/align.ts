/** Makes the logs of a job ready to be weighed: without their wild rows, with their holes closed, on one clock. */

import type { Span } from '../quantity/span';
import { type Series, spanOf } from './channels';
import { type Clock, setClock } from './clock';
import { type ClockOffset, clockOffset } from './clockOffset';
import { cellsSeenBy } from '../system/bankOf';
import { bankOhms } from '../system/sag';
import type { System } from '../system/schema';
import { withoutHoles } from './holes';
import { heldBetween } from './onChange';
import { timelineOf, type Timeline } from './timeline';
import type { Possible } from './wildCurrents';
import { type WildRows, withoutWildRows } from './wildRows';

/** A log whose clock was found to be off. */
export interface FoundClock {
  device: string;
  /** The device whose clock it was held against. */
  against: string;
  offset: ClockOffset;
}

export interface Aligned extends Timeline {
  /** What was found and set right; empty when the clocks agree, or nothing sure can be said. */
  clocks: FoundClock[];
  /** What was left out of which log, by the clocks as they are set. */
  wild: WildRows[];
  /** Logs that are written when something changes. */
  onChange: { device: string; span: Span }[];
}

/** The log that the others are held against: the monitor's, else the BMS's, else the first. */
export const referenceLog = <Log extends { device: string }>(series: readonly Log[]): Log | undefined =>
  series.find((one) => one.device === 'monitor') ?? series.find((one) => one.device === 'bms') ?? series[0];

/** @param system tells which logs see the same cells: the halves of a bank have no voltage in common to hold two clocks together by */
export function alignClocks(
  logged: Timeline,
  system?: Pick<System, 'sources' | 'monitor' | 'bank'>,
): Aligned {
  const ready = logged.series.map((one) => madeReady(one, system ? possibleIn(one.device, system) : null));
  const sees = (device: string) => (system ? cellsSeenBy(system, device) : 'bank');
  const clocks: FoundClock[] = [];
  const set = ready.map((one): Ready => {
    const { series } = one;
    const reference = referenceLog(
      ready.map((other) => other.series).filter(({ device }) => sees(device) === sees(series.device)),
    );
    if (!reference || series.device === reference.device) return one;
    const offset = clockOffset(reference, series);
    if (!offset?.sure) return one;
    clocks.push({ device: series.device, against: reference.device, offset });
    return onClock(one, {
      timeZone: 'UTC',
      offsetSeconds: offset.ms / 1000,
      secondsPerDay: offset.secondsPerDay,
    });
  });
  const isAsLogged = set.every(({ series }, k) => series === logged.series[k]);
  return {
    ...(isAsLogged ? logged : timelineOf(set.map(({ series }) => series))),
    clocks,
    wild: set.flatMap(({ wild }) => wild ?? []),
    onChange: set
      .filter(({ isOnChange }) => isOnChange)
      .map(({ series }) => ({ device: series.device, span: spanOf(series) })),
  };
}

/** A log without its wild rows, and with every channel in every row in which it was known. */
interface Ready {
  series: Series;
  wild: WildRows | null;
  isOnChange: boolean;
}

/** Null where the capacity is not known. */
function possibleIn(device: string, system: Pick<System, 'bank' | 'sources' | 'monitor'>): Possible | null {
  const { capacityAh, chemistry, cellsInSeries } = system.bank;
  if (capacityAh === undefined) return null;
  const ohms = chemistry && cellsInSeries ? bankOhms({ chemistry, cellsInSeries, capacityAh }) : null;
  const part = cellsSeenBy(system, device) === 'bank' ? 1 : 0.5;
  const ratedA = system.sources.find((one) => one.id === device)?.ratedA ?? null;
  return { capacityAh, ohms: ohms && part * ohms, ratedA };
}

function madeReady(logged: Series, possible: Possible | null): Ready {
  const { series, wild } = withoutWildRows(logged, possible);
  const held = heldBetween(series);
  return { series: held ?? withoutHoles(series), wild, isOnChange: held !== null };
}

/** The log and its wild rows by another clock, whose drift counts from the first time of the log. */
function onClock({ series, wild, isOnChange }: Ready, clock: Clock): Ready {
  const timeOf = (ms: number): number => setClock(Float64Array.of(series.time[0]!, ms), null, clock)[1]!;
  return {
    series: { ...series, time: setClock(series.time, null, clock) },
    wild: wild && {
      ...wild,
      spans: wild.spans.map(({ from, to }) => ({ from: timeOf(from), to: timeOf(to) })),
    },
    isOnChange,
  };
}
