/**
 * Columns whose headings say nothing, by how they behave: a value that stays within what a battery's voltage does and moves with another
 * that changes sign is a voltage beside its current. It is a guess from figures: it is put forward and asked.
 */

import { quantile } from '../../quantity/numbers';
import { signOf } from '../sign';
import { numberOf } from '../cells';
import type { Dialect } from '../sniff';
import { defaultVoltage } from './column';
import type { ColumnReading, DeviceKind } from './reading';
import { QUANTITY_OF_UNIT, quantityOfWords, wordsOf } from './words';

/** V within which the voltage of a bank stands, and how far it moves about its middle. */
const BANK_VOLTS = { min: 9, max: 65, spread: 0.35 };
/** Share of the rows in which a current must go either way. */
const EITHER_WAY = 0.03;
const LEAST_ROWS = 30;

const VOLTAGES = ['battery_voltage', 'source_voltage', 'load_voltage'];
const CURRENTS = ['battery_current', 'source_current', 'load_current', 'battery_charge_current'];

export function settleBehaviour(
  columns: ColumnReading[],
  rows: readonly (readonly string[])[],
  { decimalChar }: Dialect,
  device: DeviceKind,
): void {
  const named = (roles: string[]) => columns.find((one) => one.role !== null && roles.includes(one.role));
  const volts = named(VOLTAGES);
  const amps = named(CURRENTS);
  if (volts && amps) return;
  const valuesOf = ({ index }: ColumnReading) => rows.map((row) => numberOf(row[index] ?? '', decimalChar));
  const unnamed = columns
    .filter((one) => one.role === null && one.sure !== 'ask' && saysNothing(one.heading))
    .map((column) => ({ column, values: valuesOf(column) }))
    .filter(
      ({ values }) =>
        values.filter((value) => value === value).length >= Math.max(LEAST_ROWS, 0.8 * values.length),
    );
  const voltages = volts ? [{ column: volts, values: valuesOf(volts) }] : unnamed.filter(isBankVoltage);
  const currents = amps ? [{ column: amps, values: valuesOf(amps) }] : unnamed.filter(changesSign);
  for (const voltage of voltages)
    for (const current of currents) {
      if (voltage.column === current.column || signOf(current.values, voltage.values) === 'unclear') continue;
      if (!volts) {
        const [low, high] = [quantile(known(voltage.values), 0.02), quantile(known(voltage.values), 0.98)];
        ask(
          voltage.column,
          defaultVoltage(device),
          `"${voltage.column.heading}" lies between ${low.toFixed(1)} and ${high.toFixed(1)} and moves with "${current.column.heading}": is it a voltage, in V?`,
        );
      }
      if (!amps)
        ask(
          current.column,
          'battery_current',
          `"${current.column.heading}" changes sign, and "${voltage.column.heading}" moves with it: is it the battery's current, in A?`,
        );
      return;
    }
}

interface Candidate {
  column: ColumnReading;
  values: number[];
}

function ask(column: ColumnReading, role: ColumnReading['role'], question: string): void {
  Object.assign(column, { role, scale: 1, offset: 0, sure: 'ask', question });
}

/** What has a quantity or a unit in its heading was judged by that. */
function saysNothing(heading: string): boolean {
  const { words, unit } = wordsOf(heading);
  return !QUANTITY_OF_UNIT.has(unit) && quantityOfWords(words) === null;
}

const known = (values: readonly number[]): number[] => values.filter((value) => value === value);

function isBankVoltage({ values }: Candidate): boolean {
  const [low, middle, high] = [0.02, 0.5, 0.98].map((q) => quantile(known(values), q)) as [
    number,
    number,
    number,
  ];
  return (
    low >= BANK_VOLTS.min && high <= BANK_VOLTS.max && high > low && high - low < BANK_VOLTS.spread * middle
  );
}

function changesSign({ values }: Candidate): boolean {
  const all = known(values);
  const share = (test: (value: number) => boolean) => all.filter(test).length / all.length;
  return share((value) => value > 0) >= EITHER_WAY && share((value) => value < 0) >= EITHER_WAY;
}
