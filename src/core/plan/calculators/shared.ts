/** Inputs that several calculators share, and what a description gives for them. */

import { CHEMISTRY } from '../../system/chemistry';
import { usualExponent } from '../../system/peukert';
import { CHEMISTRIES, type System } from '../../system/schema';
import { type ChoiceInput, number, type Values } from './calculator';

export const rated = (v: Values) => ({ capacityAh: v.number('capacity'), hours: v.number('hours') });
export const CAPACITY = number('capacity', 'Capacity', 'Ah', 100, 1, 10_000);
export const HOURS = number('hours', 'at the hour rate', 'h', 20, 0.5, 200);
export const EXPONENT = number('exponent', 'Peukert exponent', '', 1.25, 1, 2);
export const PEUKERT = 'W. Peukert, Elektrotechnische Zeitschrift 20, 1897';
export const chemistryInput: ChoiceInput = {
  key: 'chemistry',
  label: 'Chemistry',
  start: 'agm',
  options: CHEMISTRIES.map((id) => ({ id, name: CHEMISTRY[id].name })),
};
export const exponentOf = ({ bank, monitor }: System) =>
  monitor?.peukert ?? usualExponent(bank.chemistry ?? 'flooded');
export const amps = (system: System) =>
  system.loads.reduce((total, one) => total + (one.usualA ?? 0), 0) || undefined;
