/** Columns that are judged by what stands beside them: the same heading means another thing in another company. */

import { numberOf } from '../cells';
import type { Dialect } from '../sniff';
import type { ColumnReading, DeviceKind } from './reading';
import { QUANTITY_OF_UNIT, quantityOfWords, subjectOf, wordsOf } from './words';

const wordsIn = ({ heading }: ColumnReading): string[] => wordsOf(heading).words;

/**
 * In a charger's log a current of the battery that never goes the other way in these rows is the battery's all the same where the
 * charger's own stands beside it, and what is called solar is the panel's. In a monitor's or a BMS's log a charger's current and voltage
 * are not the battery's.
 */
export function settleBeside(columns: readonly ColumnReading[], device: DeviceKind): void {
  settleSolar(columns);
  if (device === 'monitor' || device === 'bms') {
    dropChargers(columns, 'battery_current');
    dropChargers(columns, 'battery_voltage');
    return;
  }
  const currents = columns.filter((one) => one.role === 'source_current');
  const own = currents.find((one) => one.sure === 'certain');
  const batterys = currents.filter((one) => one.sure === 'likely' && subjectOf(wordsIn(one)) === 'battery');
  if (own && batterys.length === 1 && !columns.some((one) => one.role === 'battery_current'))
    batterys[0]!.role = 'battery_current';
}

function settleSolar(columns: readonly ColumnReading[]): void {
  const solar = columns.filter((one) => wordsIn(one).includes('solar'));
  const has = (...roles: string[]) =>
    columns.some((one) => one.role !== null && roles.includes(one.role) && !solar.includes(one));
  for (const column of solar) {
    if (column.role === 'source_voltage' && has('source_voltage', 'battery_voltage'))
      column.role = 'source_input_voltage';
    if (column.role === 'source_current' && has('source_current')) column.role = null;
  }
}

function dropChargers(columns: readonly ColumnReading[], role: 'battery_current' | 'battery_voltage'): void {
  const isChargers = (column: ColumnReading): boolean =>
    subjectOf(wordsIn(column)) === 'source' ||
    wordsIn(column).some((word) => word === 'charge' || word === 'charging');
  const all = columns.filter((one) => one.role === role);
  if (all.every(isChargers)) return;
  for (const column of all) if (isChargers(column)) column.role = null;
}

/**
 * A monitor that logs what charges and what the loads draw, neither ever below nothing, and no current of the battery: that is the
 * difference of the two.
 */
export function settleNet(
  columns: readonly ColumnReading[],
  rows: readonly (readonly string[])[],
  { decimalChar }: Dialect,
  device: DeviceKind,
): void {
  const own = columns.filter((one) => one.role === 'battery_current');
  const drawn = columns.filter((one) => one.role === 'load_current');
  if ((device !== 'monitor' && device !== 'bms') || own.length !== 1 || drawn.length !== 1) return;
  const isOneWay = ({ index }: ColumnReading) =>
    rows.every((row) => !(numberOf(row[index] ?? '', decimalChar) < 0));
  const says = wordsIn(own[0]!).some((word) => ['charge', 'charging', 'charger', 'solar'].includes(word));
  if (says && isOneWay(own[0]!) && isOneWay(drawn[0]!)) own[0]!.role = 'battery_charge_current';
}

/** Ampere-hours counted in and out, each in a column that only grows: neither is what is missing from full. */
export function settleCounters(
  columns: readonly ColumnReading[],
  rows: readonly (readonly string[])[],
  { decimalChar }: Dialect,
): void {
  const counters = columns.filter(({ heading }) => {
    const { words, unit } = wordsOf(heading);
    return (QUANTITY_OF_UNIT.get(unit)?.quantity ?? quantityOfWords(words)) === 'charge';
  });
  const growing = counters.filter(({ index }) => {
    const values = rows
      .map((row) => Math.abs(numberOf(row[index] ?? '', decimalChar)))
      .filter((one) => one === one);
    return values.every((one, k) => k === 0 || one >= values[k - 1]!);
  });
  if (growing.length < 2) return;
  const isIn = (one: ColumnReading) =>
    one.role === null && wordsIn(one).some((word) => ['in', 'charge', 'charged'].includes(word));
  if (growing.some(isIn))
    for (const column of growing) if (column.role === 'consumed_charge') column.role = null;
}
