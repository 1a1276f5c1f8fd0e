/** From a log file's bytes to a Series: recognition, what the sender says of the columns, and the reader joined. */

import type { LogAnswers } from './answers';
import { isReadChannel, type ReadChannel } from './channels';
import { type Clock, setClock } from './clock';
import { csvReader, type CsvResult, type ReadPlan } from './readCsv';
import { PART, partsOf, settleDateOrder } from './dateOrder';
import { type DeviceKind, type Given, HEAD_BYTES, type LogReading, recognise } from './recognise';
import { NotALog } from './sniff';
import type { DateOrder, TimeFormat } from './timeFormat';

/** What a column is said to be. */
export interface NamedColumn {
  channel: string;
  scale?: number | undefined;
  offset?: number | undefined;
  invert?: boolean | undefined;
  /** Words of the log for stages: `{ "Lade 2": "absorption" }`. */
  words?: Record<string, string> | undefined;
}

/** What is told about a log beside its bytes, in a bundle or on the confirmation screen. Everything but the device may be left out. */
export interface LogDescription extends LogAnswers {
  device: string;
  timeZone?: string | undefined;
  clockOffsetSeconds?: number | undefined;
  /** What the clock loses a day, s. */
  clockDriftSecondsPerDay?: number | undefined;
  dateOrder?: DateOrder | undefined;
  /** When the first row was written, ISO 8601: for times that count from a start. */
  startAt?: string | undefined;
  dialect?: { delimiter?: string | undefined; decimalChar?: string | undefined } | undefined;
  /** By heading. A heading that is not named here is left out once any is named. */
  columns?: Record<string, NamedColumn> | undefined;
}

/**
 * Settles how a log is to be read.
 * @throws NotALog with a sentence that names the column when something is uncertain and not told.
 */
export function planReading(reading: LogReading, description: LogDescription, timeZone: string): ReadPlan {
  const { columns: told } = description;
  const plan: ReadPlan['columns'] = [];
  let timeColumn = -1;
  if (told) {
    const headings = new Map(reading.columns.map((column) => [column.heading, column]));
    for (const [heading, { channel, scale = 1, offset = 0, invert = false, words }] of Object.entries(told)) {
      const column = headings.get(heading);
      if (!column)
        throw new NotALog(
          `The log has no column "${heading}". Its columns are: ${[...headings.keys()].map((one) => `"${one}"`).join(', ')}.`,
        );
      if (channel === 'time') timeColumn = column.index;
      else if (isReadChannel(channel))
        plan.push({
          index: column.index,
          channel,
          heading,
          scale,
          offset,
          invert,
          ...(words ? { words } : {}),
        });
      else throw new NotALog(`Column "${heading}" is said to be "${channel}", which is not a channel.`);
    }
  } else {
    for (const column of reading.columns) {
      if (column.sure === 'ask' && column.role !== 'time')
        throw new NotALog(column.question ?? `What is column "${column.heading}"? Say so in "columns".`);
      const { index, heading, role, scale, offset, invert } = column;
      if (role !== null && role !== 'time')
        plan.push({ index, channel: role as ReadChannel, heading, scale, offset, invert });
    }
  }
  if (timeColumn < 0) timeColumn = reading.columns.find((column) => column.role === 'time')?.index ?? -1;
  if (timeColumn < 0 || reading.time === null)
    throw new NotALog('No column with times was recognised. Choose it.');
  if (plan.length === 0)
    throw new NotALog(
      'Times were found, but no column that is a voltage, a current or a temperature. Say what the columns are.',
    );
  const twice = plan.find((one, i) => plan.findIndex((other) => other.channel === one.channel) < i);
  if (twice)
    throw new NotALog(`Two columns are said to be ${twice.channel.replace(/_/g, ' ')}: keep one of them.`);
  const { timeFormat, startMs } = settleTime(reading, timeColumn, description);
  return {
    device: description.device,
    dialect: reading.dialect,
    timeColumn,
    timeFormat,
    ...(startMs === undefined ? {} : { startMs }),
    timeZone: description.timeZone ?? timeZone,
    ...(description.strayRows ? { strayRows: description.strayRows } : {}),
    columns: plan,
  };
}

/** What the reading could not tell of the times is taken from the description. @throws NotALog when it is not told either */
function settleTime(
  { time, columns }: LogReading,
  timeColumn: number,
  { dateOrder, startAt }: LogDescription,
): { timeFormat: TimeFormat; startMs?: number } {
  const { format, ask } = time!;
  const { heading } = columns[timeColumn]!;
  if ('order' in format && dateOrder) return { timeFormat: { ...format, order: dateOrder } };
  if (ask === 'order')
    throw new NotALog(
      `In "${heading}", day and month cannot be told apart: say whether it is day first or month first.`,
    );
  if (ask !== 'start') return { timeFormat: format };
  const startMs = startAt === undefined ? NaN : Date.parse(startAt);
  if (startMs !== startMs)
    throw new NotALog(
      `"${heading}" counts from a start that the log does not tell: say when the first row was written (startAt, such as 2026-09-21T06:30:00Z).`,
    );
  return { timeFormat: format, startMs };
}

/** The clock that a log is said to have been written by. */
export const clockOf = (
  { clockOffsetSeconds = 0, clockDriftSecondsPerDay = 0 }: LogDescription,
  { timeZone }: ReadPlan,
): Clock => ({ timeZone, offsetSeconds: clockOffsetSeconds, secondsPerDay: clockDriftSecondsPerDay });

/** Two rows are the least that can be a log. */
export const tooFewRows = ({ series, rows, problems }: CsvResult): string =>
  `Only ${series.time.length} of ${rows} rows could be read.${problems[0] ? ` Line ${problems[0].line}: ${problems[0].reason}` : ''}`;

/** What is told of a log before it is looked at. */
export const givenOf = ({ dialect, columns }: LogDescription): Given => {
  const timeHeading = Object.entries(columns ?? {}).find(([, column]) => column.channel === 'time')?.[0];
  return {
    ...(dialect?.delimiter ? { delimiter: dialect.delimiter } : {}),
    ...(dialect?.decimalChar ? { decimalChar: dialect.decimalChar } : {}),
    ...(timeHeading === undefined ? {} : { timeHeading }),
  };
};

/** A log as it was read, and the clock by which its times are to be set. */
export interface ReadLog extends CsvResult {
  plan: ReadPlan;
  clock: Clock;
}

/** Reads a whole file that is already in memory; the times stay as they were read. @throws NotALog */
export function readLog(
  bytes: Uint8Array,
  kind: DeviceKind,
  description: LogDescription,
  timeZone: string,
): ReadLog {
  const reading = settleDateOrder(
    recognise(bytes.subarray(0, HEAD_BYTES), kind, givenOf(description)),
    partsOf(bytes.length).map((at) => bytes.subarray(at, at + PART)),
  );
  const plan = planReading(reading, description, timeZone);
  const reader = csvReader(plan);
  for (let from = 0; from < bytes.length; from += 1 << 20)
    reader.push(bytes.subarray(from, from + (1 << 20)));
  const result = reader.end();
  if (result.series.time.length < 2) throw new NotALog(tooFewRows(result));
  return { ...result, plan, clock: clockOf(description, plan) };
}

/** Reads a whole file that is already in memory, its times set by its clock. @throws NotALog */
export function takeInLog(...args: Parameters<typeof readLog>): ReadLog {
  const read = readLog(...args);
  // The zone was minded when it was read.
  return { ...read, series: { ...read.series, time: setClock(read.series.time, null, read.clock) } };
}
