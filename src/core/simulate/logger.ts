/** What a logger makes of the truth: its own sampling, gain, offset, noise, quantum, headings and clock format. */

import { DAY, MINUTE, type Span } from '../quantity/span';
import { type Channel, REPORTED_STAGES, type ReportedStage, type Series } from '../log/channels';
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
  /** How the device calls its stages. */
  words?: Partial<Record<ReportedStage, string>>;
}

export interface LoggerSpec {
  everySeconds: number;
  timeHeading: string;
  /** Heading of the time of day, where date and time stand in two columns. */
  clockHeading?: string;
  /**
   * 'utc' writes RFC 3339; 'epoch' seconds since 1970; on the site's clock 'local' writes 2026-09-21 06:30:00, 'local-dmy' 21/09/2026
   * 06:30, 'local-12h' 9/21/2026 6:30:00 AM, 'local-two' 21.09.2026 and 06:30:00 in two columns.
   */
  timeStyle: 'utc' | 'epoch' | 'local' | 'local-dmy' | 'local-12h' | 'local-two';
  timeZone: string;
  /** How far its clock is ahead, and what it gains a day, s. */
  clockAheadSeconds?: number;
  clockGainsPerDay?: number;
  delimiter: ',' | ';' | '\t';
  decimalChar: '.' | ',';
  preamble?: string[];
  columns: LoggedColumn[];
  /** Chance per sample that the logger loses its next half hour. */
  gapChance?: number;
  /** When it writes nothing. */
  silences?: readonly Span[];
}

/** The log as the file that the technician brings home. */
export function writeLog(truth: Series, spec: LoggerSpec, random: Random): string {
  const { time } = truth;
  const stride = Math.max(1, Math.round((spec.everySeconds * 1000) / (time[1]! - time[0]!)));
  const lines = [
    ...(spec.preamble ?? []),
    [
      spec.timeHeading,
      ...(spec.clockHeading ? [spec.clockHeading] : []),
      ...spec.columns.map((c) => c.heading),
    ].join(spec.delimiter),
  ];
  let silentUntil = -Infinity;
  for (let i = 0; i < time.length; i += stride) {
    const ms = time[i]!;
    if (spec.gapChance && random.next() < spec.gapChance) silentUntil = ms + 30 * MINUTE;
    if (ms < silentUntil || spec.silences?.some(({ from, to }) => ms >= from && ms < to)) continue;
    const cells = spec.columns.map((column) =>
      cellOf(truth.channels[column.channel]![i]!, column, spec, random),
    );
    const shown =
      ms +
      1000 * (spec.clockAheadSeconds ?? 0) +
      ((ms - time[0]!) / DAY) * 1000 * (spec.clockGainsPerDay ?? 0);
    lines.push([...timeText(shown, spec), ...cells].join(spec.delimiter));
  }
  return lines.join('\n') + '\n';
}

function cellOf(value: number, column: LoggedColumn, spec: LoggerSpec, random: Random): string {
  if (column.channel === 'source_stage') {
    const stage = REPORTED_STAGES[value];
    return stage ? (column.words?.[stage] ?? stage) : '';
  }
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

/** One cell, or two where date and time stand apart. */
function timeText(ms: number, spec: LoggerSpec): string[] {
  if (spec.timeStyle === 'epoch') return [String(Math.floor(ms / 1000))];
  const local = spec.timeStyle === 'utc' ? ms : ms + zoneOffsetMinutes(spec.timeZone, ms) * MINUTE;
  const date = new Date(local);
  const [year, month, day] = [date.getUTCFullYear(), date.getUTCMonth() + 1, date.getUTCDate()];
  const minutes = Math.floor((local % DAY) / MINUTE);
  const [hour, minute] = [Math.floor(minutes / 60), two(minutes % 60)];
  const seconds = two(Math.floor((local % MINUTE) / 1000));
  switch (spec.timeStyle) {
    case 'utc':
      return [`${year}-${two(month)}-${two(day)}T${two(hour)}:${minute}:${seconds}Z`];
    case 'local':
      return [`${year}-${two(month)}-${two(day)} ${two(hour)}:${minute}:${seconds}`];
    case 'local-dmy':
      return [`${two(day)}/${two(month)}/${year} ${two(hour)}:${minute}`];
    case 'local-12h':
      return [`${month}/${day}/${year} ${hour % 12 || 12}:${minute}:${seconds} ${hour < 12 ? 'AM' : 'PM'}`];
    case 'local-two':
      return [`${two(day)}.${two(month)}.${year}`, `${two(hour)}:${minute}:${seconds}`];
  }
}
