/**
 * Says what the columns of a log are from their headings, units and values. Recognition is by meaning: no format of any
 * maker is known by name. What is not certain is marked so, and asked.
 */

import { median } from '../quantity/numbers';
import { type Channel, isReadChannel, type ReadChannel, stageNumber } from './channels';
import { decodeText, plainBytes } from './encoding';
import { isMissing, isNumber, NotALog, sniffDialect, splitLine, type Dialect } from './sniff';
import { chooseTime, type TimeReading } from './chooseTime';
import { timeColumnOf } from './timeFormat';

export type Sureness = 'certain' | 'likely' | 'ask';
export type DeviceKind = 'source' | 'load' | 'monitor' | 'bms';

export interface ColumnReading {
  index: number;
  heading: string;
  /** 'time', a channel, or null for a column that is left out. */
  role: 'time' | ReadChannel | null;
  /** Multiplied with the number in the file, after `offset` was subtracted. */
  scale: number;
  offset: number;
  invert: boolean;
  sure: Sureness;
  /** Why a column is asked about, as a sentence. */
  question?: string;
  /** Words in a column of stages that are not known. */
  unknownWords?: string[];
  samples: string[];
}

export interface LogReading {
  dialect: Dialect;
  columns: ColumnReading[];
  time: TimeReading | null;
}

/** A head this long with hardly a line end in it is no table. */
const LONGEST_LINES = 128 * 1024;

/** Reads the head of a log file. @param head its first bytes, ideally 64 KiB or more. @throws NotALog */
export function recognise(
  head: Uint8Array,
  device: DeviceKind,
  given: { delimiter?: string; decimalChar?: string } = {},
): LogReading {
  const text = decodeText(plainBytes()(head.subarray(0, 262_144)));
  const lines = text.split(/\r\n|\n|\r/);
  if (text.length > LONGEST_LINES && lines.length < 4)
    throw new NotALog(
      `Its lines are longer than ${Math.round(LONGEST_LINES / 1024)} kB: a log has one line for each moment. Check that this is the right file.`,
    );
  const dialect = sniffDialect(text, given);
  const whole = lines.length > 1 ? lines.slice(0, -1) : lines;
  const rows = whole
    .slice(dialect.firstDataLine)
    .filter((line) => line.trim() !== '')
    .map((line) => splitLine(line, dialect.delimiter));
  const headings =
    dialect.headingLine === null
      ? (rows[0] ?? []).map((_, i) => `column ${i + 1}`)
      : splitLine(lines[dialect.headingLine]!, dialect.delimiter);
  const units = dialect.unitLine === null ? [] : splitLine(lines[dialect.unitLine]!, dialect.delimiter);
  const width = Math.max(headings.length, rows[0]?.length ?? 0);

  const columns: ColumnReading[] = [];
  for (let index = 0; index < width; index++) {
    const samples = rows.map((row) => row[index] ?? '');
    const heading = headings[index] || `column ${index + 1}`;
    const named = units[index] ? `${heading} [${units[index]!.replace(/[[\]()]/g, '')}]` : heading;
    columns.push({
      index,
      heading,
      ...recogniseColumn(named, samples, device, dialect),
      samples: samples.slice(0, 6),
    });
  }
  const time = chooseTime(columns, rows, dialect.decimalChar);
  settleDirections(columns);
  settleCells(columns, rows, dialect);
  dropNeedlessPower(columns);
  settleDoubles(columns);
  return { dialect, columns, time };
}

type Recognised = Omit<ColumnReading, 'index' | 'heading' | 'samples'>;

const nothing: Recognised = { role: null, scale: 1, offset: 0, invert: false, sure: 'likely' };

function recogniseColumn(
  heading: string,
  samples: string[],
  device: DeviceKind,
  dialect: Dialect,
): Recognised {
  const plain = heading.trim().toLowerCase();
  if (isReadChannel(plain)) return { ...nothing, role: plain, sure: 'certain' };
  const { words, unit } = wordsOf(heading);
  const has = (...options: string[]) => options.some((word) => words.includes(word));
  const filled = samples.filter((cell) => !isMissing(cell));
  const numeric = filled.filter((cell) => isNumber(cell, dialect.decimalChar)).length >= 0.8 * filled.length;
  const asTime = unit === '' ? timeColumnOf(filled.slice(0, 200), dialect.decimalChar) : null;
  // Numbers of milliards are seconds since 1970 whatever stands above them.
  if (asTime?.kind === 'epoch') return { ...nothing, role: 'time', sure: 'certain' };
  const timed = has(...TIME_WORDS) && !(unit in QUANTITY_OF_UNIT);
  if (timed || (!numeric && asTime !== null))
    return { ...nothing, role: 'time', sure: timed ? 'certain' : 'likely' };

  if (!numeric) {
    const known = filled.filter((cell) => !Number.isNaN(stageNumber(cell))).length;
    if (known > 0 && known >= 0.8 * filled.length)
      return {
        ...nothing,
        role: 'source_stage',
        sure: has('stage', 'state', 'mode', 'status') ? 'certain' : 'likely',
      };
    // Words that nobody knows, in a column that is said to be a state, are asked about.
    const words2 = [...new Set(filled.filter((cell) => Number.isNaN(stageNumber(cell))))];
    if (device === 'source' && has('stage', 'state', 'mode', 'phase') && words2.length <= 8)
      return {
        ...nothing,
        role: 'source_stage',
        sure: 'ask',
        question: `Which stages are ${words2.map((word) => `"${word}"`).join(', ')} in "${heading}"?`,
        unknownWords: words2,
      };
    return nothing;
  }

  const quantity = QUANTITY_OF_UNIT[unit]?.quantity ?? quantityOfWords(words);
  if (!quantity) return nothing;
  const { scale, offset } = QUANTITY_OF_UNIT[unit] ?? { scale: 1, offset: 0 };
  const base = { ...nothing, scale, offset };
  const values = filled.map((cell) => Number(cell.replace(',', '.')) * scale);

  const cell = /\bcell\b/.test(words.join(' ')) ? words.find((word) => /^\d{1,3}$/.test(word)) : undefined;
  if (cell !== undefined && (quantity === 'voltage' || quantity === 'temperature'))
    return { ...base, role: `cell_${cell.padStart(2, '0')}_${quantity}` as Channel, sure: 'certain' };

  const subject = subjectOf(words);
  switch (quantity) {
    case 'voltage':
      if (has('mid', 'midpoint', 'centre', 'center'))
        return { ...base, role: 'midpoint_voltage', sure: 'certain' };
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
          role: device === 'monitor' || device === 'bms' ? 'battery_current' : 'source_current',
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
      if (has('ambient', 'room', 'air', 'outside', 'outdoor'))
        return { ...base, role: 'ambient_temperature', sure: 'certain' };
      if (subject === 'battery' || has('sensor'))
        return { ...base, role: 'battery_temperature', sure: 'certain' };
      if (has('internal', 'heatsink', 'board', 'cpu') || subject === 'source') return nothing;
      return device === 'monitor' || device === 'bms'
        ? { ...base, role: 'battery_temperature', sure: 'likely' }
        : {
            ...base,
            role: 'battery_temperature',
            sure: 'ask',
            question: `Is "${heading}" the battery's temperature, or the device's own?`,
          };
    case 'charge':
      return has('consumed', 'used', 'discharged', 'out')
        ? { ...base, role: 'consumed_charge', invert: median(values) > 0, sure: 'likely' }
        : nothing;
    case 'percent':
      return has('soc', 'charge', 'state', 'level', 'full', 'battery') &&
        !has('efficiency', 'humidity', 'pwm', 'duty')
        ? { ...base, role: 'soc', sure: has('soc') || (has('state') && has('charge')) ? 'certain' : 'likely' }
        : nothing;
    case 'flag':
      return { ...base, role: 'source_available', sure: 'likely' };
  }
}

const TIME_WORDS = [
  'time',
  'timestamp',
  'date',
  'datetime',
  'ora',
  'data',
  'zeit',
  'datum',
  'clock',
  'elapsed',
  'uptime',
  'epoch',
  'when',
  'logged',
];

type Quantity = 'voltage' | 'current' | 'power' | 'temperature' | 'charge' | 'percent' | 'flag';

const QUANTITY_OF_UNIT: Record<string, { quantity: Quantity; scale: number; offset: number }> = {
  v: { quantity: 'voltage', scale: 1, offset: 0 },
  vdc: { quantity: 'voltage', scale: 1, offset: 0 },
  volt: { quantity: 'voltage', scale: 1, offset: 0 },
  volts: { quantity: 'voltage', scale: 1, offset: 0 },
  mv: { quantity: 'voltage', scale: 0.001, offset: 0 },
  a: { quantity: 'current', scale: 1, offset: 0 },
  adc: { quantity: 'current', scale: 1, offset: 0 },
  amp: { quantity: 'current', scale: 1, offset: 0 },
  amps: { quantity: 'current', scale: 1, offset: 0 },
  ma: { quantity: 'current', scale: 0.001, offset: 0 },
  w: { quantity: 'power', scale: 1, offset: 0 },
  kw: { quantity: 'power', scale: 1000, offset: 0 },
  '°c': { quantity: 'temperature', scale: 1, offset: 0 },
  c: { quantity: 'temperature', scale: 1, offset: 0 },
  degc: { quantity: 'temperature', scale: 1, offset: 0 },
  '°f': { quantity: 'temperature', scale: 5 / 9, offset: 32 },
  f: { quantity: 'temperature', scale: 5 / 9, offset: 32 },
  degf: { quantity: 'temperature', scale: 5 / 9, offset: 32 },
  ah: { quantity: 'charge', scale: 1, offset: 0 },
  mah: { quantity: 'charge', scale: 0.001, offset: 0 },
  '%': { quantity: 'percent', scale: 1, offset: 0 },
  pct: { quantity: 'percent', scale: 1, offset: 0 },
};

/** Words of a heading in small letters ("Vbat" → v, bat; "battVolt" → batt, volt) and its unit, taken from brackets, a slash or the last word. */
function wordsOf(heading: string): { words: string[]; unit: string } {
  // A unit at the end must be seen before "mV" falls apart into "m" and "V".
  const trailing = /[\s_-](mV|mA|mAh|kW|Ah|degC|degF|°C|°F|pct|%)\s*$/.exec(heading);
  const spaced = (trailing ? `${heading.slice(0, trailing.index)} [${trailing[1]}]` : heading)
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/\bV(bat|batt|pv|in|out|load|cell|mid)/gi, 'voltage $1')
    .replace(/\bI(bat|batt|pv|in|out|load|chg)\b/gi, 'current $1')
    .replace(/\bT(bat|batt|amb)\b/gi, 'temperature $1');
  const bracket =
    /[[(]\s*([^\])]{1,6})\s*[\])]\s*$/.exec(spaced) ?? /(?:\/|,)\s*([°%a-zA-Z]{1,5})\s*$/.exec(spaced);
  const body = bracket ? spaced.slice(0, bracket.index) : spaced;
  const words = body
    .toLowerCase()
    .split(/[^\p{L}\p{N}°%]+/u)
    .flatMap((word) => word.split(/(?<=\p{L})(?=\d)/u))
    .filter((word) => word !== '');
  let unit = bracket?.[1]?.toLowerCase().replace(/\s+/g, '').replace('º', '°') ?? '';
  const last = words[words.length - 1];
  if (unit === '' && words.length > 1 && last !== undefined && last in QUANTITY_OF_UNIT) {
    unit = last;
    words.pop();
  }
  return { words, unit };
}

function quantityOfWords(words: string[]): Quantity | null {
  const has = (...options: string[]) => options.some((word) => words.includes(word));
  if (has('soc')) return 'percent';
  if (has('voltage', 'volt', 'volts', 'v', 'tension', 'tensione', 'spannung')) return 'voltage';
  if (has('current', 'amps', 'amp', 'amperes', 'i', 'corrente', 'strom')) return 'current';
  if (has('power', 'watts', 'potenza', 'leistung')) return 'power';
  if (has('temperature', 'temp', 't', 'temperatura', 'temperatur')) return 'temperature';
  if (has('available', 'present', 'running')) return 'flag';
  return null;
}

function subjectOf(words: string[]): 'input' | 'load' | 'battery' | 'source' | null {
  const has = (...options: string[]) => options.some((word) => words.includes(word));
  if (has('panel', 'pv', 'array', 'input', 'in', 'pannello')) return 'input';
  if (has('mains', 'grid', 'ac', 'line', 'rete', 'netz') && !has('charger', 'output', 'battery', 'batt'))
    return 'input';
  if (has('load', 'loads', 'consumer', 'consumers', 'carico', 'last')) return 'load';
  if (has('battery', 'batt', 'bat', 'bank', 'pack', 'batteria', 'batterie', 'shunt')) return 'battery';
  if (
    has(
      'charger',
      'output',
      'out',
      'source',
      'rectifier',
      'controller',
      'solar',
      'chg',
      'alternator',
      'generator',
    )
  )
    return 'source';
  return null;
}

const powerOf = (subject: ReturnType<typeof subjectOf>, device: DeviceKind): ReadChannel =>
  subject === 'load' || (subject === null && device === 'load')
    ? 'load_power'
    : subject === 'source' || (subject === null && device === 'source')
      ? 'source_power'
      : 'battery_power';

const defaultVoltage = (device: DeviceKind): Channel =>
  device === 'source' ? 'source_voltage' : device === 'load' ? 'load_voltage' : 'battery_voltage';
const defaultCurrent = (device: DeviceKind): Channel =>
  device === 'source' ? 'source_current' : device === 'load' ? 'load_current' : 'battery_current';

/** Charge and discharge in columns of their own: only where there are both. */
function settleDirections(columns: ColumnReading[]): void {
  const currents = columns.filter((column) => {
    const { words, unit } = wordsOf(column.heading);
    const amps = QUANTITY_OF_UNIT[unit]?.quantity === 'current' || quantityOfWords(words) === 'current';
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
function settleCells(columns: ColumnReading[], rows: string[][], dialect: Dialect): void {
  const runs = new Map<string, { column: ColumnReading; number: number; scale: number }[]>();
  for (const column of columns) {
    if (column.role === 'time' || (column.role !== null && !/^(battery|source)_voltage$/.test(column.role)))
      continue;
    const match = /^(.*?)[\s_#-]*(\d{1,2})(?=\D*$)(.*)$/.exec(column.heading.trim());
    if (!match) continue;
    const values = rows
      .map((row) => row[column.index] ?? '')
      .filter((cell) => isNumber(cell, dialect.decimalChar))
      .map((cell) => Number(cell.replace(',', '.')));
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
function dropNeedlessPower(columns: ColumnReading[]): void {
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

/** Two columns cannot be one channel: the surer one keeps it, the others are asked about. */
function settleDoubles(columns: ColumnReading[]): void {
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
    loser.sure = 'ask';
    loser.question = `"${loser.heading}" and another column both look like ${String(column.role).replace(/_/g, ' ')}: which one is it?`;
    loser.role = null;
  }
}
