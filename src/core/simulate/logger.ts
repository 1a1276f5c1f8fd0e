/** What a logger makes of the truth: its own sampling, gain, offset, noise, quantum, headings and clock format. */

import { DAY, MINUTE } from '../quantity/span';
import { type Channel, REPORTED_STAGES, type Series } from '../log/channels';
import { zoneOffsetMinutes } from '../log/localTime';
import type { Random } from './random';

export interface LoggedColumn {
  heading: string;
  channel: Channel;
  /** The file holds value / scale: 0.001 writes mV. */
  scale?: number;
  quantum: number;
  noise?: number;
  gain?: number;
  offset?: number;
}

export interface LoggerSpec {
  everySeconds: number;
  timeHeading: string;
  /** 'utc' writes RFC 3339; 'local' the site's clock as 2026-09-21 06:30:00; 'local-dmy' as 21/09/2026 06:30. */
  timeStyle: 'utc' | 'local' | 'local-dmy';
  timeZone: string;
  delimiter: ',' | ';' | '\t';
  decimalChar: '.' | ',';
  preamble?: string[];
  columns: LoggedColumn[];
  /** Chance per sample that the logger loses its next half hour. */
  gapChance?: number;
}

/** The log as the file that the technician brings home. */
export function writeLog(truth: Series, spec: LoggerSpec, random: Random): string {
  const { time } = truth;
  const stride = Math.max(1, Math.round((spec.everySeconds * 1000) / (time[1]! - time[0]!)));
  const lines = [
    ...(spec.preamble ?? []),
    [spec.timeHeading, ...spec.columns.map((c) => c.heading)].join(spec.delimiter),
  ];
  let silentUntil = -Infinity;
  for (let i = 0; i < time.length; i += stride) {
    const ms = time[i]!;
    if (spec.gapChance && random.next() < spec.gapChance) silentUntil = ms + 30 * MINUTE;
    if (ms < silentUntil) continue;
    const cells = spec.columns.map((column) =>
      cellOf(truth.channels[column.channel]![i]!, column, spec, random),
    );
    lines.push([timeText(ms, spec), ...cells].join(spec.delimiter));
  }
  return lines.join('\n') + '\n';
}

function cellOf(value: number, column: LoggedColumn, spec: LoggerSpec, random: Random): string {
  if (column.channel === 'source_stage') return REPORTED_STAGES[value] ?? '';
  if (value !== value) return '';
  const measured =
    value * (column.gain ?? 1) + (column.offset ?? 0) + (column.noise ? random.normal(0, column.noise) : 0);
  const scale = column.scale ?? 1;
  const steps = Math.round(measured / column.quantum);
  const digits = Math.max(0, Math.ceil(-Math.log10(column.quantum / scale) - 1e-9));
  const text = ((steps * column.quantum) / scale).toFixed(digits);
  return spec.decimalChar === ',' ? text.replace('.', ',') : text;
}

const two = (value: number): string => (value < 10 ? `0${value}` : String(value));

function timeText(ms: number, spec: LoggerSpec): string {
  const local = spec.timeStyle === 'utc' ? ms : ms + zoneOffsetMinutes(spec.timeZone, ms) * MINUTE;
  const date = new Date(local);
  const day = [date.getUTCFullYear(), two(date.getUTCMonth() + 1), two(date.getUTCDate())];
  const minutes = Math.floor((local % DAY) / MINUTE);
  const clock = `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
  const seconds = two(Math.floor((local % MINUTE) / 1000));
  if (spec.timeStyle === 'local-dmy') return `${day.reverse().join('/')} ${clock}`;
  return spec.timeStyle === 'utc'
    ? `${day.join('-')}T${clock}:${seconds}Z`
    : `${day.join('-')} ${clock}:${seconds}`;
}
