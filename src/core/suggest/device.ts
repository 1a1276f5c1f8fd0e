/** Which device a log was written by, from what its columns are and what the file is called. */

import { cellNumber, type Channel } from '../log/channels';
import type { DeviceKind, LogReading } from '../log/recognise';
import type { Suggestion } from './bank';

/** Words in the names of files, by device. */
const WORDS: readonly [DeviceKind, RegExp][] = [
  ['bms', /\b(bms|cells?|zellen|celle)\b/],
  ['source', /\b(solar|panel|mppt|pv|charger|rectifier|mains|generator|alternator|lader|caricabatterie)\b/],
  ['load', /\b(load|loads|inverter|consumer|carico)\b/],
  ['monitor', /\b(monitor|shunt|battery|batterie|batteria)\b/],
];

/** @param reading as any device's: only what its columns are is looked at */
export function suggestDevice(fileName: string, { columns }: LogReading): Suggestion<DeviceKind> {
  const roles = columns.flatMap(({ role }) => (role === null || role === 'time' ? [] : [role as Channel]));
  const has = (...wanted: string[]) => roles.some((one) => wanted.includes(one));
  if (roles.filter((one) => cellNumber(one) !== null).length >= 2)
    return { value: 'bms', why: 'It has the voltages of cells.' };
  if (has('source_stage', 'source_input_power', 'source_input_voltage', 'source_available'))
    return { value: 'source', why: 'It has the charger’s stage, or what stands behind it.' };
  if (has('bms_charge_allowed', 'bms_discharge_allowed'))
    return { value: 'bms', why: 'It says whether charge and discharge are allowed.' };
  if (has('soc', 'consumed_charge'))
    return { value: 'monitor', why: 'It has a percentage or ampere-hours drawn.' };
  const name = fileName.toLowerCase().replace(/[^a-z]+/g, ' ');
  for (const [kind, words] of WORDS) {
    const found = words.exec(name)?.[0];
    if (found) return { value: kind, why: `The file’s name has “${found}” in it.` };
  }
  return { value: null, why: 'Nothing in it tells: say which device wrote it.' };
}
