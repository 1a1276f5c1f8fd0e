/** Makes the logs of a job ready to be weighed: without their wild rows, with their holes closed, on one clock. */

import { setClock } from './clock';
import { type ClockOffset, clockOffset } from './clockOffset';
import { cellsSeenBy } from '../system/bankOf';
import type { System } from '../system/schema';
import { withoutHoles } from './holes';
import { heldBetween } from './onChange';
import { timelineOf, type Timeline } from './timeline';
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
  /** What was left out of which log. */
  wild: WildRows[];
  /** Devices whose logs are written when something changes. */
  onChange: string[];
}

/** The log that the others are held against: the monitor's, else the BMS's, else the first. */
export const referenceLog = <Log extends { device: string }>(series: readonly Log[]): Log | undefined =>
  series.find((one) => one.device === 'monitor') ?? series.find((one) => one.device === 'bms') ?? series[0];

/** @param system tells which logs see the same cells: the halves of a bank have no voltage in common to hold two clocks together by */
export function alignClocks(
  logged: Timeline,
  system?: Pick<System, 'sources' | 'monitor' | 'bank'>,
): Aligned {
  const { timeline, wild, onChange } = madeReady(logged, system?.bank.capacityAh ?? null);
  const sees = (device: string) => (system ? cellsSeenBy(system, device) : 'bank');
  const clocks: FoundClock[] = [];
  const series = timeline.series.map((one) => {
    const reference = referenceLog(timeline.series.filter(({ device }) => sees(device) === sees(one.device)));
    if (!reference || one.device === reference.device) return one;
    const offset = clockOffset(reference, one);
    if (!offset?.sure) return one;
    clocks.push({ device: one.device, against: reference.device, offset });
    const { ms, secondsPerDay } = offset;
    return {
      ...one,
      time: setClock(one.time, null, { timeZone: 'UTC', offsetSeconds: ms / 1000, secondsPerDay }),
    };
  });
  return { ...(clocks.length > 0 ? timelineOf(series) : timeline), clocks, wild, onChange };
}

/** Each log without its wild rows, and with every channel in every row in which it was known. */
function madeReady(
  timeline: Timeline,
  capacityAh: number | null,
): { timeline: Timeline; wild: WildRows[]; onChange: string[] } {
  const wild: WildRows[] = [];
  const onChange: string[] = [];
  const series = timeline.series.map((one) => {
    const sane = withoutWildRows(one, capacityAh);
    if (sane.wild) wild.push(sane.wild);
    const held = heldBetween(sane.series);
    if (held) onChange.push(one.device);
    return held ?? withoutHoles(sane.series);
  });
  const isSame = series.every((one, k) => one === timeline.series[k]);
  return { timeline: isSame ? timeline : { ...timeline, series }, wild, onChange };
}
