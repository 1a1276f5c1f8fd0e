/** A span laid over another: by the clock, or by the start of the charge. */

import { DateTime } from 'luxon';
import type { Measured } from '@/core/log/measure';
import { ampHours, amps, duration, trueMinus, volts, withSign } from '@/core/quantity/text';
import { DAY, HOUR, type Span } from '@/core/quantity/span';
import type { DiagnosisCharge } from '@/core/diagnosis/result';
import type { System } from '@/core/system/schema';
import { deviceName } from '@/core/system/sourceName';

/** What is laid over began so much earlier, ms (later where it is negative). */
export type Offset = number;

/** The same hours so many days before, by the clock of the site: an hour of daylight saving does not move them. */
export function daysBefore(ms: number, days: number, zone: string): Offset {
  return ms - DateTime.fromMillis(ms, { zone }).minus({ days }).toMillis();
}

/** The same hour of another day. @param date yyyy-mm-dd; null where it is none */
export function offsetToDay(ms: number, date: string, zone: string): Offset | null {
  const now = DateTime.fromMillis(ms, { zone });
  const then = DateTime.fromISO(date, { zone });
  if (!then.isValid) return null;
  const moved = then.set({
    hour: now.hour,
    minute: now.minute,
    second: now.second,
    millisecond: now.millisecond,
  });
  return ms - moved.toMillis();
}

/** From the charge in view to another of the same source, start to start; null where there is none. @param by −1 the one before, +1 the one after */
export function offsetToCharge(
  charges: readonly DiagnosisCharge[],
  view: Span,
  by: -1 | 1,
): { offset: Offset; to: number } | null {
  const starts = charges.map((one) => ({ ...one, start: Date.parse(one.from), end: Date.parse(one.to) }));
  const inView = starts
    .filter((one) => one.end > view.from && one.start < view.to)
    .sort((a, b) => overlap(b, view) - overlap(a, view))[0];
  if (!inView) return null;
  const same = starts.filter((one) => one.source === inView.source).sort((a, b) => a.start - b.start);
  const other = same[same.findIndex((one) => one.start === inView.start) + by];
  return other ? { offset: inView.start - other.start, to: other.start } : null;
}

const overlap = (one: { start: number; end: number }, view: Span): number =>
  Math.min(one.end, view.to) - Math.max(one.start, view.from);

/** Charges of the other span, moved to where they are drawn. */
export const movedBy = (charges: readonly DiagnosisCharge[], offset: Offset): DiagnosisCharge[] =>
  charges.map((one) => {
    const moved = (iso: string) => new Date(Date.parse(iso) + offset).toISOString();
    return {
      ...one,
      from: moved(one.from),
      to: moved(one.to),
      stages: one.stages.map((stage) => ({ ...stage, from: moved(stage.from), to: moved(stage.to) })),
    };
  });

export interface ComparedRow {
  name: string;
  now: string;
  then: string;
  difference: string;
}

interface Figure {
  name: string;
  value: number;
  text(value: number): string;
}

const wattHours = (value: number): string => `${value.toFixed(0)} Wh`;
const points = (value: number): string => `${value.toFixed(1)} %`;
const millivolts = (value: number): string => `${(1000 * value).toFixed(0)} mV`;

function figuresOf({ battery, volts: ends, percents, sources, spread }: Measured, system: System): Figure[] {
  const nameOf = (id: string) => deviceName(system, id);
  return [
    ...(battery
      ? [
          { name: 'Into the battery', value: battery.ampHoursIn, text: ampHours },
          { name: 'Out of it', value: battery.ampHoursOut, text: ampHours },
          { name: 'Net', value: battery.ampHoursIn - battery.ampHoursOut, text: ampHours },
          { name: 'Energy in', value: battery.wattHoursIn, text: wattHours },
          { name: 'Energy out', value: battery.wattHoursOut, text: wattHours },
          { name: 'Mean current', value: battery.meanAmps, text: amps },
          { name: 'Peak current', value: battery.peakAmps, text: amps },
        ]
      : []),
    { name: 'Battery voltage at the start', value: ends.from, text: volts },
    { name: 'Battery voltage at the end', value: ends.to, text: volts },
    ...percents.flatMap((one) => [
      { name: `Percentage at the start, ${nameOf(one.device)}`, value: one.from, text: points },
      { name: `Percentage at the end, ${nameOf(one.device)}`, value: one.to, text: points },
    ]),
    ...sources.map((one) => ({
      name: `Given, ${nameOf(one.device)}`,
      value: one.ampHours,
      text: ampHours,
    })),
    ...(spread
      ? [
          { name: 'Cells apart at the start', value: spread.from, text: millivolts },
          { name: 'Cells apart at the end', value: spread.to, text: millivolts },
        ]
      : []),
  ];
}

/** The figures of two spans side by side; what only one of them has stands alone. */
export function comparedRows(now: Measured, then: Measured, system: System): ComparedRow[] {
  const before = new Map(figuresOf(then, system).map((one) => [one.name, one.value]));
  return figuresOf(now, system).map(({ name, value, text }) => {
    const old = before.get(name) ?? NaN;
    const shown = (one: number) => (Number.isFinite(one) ? trueMinus(text(one)) : '–');
    return {
      name,
      now: shown(value),
      then: shown(old),
      difference: Number.isFinite(value - old) ? withSign(text(value - old)) : '–',
    };
  });
}

/** "a day earlier", "29 h 30 min later". */
export function offsetText(offset: Offset): string {
  const whole = Math.abs(offset);
  const days = Math.round(whole / DAY);
  const way = offset >= 0 ? 'earlier' : 'later';
  // An hour more or less is daylight saving.
  if (days > 0 && Math.abs(whole - days * DAY) <= HOUR)
    return `${days === 1 ? 'a day' : days === 7 ? 'a week' : `${days} days`} ${way}`;
  return `${duration(whole)} ${way}`;
}
