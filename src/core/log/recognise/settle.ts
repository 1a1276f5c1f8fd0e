/** What only shows when the columns of a log are seen together: pairs, runs of cells, doubles. */

import { median } from '../../quantity/numbers';
import { numberOf } from '../cells';
import type { Dialect } from '../sniff';
import type { ColumnReading } from './reading';
import { QUANTITY_OF_UNIT, quantityOfWords, wordsOf } from './words';

/** Charge and discharge in columns of their own: only where there are both. */
export function settleDirections(columns: ColumnReading[]): void {
  const currents = columns.filter((column) => {
    const { words, unit } = wordsOf(column.heading);
    const amps =
      QUANTITY_OF_UNIT.get(unit)?.quantity === 'current' ||
      quantityOfWords(words) === 'current' ||
      column.role === 'battery_current' ||
      column.role === 'source_current';
    return amps && column.role !== 'load_current' && column.role !== 'time';
  });
  const about = (column: ColumnReading, ...options: string[]) =>
    options.some((word) => wordsOf(column.heading).words.includes(word));
  const outOf = currents.find((one) => about(one, 'discharge', 'discharging', 'discharged'));
  const into = currents.find((one) => one !== outOf && about(one, 'charge', 'charging', 'charged'));
  if (!into || !outOf) return;
  Object.assign(into, { role: 'battery_charge_current', sure: 'certain', question: undefined });
  Object.assign(outOf, { role: 'battery_discharge_current', sure: 'certain', question: undefined });
}

/** V within which a single cell, lead or lithium, stands in a log. */
const CELL_VOLTS = { min: 1.5, max: 4.3 };

/** A run of numbered columns whose values are those of single cells. */
export function settleCells(columns: ColumnReading[], rows: string[][], dialect: Dialect): void {
  const runs = new Map<string, { column: ColumnReading; number: number; scale: number }[]>();
  for (const column of columns) {
    if (column.role === 'time' || (column.role !== null && !/^(battery|source)_voltage$/.test(column.role)))
      continue;
    const match = /^(.*?)[\s_#-]*(\d{1,2})(?=\D*$)(.*)$/.exec(column.heading.trim());
    if (!match) continue;
    const values = rows
      .map((row) => numberOf(row[column.index] ?? '', dialect.decimalChar))
      .filter((one) => one === one);
    if (values.length === 0) continue;
    const middle = median(values);
    const scale = middle > 100 * CELL_VOLTS.min ? 0.001 : 1;
    if (middle * scale < CELL_VOLTS.min || middle * scale > CELL_VOLTS.max) continue;
    const family = `${match[1]!.toLowerCase()}|${match[3]!.toLowerCase()}|${scale}`;
    runs.set(family, [...(runs.get(family) ?? []), { column, number: Number(match[2]), scale }]);
  }
  for (const run of runs.values()) {
    const numbers = run.map((one) => one.number).sort((a, b) => a - b);
    const first = numbers[0]!;
    const inOrder = numbers.every((number, i) => number === first + i);
    if (run.length < 3 || !inOrder || first > 1) continue;
    for (const { column, number, scale } of run)
      Object.assign(column, {
        role: `cell_${String(number + 1 - first).padStart(2, '0')}_voltage`,
        scale,
        offset: 0,
        sure: /cell|zelle|cella|zell/i.test(column.heading) ? 'certain' : 'likely',
        question: undefined,
      });
  }
}

/** Power is read only where the current beside it was not logged. */
export function dropNeedlessPower(columns: ColumnReading[]): void {
  const has = (...roles: string[]) => columns.some((one) => one.role !== null && roles.includes(one.role));
  const needless: Record<string, boolean> = {
    battery_power:
      has('battery_current', 'battery_charge_current') || !has('battery_voltage', 'source_voltage'),
    source_power: has('source_current') || !has('source_voltage', 'battery_voltage'),
    load_power: has('load_current') || !has('load_voltage', 'battery_voltage', 'source_voltage'),
  };
  for (const column of columns)
    if (column.role !== null && needless[column.role]) {
      column.role = null;
      column.sure = 'likely';
    }
}

/** Two columns cannot be one channel: the surer one keeps it, the others are asked about; of several probes on a battery the first will do. */
export function settleDoubles(columns: ColumnReading[]): void {
  const rank = { certain: 0, likely: 1, ask: 2 };
  const taken = new Map<string, ColumnReading>();
  for (const column of columns) {
    if (column.role === null || column.role === 'time') continue;
    const other = taken.get(column.role);
    if (!other) {
      taken.set(column.role, column);
      continue;
    }
    const loser = rank[column.sure] < rank[other.sure] ? other : column;
    if (loser === other) taken.set(column.role, column);
    if (column.role === 'battery_temperature' && column.sure !== 'ask' && other.sure !== 'ask') {
      loser.role = null;
      continue;
    }
    loser.sure = 'ask';
    loser.question = `"${loser.heading}" and another column both look like ${String(column.role).replace(/_/g, ' ')}: choose the right column.`;
    loser.role = null;
  }
}
