/** Looks at the head of a text file and says how it is written: encoding, delimiter, decimal sign, where headings and data start. */

import { isNumber } from './cells';
import { numberedDate } from './writtenDate';

export interface Dialect {
  delimiter: string;
  decimalChar: '.' | ',';
  /** Index of the line with the headings; null when the file starts with data. */
  headingLine: number | null;
  /** Index of a line of units below the headings, if there is one. */
  unitLine: number | null;
  firstDataLine: number;
  /** Set where lines end in a carriage return alone. */
  loneCr?: true;
}

export class NotALog extends Error {}

/** In order of preference when two fit as well: a comma may be a decimal sign, the others may not. */
const DELIMITERS = ['\t', ';', '|', ','];
const TIMELIKE = /^\d{1,4}[-/.]\d{1,2}[-/.]\d{1,4}|^(\d+ ?d(ays?)?,? ?)?\d{1,5}:\d{2}/;

/** Splits one line at a delimiter, honouring double quotes (RFC 4180). Cells come back trimmed and unquoted. */
export function splitLine(line: string, delimiter: string): string[] {
  const cells: string[] = [];
  let cell = '';
  let quoted = false;
  for (let i = 0; i < line.length; i++) {
    const char = line[i]!;
    if (quoted) {
      if (char !== '"') cell += char;
      else if (line[i + 1] === '"') {
        cell += '"';
        i++;
      } else quoted = false;
    } else if (char === '"' && cell.trim() === '') {
      quoted = true;
      cell = '';
    } else if (char === delimiter) {
      cells.push(cell.trim());
      cell = '';
    } else cell += char;
  }
  cells.push(cell.trim());
  return cells;
}

/**
 * Finds the dialect of a delimited text log from its first lines.
 * @param head text of the first lines (a few tens of kilobytes are plenty).
 * @throws NotALog with a sentence for the user when no table of readings is found.
 */
export function sniffDialect(
  head: string,
  given: { delimiter?: string; decimalChar?: string } = {},
): Dialect {
  if (/^\s*(<!doctype html|<html|<\?xml)/i.test(head))
    throw new NotALog(
      'This is a web page, not a log. The download may have ended at a sign-in page: fetch the log again.',
    );
  if (head.includes('\0'))
    throw new NotALog(
      'This file holds binary data, not text. Export the log as CSV from the device or its software.',
    );
  const lines = head.split(/\r\n|\n|\r/).slice(0, 400);
  if (lines.every((line) => line.trim() === ''))
    throw new NotALog('This file is empty. Export the log again and check that it has readings in it.');

  const delimiter = given.delimiter ?? bestDelimiter(lines);
  const rows = lines.map((line) => splitLine(line, delimiter));
  const decimalChar =
    given.decimalChar === ',' || given.decimalChar === '.' ? given.decimalChar : decimalOf(rows, delimiter);
  const isData = rows.map((row) => looksLikeData(row, decimalChar));
  const firstDataLine = isData.findIndex(
    (data, i) => data && (isData[i + 1] || isData[i + 2] || i >= lines.length - 2),
  );
  if (firstDataLine < 0)
    throw new NotALog(
      'No rows of readings were found: a log has one line for each moment, with a time and numbers. Check that this is the right file.',
    );

  let headingLine: number | null = firstDataLine - 1;
  while (headingLine >= 0 && rows[headingLine]!.every((cell) => cell === '')) headingLine--;
  if (headingLine < 0) headingLine = null;
  let unitLine: number | null = null;
  if (
    headingLine !== null &&
    headingLine > 0 &&
    looksLikeUnits(rows[headingLine]!) &&
    (rows[headingLine - 1]?.length ?? 0) > 1
  ) {
    unitLine = headingLine;
    headingLine--;
  }
  return {
    delimiter,
    decimalChar,
    headingLine,
    unitLine,
    firstDataLine,
    // A head may be cut between the two signs of a line's end.
    ...(/\r[^\n]/.test(head) ? { loneCr: true as const } : {}),
  };
}

function bestDelimiter(lines: string[]): string {
  let best = ',';
  let bestScore = -1;
  for (const delimiter of DELIMITERS) {
    const rows = lines.filter((line) => line.trim() !== '').map((line) => splitLine(line, delimiter));
    const counts = rows.map((row) => row.length);
    const common = [...counts].sort((a, b) => a - b)[Math.floor(counts.length / 2)]!;
    const agreeing = counts.filter((count) => count === common).length / counts.length;
    // Split at the wrong sign, cells are no readings: "270833;12".
    const cells = rows.flat().filter((cell) => cell !== '');
    const sound = cells.filter((cell) => !/[;|\t]/.test(cell)).length / Math.max(1, cells.length);
    const score = common < 2 ? 0 : agreeing ** 2 * sound * Math.min(common, 4);
    if (score > bestScore) {
      best = delimiter;
      bestScore = score;
    }
  }
  return best;
}

function decimalOf(rows: string[][], delimiter: string): '.' | ',' {
  if (delimiter === ',') {
    const quotedCommas = rows.flat().filter((cell) => cell.includes(',') && isNumber(cell, ',')).length;
    return quotedCommas > rows.length / 2 ? ',' : '.';
  }
  const cells = rows.flat();
  const commas = cells.filter((cell) => cell.includes(',') && isNumber(cell, ',')).length;
  const points = cells.filter((cell) => cell.includes('.') && isNumber(cell, '.')).length;
  return commas > points ? ',' : '.';
}

function looksLikeData(row: string[], decimalChar: '.' | ','): boolean {
  if (row.length < 2) return false;
  const numbers = row.filter((cell) => isNumber(cell, decimalChar)).length;
  const times = row.filter((cell) => TIMELIKE.test(cell) || numberedDate(cell) !== null).length;
  return numbers + times >= 2 && numbers >= 1;
}

const UNIT_CELL =
  /^[[(]?(m?v|m?a|k?w|k?wh|ah|%|°?c|°?f|s|min|h|v dc|a dc|volts?|amps?|hh:mm(:ss)?|[ymd/.-]+( hh?:mm(:ss)?)?|utc|local)?[\])]?$/i;

const looksLikeUnits = (row: string[]): boolean =>
  row.some((cell) => cell !== '') && row.every((cell) => UNIT_CELL.test(cell));
