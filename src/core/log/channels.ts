/** The channels that a log can carry, with their units, and the stages that a device can report. */

import type { Span } from '../quantity/span';

export interface ChannelInfo {
  label: string;
  unit: 'V' | 'A' | 'W' | '°C' | '%' | 'Ah' | '';
  digits: number;
}

const CHANNELS = {
  battery_voltage: { label: 'Battery voltage', unit: 'V', digits: 2 },
  battery_current: { label: 'Battery current', unit: 'A', digits: 1 },
  battery_temperature: { label: 'Battery temperature', unit: '°C', digits: 1 },
  ambient_temperature: { label: 'Ambient temperature', unit: '°C', digits: 1 },
  soc: { label: 'State of charge', unit: '%', digits: 1 },
  consumed_charge: { label: 'Consumed charge', unit: 'Ah', digits: 1 },
  source_voltage: { label: 'Source voltage', unit: 'V', digits: 2 },
  source_current: { label: 'Source current', unit: 'A', digits: 1 },
  source_stage: { label: 'Stage reported', unit: '', digits: 0 },
  source_available: { label: 'Source available', unit: '', digits: 0 },
  source_input_power: { label: 'Source input power', unit: 'W', digits: 0 },
  source_input_voltage: { label: 'Source input voltage', unit: 'V', digits: 1 },
  load_voltage: { label: 'Load voltage', unit: 'V', digits: 2 },
  load_current: { label: 'Load current', unit: 'A', digits: 1 },
  midpoint_voltage: { label: 'Midpoint voltage', unit: 'V', digits: 2 },
  bms_charge_allowed: { label: 'BMS allows charge', unit: '', digits: 0 },
  bms_discharge_allowed: { label: 'BMS allows discharge', unit: '', digits: 0 },
} satisfies Record<string, ChannelInfo>;

export type NamedChannel = keyof typeof CHANNELS;
/** `cell_01_voltage`, `cell_01_temperature` and so on stand beside the named channels. */
export type Channel = NamedChannel | `cell_${string}_voltage` | `cell_${string}_temperature`;

export const NAMED_CHANNELS = Object.keys(CHANNELS) as NamedChannel[];

const CELL = /^cell_(\d{2,3})_(voltage|temperature)$/;

/** Number of the cell whose voltage a channel is, "5"; null for any other channel. */
export const cellNumber = (channel: string): string | null => {
  const cell = CELL.exec(channel);
  return cell?.[2] === 'voltage' ? String(Number(cell[1])) : null;
};

export const isChannel = (text: string): text is Channel => Object.hasOwn(CHANNELS, text) || CELL.test(text);

export function channelInfo(channel: ReadChannel): ChannelInfo {
  if (Object.hasOwn(CHANNELS, channel)) return CHANNELS[channel as NamedChannel];
  if (Object.hasOwn(RAW_CHANNELS, channel)) return RAW_CHANNELS[channel as RawChannel];
  const match = CELL.exec(channel);
  if (!match)
    throw new Error(`"${channel}" is not a channel: see the list of channels in the bundle format.`);
  return match[2] === 'voltage'
    ? { label: `Cell ${Number(match[1])} voltage`, unit: 'V', digits: 3 }
    : { label: `Cell ${Number(match[1])} temperature`, unit: '°C', digits: 1 };
}

/** Stages as a device reports them; their place in this list is their number in a `source_stage` column. */
export const REPORTED_STAGES = ['off', 'bulk', 'absorption', 'float', 'equalise', 'fault'] as const;
export type ReportedStage = (typeof REPORTED_STAGES)[number];

const STAGE_WORDS: Record<ReportedStage, readonly string[]> = {
  off: [
    ...[
      'off',
      'idle',
      'standby',
      'night',
      'sleep',
      'no sun',
      'no supply',
      'not charging',
      'stopped',
      'disabled',
    ],
    ...[
      'inactive',
      'sleeping',
      'rest',
      'resting',
      'ready',
      'wait',
      'waiting',
      'no charge',
      'no ac',
      'no mains',
    ],
    ...['aus', 'spento', 'arrêt', 'apagado'],
  ],
  bulk: [
    ...['bulk', 'boost charge', 'constant current', 'cc', 'main', 'main charge', 'mppt', 'i', 'iphase'],
    ...[
      'tracking',
      'mppt tracking',
      'soft start',
      'start',
      'starting',
      'initial',
      'hauptladung',
      'starkladung',
    ],
  ],
  absorption: [
    ...[
      'absorption',
      'absorb',
      'absorbing',
      'abs',
      'constant voltage',
      'cv',
      'topping',
      'boost',
      'acceptance',
    ],
    ...['taper', 'saturation', 'u', 'uphase', 'nachladung', 'assorbimento', 'absorción'],
  ],
  float: [
    ...['float', 'floating', 'maintenance', 'maintain', 'maintaining', 'trickle', 'storage'],
    ...['erhaltung', 'erhaltungsladung', 'mantenimento', 'flotación', 'entretien'],
  ],
  equalise: [
    ...['equalise', 'equalize', 'equalisation', 'equalization', 'equalising', 'equalizing', 'eq'],
    ...['ausgleich', 'ausgleichsladung', 'equalizzazione', 'égalisation', 'ecualización'],
  ],
  fault: ['fault', 'error', 'alarm', 'failed', 'fehler', 'störung', 'guasto', 'défaut'],
};

const WORD_TO_STAGE = new Map(
  REPORTED_STAGES.flatMap((stage, number) => STAGE_WORDS[stage].map((word) => [word, number] as const)),
);

/** Number of a reported stage in {@link REPORTED_STAGES}, or NaN for a word that is not known: "Bulk", "3 - Float charge". */
export function stageNumber(word: string): number {
  const said = word.trim().toLowerCase().replace(/[_-]+/g, ' ');
  const known = WORD_TO_STAGE.get(said);
  if (known !== undefined) return known;
  const bare = said
    .replace(/\(.*?\)/g, ' ')
    .replace(/[^\p{L} ]+/gu, ' ')
    .replace(/\s(charge|charging|stage|phase|mode|ladung)\s*$/, '')
    .trim()
    .replace(/\s+/g, ' ');
  return WORD_TO_STAGE.get(bare) ?? NaN;
}

/** Words of a state that say that something works or charges, and not in which stage. */
const NO_STAGE = [
  ...['charging', 'charge', 'on', 'ok', 'okay', 'normal', 'good', 'fine', 'active', 'running', 'working'],
  ...[
    'connected',
    'online',
    'enabled',
    'warning',
    'laden',
    'lädt',
    'carica',
    'in carica',
    'cargando',
    'en charge',
  ],
];
export const tellsNoStage = (word: string): boolean => NO_STAGE.includes(word.trim().toLowerCase());

/** A reader of stage words that knows some more, as a person has told them. @param words word to stage */
export function stageReader(words: Readonly<Record<string, string>> = {}): (word: string) => number {
  const told = new Map(
    Object.entries(words).map(([word, stage]) => [
      word.trim().toLowerCase(),
      REPORTED_STAGES.indexOf(stage as ReportedStage),
    ]),
  );
  return (word) => {
    const found = told.get(word.trim().toLowerCase());
    return found === undefined ? stageNumber(word) : found < 0 ? NaN : found;
  };
}

/**
 * What some logs write instead of a channel: power where there should be a current, charge and discharge in columns of their own, the
 * halves of a bank and not the whole. They are turned into channels when a log has been read, and stand in no Series.
 */
const RAW_CHANNELS = {
  battery_charge_current: { label: 'Battery current while charging', unit: 'A', digits: 1 },
  battery_discharge_current: { label: 'Battery current while discharging', unit: 'A', digits: 1 },
  upper_half_voltage: { label: 'Voltage of the upper half', unit: 'V', digits: 2 },
  battery_power: { label: 'Battery power', unit: 'W', digits: 0 },
  source_power: { label: 'Source output power', unit: 'W', digits: 0 },
  load_power: { label: 'Load power', unit: 'W', digits: 0 },
} satisfies Record<string, ChannelInfo>;

export type RawChannel = keyof typeof RAW_CHANNELS;
export const RAW_CHANNEL_NAMES = Object.keys(RAW_CHANNELS) as RawChannel[];
/** What a column of a file can be read as. */
export type ReadChannel = Channel | RawChannel;
export const isReadChannel = (text: string): text is ReadChannel =>
  isChannel(text) || Object.hasOwn(RAW_CHANNELS, text);

/** Units that a column may be written in, by the unit of its channel; a value is (written − offset) · scale. */
export const WRITTEN_UNITS: Readonly<
  Record<string, readonly { unit: string; scale: number; offset: number }[]>
> = {
  V: [
    { unit: 'V', scale: 1, offset: 0 },
    { unit: 'mV', scale: 0.001, offset: 0 },
  ],
  A: [
    { unit: 'A', scale: 1, offset: 0 },
    { unit: 'mA', scale: 0.001, offset: 0 },
  ],
  W: [
    { unit: 'W', scale: 1, offset: 0 },
    { unit: 'kW', scale: 1000, offset: 0 },
  ],
  '°C': [
    { unit: '°C', scale: 1, offset: 0 },
    { unit: '°F', scale: 5 / 9, offset: 32 },
  ],
  Ah: [
    { unit: 'Ah', scale: 1, offset: 0 },
    { unit: 'mAh', scale: 0.001, offset: 0 },
  ],
};

/** One device's log as columns on one clock. Times rise; NaN is missing. */
export interface Series {
  /** Id of the source, load, monitor or BMS that wrote it. */
  device: string;
  /** Epoch milliseconds, UTC. */
  time: Float64Array;
  /** SI units, current positive into the battery; every array is as long as `time`. */
  channels: Partial<Record<Channel, Float32Array>>;
}

export const spanOf = (series: Series): Span => ({
  from: series.time[0] ?? NaN,
  to: series.time[series.time.length - 1] ?? NaN,
});

/** What a series is made of, to be handed to another thread. */
export const buffersOf = (series: Series): ArrayBuffer[] =>
  [series.time, ...Object.values(series.channels)].map((column) => column!.buffer as ArrayBuffer);

/** Channels of a log that are voltages of cells, in the order of the cells. */
export const cellChannels = ({ channels }: Pick<Series, 'channels'>): Channel[] =>
  (Object.keys(channels) as Channel[]).filter((one) => cellNumber(one) !== null).sort();
