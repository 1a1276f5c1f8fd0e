/** Says what one column of a log is from its heading and its cells. */

import { median } from '../../quantity/numbers';
import { type Channel, isReadChannel, type ReadChannel, stageNumber, tellsNoStage } from '../channels';
import { flagNumber, isFlag, isMissing, isNumber, numberOf, unitIn, valueWithUnit } from '../cells';
import type { Dialect } from '../sniff';
import { timeColumnOf } from '../timeFormat';
import type { ColumnReading, DeviceKind } from './reading';
import {
  QUANTITY_OF_UNIT,
  quantityOfWords,
  saysAir,
  saysAllowed,
  saysBound,
  saysCharge,
  saysConsumed,
  saysMiddle,
  saysOtherBattery,
  saysSupply,
  saysUpper,
  subjectOf,
  TIME_WORDS,
  wordsOf,
} from './words';

export type Recognised = Omit<ColumnReading, 'index' | 'heading' | 'samples'>;

const nothing: Recognised = { role: null, scale: 1, offset: 0, invert: false, sure: 'likely' };

export function recogniseColumn(
  heading: string,
  samples: string[],
  device: DeviceKind,
  dialect: Dialect,
): Recognised {
  const plain = heading.trim().toLowerCase();
  if (isReadChannel(plain)) return { ...nothing, role: plain, sure: 'certain' };
  const { words, unit: named } = wordsOf(heading);
  const has = (...options: string[]) => options.some((word) => words.includes(word));
  const filled = samples.filter((cell) => !isMissing(cell));
  // A unit may stand in the cells and not above them.
  const unit = named || commonUnit(filled, dialect);
  const numeric = filled.filter((cell) => isNumber(cell, dialect.decimalChar)).length >= 0.8 * filled.length;
  const asTime = unit === '' ? timeColumnOf(filled.slice(0, 200), dialect.decimalChar) : null;
  // Numbers of milliards are seconds since 1970 whatever stands above them.
  if (asTime?.kind === 'epoch') return { ...nothing, role: 'time', sure: 'certain' };
  const timed = has(...TIME_WORDS) && !QUANTITY_OF_UNIT.has(unit);
  if (timed || (!numeric && asTime !== null))
    return { ...nothing, role: 'time', sure: timed ? 'certain' : 'likely' };

  // A switch of the BMS may be written as words; a logger that writes means shows for which part of the time it was on.
  // A BMS’s own log may call it just "CHG" and "DSG"; what is nothing all along may be a current.
  const isBare = device === 'bms' && unit === '' && words.length === 1;
  const isOnOff = () => filled.every(isFlag) && filled.some((cell) => flagNumber(cell) === 1);
  const flag = saysAllowed(words) || (isBare && isOnOff()) ? switchOf(words) : null;
  const isSwitched = (cell: string): boolean => {
    const part = numberOf(cell, dialect.decimalChar);
    return isFlag(cell) || (part >= 0 && part <= 1);
  };
  if (flag && filled.filter(isSwitched).length >= 0.8 * filled.length)
    return { ...nothing, role: flag, sure: 'certain' };

  const quantity = QUANTITY_OF_UNIT.get(unit)?.quantity ?? quantityOfWords(words);
  // A voltage or a current that is nothing all along is written as 0 as well.
  // "Shore power" that is on or off is no power.
  const isSwitch =
    filled.length > 0 &&
    filled.every(isFlag) &&
    (quantity === null || quantity === 'flag' || (quantity === 'power' && !numeric));
  if (device === 'source' && isSwitch && saysSupply(words))
    return { ...nothing, role: 'source_available', sure: 'likely' };
  // An engine has a battery of its own; beside an alternator it is what drives it.
  const isEngines = has('engine') && (device !== 'source' || subjectOf(words) === 'battery');
  if (device !== 'load' && (saysOtherBattery(words) || isEngines)) return nothing;

  if (!numeric) {
    const known = filled.filter((cell) => !Number.isNaN(stageNumber(cell))).length;
    const silent = filled.filter(tellsNoStage).length;
    if (known > 0 && known + silent >= 0.8 * filled.length)
      return {
        ...nothing,
        role: 'source_stage',
        sure: has('stage', 'state', 'mode', 'status') ? 'certain' : 'likely',
      };
    // Words that nobody knows, in a column that is said to be a state, are asked about.
    const isUnknown = (cell: string) => Number.isNaN(stageNumber(cell)) && !tellsNoStage(cell);
    const words2 = [...new Set(filled.filter(isUnknown))];
    if (
      device === 'source' &&
      has('stage', 'state', 'mode', 'phase') &&
      words2.length <= 8 &&
      words2.length > 0
    )
      return {
        ...nothing,
        role: 'source_stage',
        sure: 'ask',
        question: `Which stages are ${words2.map((word) => `"${word}"`).join(', ')} in "${heading}"?`,
        unknownWords: words2,
      };
    return nothing;
  }

  if (!quantity) return nothing;
  const { scale, offset } = QUANTITY_OF_UNIT.get(unit) ?? { scale: 1, offset: 0 };
  const base = { ...nothing, scale, offset };
  const values = filled.map(
    (cell) => valueWithUnit(cell, dialect.decimalChar) ?? numberOf(cell, dialect.decimalChar) * scale,
  );

  const cell = /\bcell\b/.test(words.join(' ')) ? words.find((word) => /^\d{1,3}$/.test(word)) : undefined;
  if (cell !== undefined && (quantity === 'voltage' || quantity === 'temperature'))
    return { ...base, role: `cell_${cell.padStart(2, '0')}_${quantity}` as Channel, sure: 'certain' };

  // Without a number it is a mean over all of them, or which cell it is.
  if (cell === undefined && has('cell') && quantity === 'voltage') return nothing;
  if (saysBound(words) && quantity !== 'charge') return nothing;
  // Beyond an inverter is no channel of ours; what goes into a load, or out of its terminals, is the load.
  if (device === 'load' && has('ac')) return nothing;
  const isMonitors = device === 'monitor' || device === 'bms';
  const said = subjectOf(words);
  const subject = device === 'load' && (said === 'input' || said === 'source') ? 'load' : said;
  switch (quantity) {
    case 'voltage':
      // Across a shunt stand millivolts: they are a current, of which the scale is not known.
      if (has('shunt') && unit === 'mv') return nothing;
      // A monitor's "Lower V" is half of the bank; a charger's may be its own, across that half.
      if (saysMiddle(words) || (isMonitors && has('lower')))
        return { ...base, role: 'midpoint_voltage', sure: 'certain' };
      if (saysUpper(words) || (isMonitors && has('upper')))
        return { ...base, role: 'upper_half_voltage', sure: 'certain' };
      if (subject === 'input') return { ...base, role: 'source_input_voltage', sure: 'certain' };
      if (subject === 'load') return { ...base, role: 'load_voltage', sure: 'certain' };
      if (subject === 'battery') return { ...base, role: 'battery_voltage', sure: 'certain' };
      if (subject === 'source') return { ...base, role: 'source_voltage', sure: 'certain' };
      return { ...base, role: defaultVoltage(device), sure: 'likely' };
    case 'current':
      if (subject === 'input') return nothing;
      if (subject === 'load') return { ...base, role: 'load_current', sure: 'certain' };
      if (subject === 'source' || has('charge', 'charging'))
        return {
          ...base,
          role: isMonitors ? 'battery_current' : 'source_current',
          sure: 'certain',
        };
      if (subject === 'battery') {
        const oneWay = device === 'source' && values.every((v) => !(v < 0));
        return oneWay
          ? { ...base, role: 'source_current', sure: 'likely' }
          : { ...base, role: 'battery_current', sure: 'certain' };
      }
      return { ...base, role: defaultCurrent(device), sure: 'likely' };
    case 'power':
      if (subject === 'input') return { ...base, role: 'source_input_power', sure: 'likely' };
      return { ...base, role: powerOf(subject, device), sure: 'likely' };
    case 'temperature':
      if (saysAir(words)) return { ...base, role: 'ambient_temperature', sure: 'certain' };
      if (subject === 'battery' || has('sensor'))
        return { ...base, role: 'battery_temperature', sure: 'certain' };
      if (has('internal', 'heatsink', 'board', 'cpu', 'mos', 'mosfet', 'fet') || subject === 'source')
        return nothing;
      // What a load measures is itself.
      if (device === 'load') return nothing;
      return isMonitors
        ? { ...base, role: 'battery_temperature', sure: 'likely' }
        : {
            ...base,
            role: 'battery_temperature',
            sure: 'ask',
            question: `Is "${heading}" the battery's temperature, or the device's own?`,
          };
    case 'charge':
      // A monitor's counter that is never above nothing counts down from full, whatever it is called.
      return saysConsumed(words) || (device === 'monitor' && countsDown(values))
        ? { ...base, role: 'consumed_charge', invert: median(values) > 0, sure: 'likely' }
        : nothing;
    case 'percent':
      if (has('efficiency', 'humidity', 'pwm', 'duty', 'health', 'soh')) return nothing;
      // A charger may write its stage as a number, under "charge state".
      if (has('state') && !has('of') && device === 'source' && isCode(values)) return nothing;
      if (saysCharge(words)) return { ...base, role: 'soc', sure: isCharge(values) ? 'certain' : 'likely' };
      return has(...CHARGE) || (words.length <= 1 && isMonitors)
        ? { ...base, role: 'soc', sure: 'likely' }
        : nothing;
    case 'flag':
      return saysAllowed(words) ? nothing : { ...base, role: 'source_available', sure: 'likely' };
  }
}

/** The unit that most of the first cells carry; '' where most carry none. */
function commonUnit(cells: readonly string[], { decimalChar }: Dialect): string {
  const units = cells.slice(0, 100).map((cell) => unitIn(cell, decimalChar));
  const times = (unit: string) => units.filter((one) => one === unit).length;
  return [...new Set(units)].sort((a, b) => times(b) - times(a))[0] ?? '';
}

const countsDown = (values: readonly number[]): boolean =>
  values.every((one) => !(one > 0)) && values.some((one) => one < 0);

/** Few small whole numbers are the code of a state. */
const isCode = (values: readonly number[]): boolean =>
  new Set(values).size <= 10 && values.every((one) => Number.isInteger(one) && one >= 0 && one < 20);

/** What a percentage says that is one of charge, where it says no more. */
const CHARGE = [
  'charge',
  'level',
  'full',
  'battery',
  'capacity',
  'remaining',
  'carica',
  'carga',
  'ladung',
  'lading',
];

/** A percentage of charge lies between nothing and full. */
const isCharge = (values: readonly number[]): boolean => values.every((one) => !(one < 0 || one > 110));

/** The switch of a BMS that a heading names; null when it names none. */
function switchOf(words: readonly string[]): Channel | null {
  if (words.some((word) => /^(discharg|dsg|entlad|scarica|décharge|descarga|dfet$|dmos$)/.test(word)))
    return 'bms_discharge_allowed';
  return words.some((word) => /^(charg|chg|laden|ladung|carica|carga|cfet$|cmos$)/.test(word))
    ? 'bms_charge_allowed'
    : null;
}

const powerOf = (subject: ReturnType<typeof subjectOf>, device: DeviceKind): ReadChannel =>
  subject === 'load' || (subject === null && device === 'load')
    ? 'load_power'
    : subject === 'source' || (subject === null && device === 'source')
      ? 'source_power'
      : 'battery_power';

export const defaultVoltage = (device: DeviceKind): Channel =>
  device === 'source' ? 'source_voltage' : device === 'load' ? 'load_voltage' : 'battery_voltage';
const defaultCurrent = (device: DeviceKind): Channel =>
  device === 'source' ? 'source_current' : device === 'load' ? 'load_current' : 'battery_current';
