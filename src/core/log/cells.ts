/** What single cells of a log say: a number with or without its unit, nothing, the position of a switch. */

import { QUANTITY_OF_UNIT, type UnitMeaning } from './recognise/words';

/** A number as loggers and spreadsheets write it: with a true minus or an apostrophe before it, an exponent, its unit after it. */
const numberWith = (decimal: string) =>
  new RegExp(
    `^'?(?<sign>[+\\u2212-]?)(?<digits>\\d+(?:${decimal}\\d*)?|${decimal}\\d+)(?<power>e[+-]?\\d+)?(?:\\s*(?<unit>[°º]?[a-z]{1,5}|%))?$`,
    'i',
  );
const NUMBER = { '.': numberWith('\\.'), ',': numberWith(',') };

function partsOf(cell: string, decimalChar: '.' | ','): Record<string, string | undefined> | null {
  const parts = NUMBER[decimalChar].exec(cell)?.groups;
  return parts && (parts.unit === undefined || meaningOf(parts.unit)) ? parts : null;
}

const meaningOf = (unit: string): UnitMeaning | undefined =>
  QUANTITY_OF_UNIT.get(unit.toLowerCase().replace('º', '°'));

export const isNumber = (cell: string, decimalChar: '.' | ','): boolean =>
  partsOf(cell, decimalChar) !== null;

/** A cell as the number that is written in it, whatever its unit; NaN when it is none. */
export function numberOf(cell: string, decimalChar: '.' | ','): number {
  const parts = partsOf(cell, decimalChar);
  if (!parts) return NaN;
  const size = Number(parts.digits!.replace(',', '.') + (parts.power ?? ''));
  return parts.sign === '' || parts.sign === '+' ? size : -size;
}

/** The unit that stands in a cell behind its number, in small letters; '' where there is none. */
export const unitIn = (cell: string, decimalChar: '.' | ','): string =>
  partsOf(cell, decimalChar)?.unit?.toLowerCase().replace('º', '°') ?? '';

/** A cell that carries its own unit, as a number of V, A, W, °C, Ah or %; null where it carries none. */
export function valueWithUnit(cell: string, decimalChar: '.' | ','): number | null {
  const unit = QUANTITY_OF_UNIT.get(unitIn(cell, decimalChar));
  return unit ? (numberOf(cell, decimalChar) - unit.offset) * unit.scale : null;
}

const MISSING = /^(|-+|n\/?a|nan|null|none|unknown|\?+|#n\/a)$/i;

/** Whether a cell says that there is no reading: empty, "n/a", "---", "-- V". */
export function isMissing(cell: string): boolean {
  const unit = /^-+\s*([°º]?[a-z]{1,5}|%)$/i.exec(cell)?.[1];
  return MISSING.test(cell) || (unit !== undefined && meaningOf(unit) !== undefined);
}

const ON = [
  ...[
    '1',
    'on',
    'true',
    'yes',
    'enabled',
    'allowed',
    'closed',
    'ok',
    'present',
    'available',
    'running',
    'up',
  ],
  ...['ein', 'an', 'ja', 'si', 'sì', 'sí', 'oui', 'acceso', 'presente'],
];
const OFF = [
  ...['0', 'off', 'false', 'no', 'disabled', 'blocked', 'open', 'absent', 'unavailable', 'lost', 'fail'],
  ...['failed', 'down', 'stopped', 'aus', 'nein', 'non', 'spento', 'assente'],
];
const FLAG = new RegExp(`^(${[...ON, ...OFF].join('|')})$`, 'i');
const FLAG_ON = new RegExp(`^(${ON.join('|')})$`, 'i');

/** Whether a cell is the position of a switch, and which: a switch that is closed lets through. */
export const isFlag = (cell: string): boolean => FLAG.test(cell);
export const flagNumber = (cell: string): number => (FLAG_ON.test(cell) ? 1 : 0);
