/** Rounds as a table of text: in from a spreadsheet or a file, and out again. RFC 4180; one row a reading. */

import Papa from 'papaparse';
import { type Reading, type Round, roundSchema, TAKEN_OF } from './round';
import { issuesOf } from '../system/refusals';

const COLUMNS = [
  'date',
  'cell',
  'gravity',
  'celsius',
  'taken of',
  'after full charge',
  'compensating',
  'instrument',
  'watered on',
  'notes',
] as const;

const yesNo = (value: boolean | undefined): string => (value === undefined ? '' : value ? 'yes' : 'no');

export function roundsToCsv(rounds: readonly Round[]): string {
  return (
    Papa.unparse(
      rounds.flatMap((round) =>
        round.readings.map((one) => [
          round.on,
          one.cell,
          one.gravity.toFixed(3),
          one.celsius ?? round.celsius ?? '',
          round.takenOf ?? '',
          yesNo(round.afterFullCharge),
          yesNo(round.compensates),
          round.instrument ?? '',
          round.wateredOn ?? '',
          round.notes ?? '',
        ]),
      ),
      { newline: '\r\n' },
    ).replace(/^/, `${COLUMNS.join(',')}\r\n`) + '\r\n'
  );
}

export class BadRounds extends Error {}

/** Headings as people write them, small and without signs. */
const HEADINGS: Record<string, readonly string[]> = {
  date: ['date', 'day', 'on', 'time', 'datetime', 'date and time'],
  cell: ['cell', 'battery cell', 'cell number', 'cell no', 'position'],
  battery: ['battery', 'block', 'battery number', 'battery no'],
  gravity: ['gravity', 'specific gravity', 'sg', 'density', 'reading', 'relative density'],
  celsius: ['celsius', 'temperature', 'temp', 'electrolyte temperature', 'temperature c', 'temp c'],
  fahrenheit: ['fahrenheit', 'temperature f', 'temp f'],
  takenOf: ['taken of', 'temperature of'],
  afterFullCharge: ['after full charge', 'after a full charge', 'full', 'fully charged'],
  compensates: ['compensating', 'compensates', 'compensated', 'temperature compensating'],
  instrument: ['instrument', 'hydrometer'],
  wateredOn: ['watered on', 'watered', 'last watering'],
  notes: ['notes', 'note', 'remarks'],
};

const plain = (heading: string): string =>
  heading
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

const numberOf = (text: string | undefined): number | undefined =>
  text === undefined || text.trim() === '' ? undefined : Number(text.trim().replace(',', '.'));

const yes = (text: string | undefined): boolean | undefined =>
  /^(yes|y|true|1)$/i.test(text?.trim() ?? '')
    ? true
    : /^(no|n|false|0)$/i.test(text?.trim() ?? '')
      ? false
      : undefined;

/**
 * Rows of a file or pasted from a spreadsheet; rows of one day are one round. Without headings two columns are read as cell and gravity,
 * three as cell, gravity and temperature, on the day given.
 * @param on day of rows without one @param newId an id for each round. @throws BadRounds with the row
 */
export function roundsOfCsv(text: string, on: string, newId: () => string): Round[] {
  const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy' });
  if (data.length === 0) throw new BadRounds('There is nothing in it: one row for each cell is expected.');
  const headings = data[0]!.map(plain);
  const at = (name: string) => headings.findIndex((one) => HEADINGS[name]!.includes(one));
  const hasHeadings = at('gravity') >= 0;
  const columns = hasHeadings
    ? Object.fromEntries(Object.keys(HEADINGS).map((name) => [name, at(name)]))
    : { cell: 0, gravity: 1, celsius: 2 };
  const rows = hasHeadings ? data.slice(1) : data;
  const rounds = new Map<string, Omit<Round, 'readings'> & { readings: Reading[] }>();
  rows.forEach((row, k) => {
    const line = k + (hasHeadings ? 2 : 1);
    const of = (name: string): string | undefined => {
      const column = (columns as Record<string, number>)[name] ?? -1;
      return column < 0 ? undefined : row[column]?.trim() || undefined;
    };
    const cell = `${of('battery') ?? ''}${of('cell') ?? ''}`;
    const value = numberOf(of('gravity'));
    if (value === undefined && !of('cell')) return;
    if (value === undefined || Number.isNaN(value))
      throw new BadRounds(
        `Row ${line}: “${of('gravity') ?? ''}” is no specific gravity; write it like 1.250.`,
      );
    const day = dayOf(of('date'), on, line);
    const known = rounds.get(day) ?? {
      id: newId(),
      on: day,
      ...optional('afterFullCharge', yes(of('afterFullCharge'))),
      ...optional('compensates', yes(of('compensates'))),
      ...optional('instrument', of('instrument')),
      ...optional(
        'takenOf',
        TAKEN_OF.find((one) => one === of('takenOf')?.toLowerCase()),
      ),
      ...optional('wateredOn', of('wateredOn')),
      ...optional('notes', of('notes')),
      readings: [],
    };
    const fahrenheit = numberOf(of('fahrenheit'));
    const celsius =
      numberOf(of('celsius')) ?? (fahrenheit === undefined ? undefined : (fahrenheit - 32) / 1.8);
    known.readings.push({ cell, gravity: value, ...optional('celsius', celsius) });
    rounds.set(day, known);
  });
  return [...rounds.values()].map((round) => {
    const parsed = roundSchema.safeParse(round);
    if (parsed.success) return parsed.data;
    const issue = issuesOf(parsed.error)[0]!;
    const reading = issue.path[0] === 'readings' ? round.readings[Number(issue.path[1])] : undefined;
    throw new BadRounds(
      `${round.on}${reading ? `, cell ${reading.cell || 'without a name'}` : ''}: ${issue.message}`,
    );
  });
}

const optional = <K extends string, V>(key: K, value: V | undefined): { [P in K]?: V } =>
  value === undefined || Number.isNaN(value) ? {} : ({ [key]: value } as { [P in K]?: V });

/** A day with or without a time; other orders than year first are refused, since nobody can tell day from month. */
function dayOf(text: string | undefined, otherwise: string, line: number): string {
  if (!text) return otherwise;
  const found = /^(\d{4}-\d{2}-\d{2})/.exec(text);
  if (!found) throw new BadRounds(`Row ${line}: write the date as year-month-day, such as 2026-10-19.`);
  return found[1]!;
}
