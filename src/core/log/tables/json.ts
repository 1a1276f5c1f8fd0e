/** Logs in JSON: arrays of objects or of rows, columns in arrays, and JSON Lines. Nested values are flattened by name. */

import { BadJson, type JsonBounds, parseJson } from '../../quantity/json';
import { NotALog } from '../sniff';
import { type Cell, toDelimited } from './delimited';

/** Readings lie a few lists deep. */
const BOUNDS: JsonBounds = { depth: 32, values: 20_000_000 };

type Plain = Record<string, unknown>;
const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** @param text the whole file @throws NotALog when it is no JSON, or none with readings */
export function jsonToDelimited(text: string): Uint8Array {
  const trimmed = text.trimStart();
  const records = looksLikeLines(trimmed) ? fromLines(trimmed) : fromDocument(trimmed);
  if (records.length === 0)
    throw new NotALog('This JSON holds no readings: a list of objects, one for each moment, is expected.');
  const headings = new Map<string, number>();
  const rows = records.map((record) => {
    const row: Cell[] = [];
    flatten(record, '', (name, value) => {
      let at = headings.get(name);
      if (at === undefined) headings.set(name, (at = headings.size));
      row[at] = value;
    });
    return row;
  });
  return toDelimited(
    [...headings.keys()],
    rows.map((row) => Array.from(row)),
    'utc',
  );
}

/** One JSON value a line, more than one line. */
function looksLikeLines(text: string): boolean {
  const first = text.slice(0, text.indexOf('\n') + 1 || undefined).trim();
  if (!/^[{[]/.test(first) || !/[}\]],?$/.test(first) || text.trim() === first) return false;
  return parsed(first) !== undefined;
}

function fromLines(text: string): Plain[] {
  const out: unknown[] = [];
  const lines = text.split(/\r?\n/);
  lines.forEach((line, i) => {
    const trimmed = line.trim();
    if (trimmed === '') return;
    const value = parsed(trimmed);
    if (value !== undefined) out.push(value);
    // The last line of a log that was cut off in the middle is no loss of a row that was whole.
    else if (i < lines.length - 1)
      throw new NotALog(`Line ${i + 1} is not valid JSON: "${trimmed.slice(0, 40)}". Export the log again.`);
  });
  return recordsOf(out);
}

function fromDocument(text: string): Plain[] {
  try {
    return fromValue(parseJson(text, BOUNDS));
  } catch (error) {
    if (!(error instanceof BadJson)) throw error;
    throw new NotALog(
      `This JSON cannot be read: ${error.message}. Export the log again; a file that was cut off while loading ends in the middle.`,
    );
  }
}

function fromValue(value: unknown): Plain[] {
  if (Array.isArray(value)) return recordsOf(value);
  if (!isPlain(value)) return [];
  const columns = Object.entries(value).filter(([, inner]) => Array.isArray(inner)) as [string, unknown[]][];
  const lists = columns.filter(([, list]) => list.some((one) => typeof one === 'object' && one !== null));
  if (lists.length > 0) {
    const [, longest] = lists.reduce((best, one) => (one[1].length > best[1].length ? one : best));
    return recordsOf(longest);
  }
  // Columns in arrays of one length.
  const length = columns.reduce((most, [, list]) => Math.max(most, list.length), 0);
  const whole = columns.filter(([, list]) => list.length === length);
  if (length < 2 || whole.length < 2) {
    // What wraps the readings may lie one deeper.
    const inner = Object.values(value).find(isPlain);
    return inner ? fromValue(inner) : [];
  }
  return Array.from({ length }, (_, i) => Object.fromEntries(whole.map(([name, list]) => [name, list[i]])));
}

/** Objects as they are; rows in arrays get their names from the first row where that holds words. */
function recordsOf(list: readonly unknown[]): Plain[] {
  if (list.some(isPlain)) return list.filter(isPlain);
  const rows = list.filter(Array.isArray) as unknown[][];
  const first = rows[0];
  if (!first) return [];
  const named = first.every((cell) => typeof cell === 'string') && rows.length > 1;
  const names = named ? (first as string[]) : first.map((_, i) => `column ${i + 1}`);
  return (named ? rows.slice(1) : rows).map((row) =>
    Object.fromEntries(names.map((name, i) => [name, row[i]])),
  );
}

/** Deeper than this nothing is looked for. */
const DEEPEST = 4;

function flatten(value: unknown, name: string, put: (name: string, value: Cell) => void, depth = 0): void {
  if (Array.isArray(value) || isPlain(value)) {
    if (depth > DEEPEST) return;
    for (const [key, inner] of Object.entries(value)) {
      // Places in a list count from 1, as people do.
      const part = Array.isArray(value) ? String(Number(key) + 1) : key;
      flatten(inner, name === '' ? part : `${name} ${part}`, put, depth + 1);
    }
    return;
  }
  if (name !== '') put(name, value as Cell);
}

function parsed(line: string): unknown {
  try {
    return parseJson(line.replace(/,$/, ''), BOUNDS);
  } catch {
    return undefined;
  }
}
