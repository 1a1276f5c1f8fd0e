/** Which lanes the strips have, from the channels that were recorded and from what the technician wants to see. */

import { type Channel, cellNumber, channelInfo } from '@/core/log/channels';
import { gapLimit } from '@/core/log/grid';
import type { System } from '@/core/system/schema';
import { deviceName } from '@/core/system/sourceName';
import type { RecordingInfo } from '@/core/log/recording';

/** Room for the names and figures of a lane, left of its plot, px. */
export const GUTTER = 52;

/** A channel of a recording. */
export interface ChannelOf {
  recording: RecordingInfo;
  channel: Channel;
}

export interface Trace extends ChannelOf {
  label: string;
  /** CSS variable of its ink, and its dashes: traces of one lane differ by these. */
  ink: string;
  dash: number[];
  /** Silence longer than this breaks the trace, ms. */
  gapMs: number;
  /** Joined with another: less it, or times it. */
  with?: ChannelOf & { by: 'less' | 'times' };
}

export const LANE_IDS = ['volts', 'amps', 'soc', 'celsius', 'cells', 'watts', 'difference'] as const;
export type LaneId = (typeof LANE_IDS)[number];

export interface Lane {
  id: LaneId;
  /** Of its own among the lanes shown: traces may stand apart. */
  key: string;
  /** Of the trace that stands apart, on a scale of its own. */
  name?: string;
  title: string;
  unit: string;
  digits: number;
  height: number;
  traces: Trace[];
}

interface LaneKind {
  id: LaneId;
  title: string;
  unit: string;
  height: number;
  ink: string;
  /** Shown until somebody says otherwise. */
  usual: boolean;
  has(channel: Channel): boolean;
}

const oneOf =
  (...channels: Channel[]) =>
  (channel: Channel) =>
    channels.includes(channel);
const nothing = () => false;

/** Voltages of a kind stand in the order in which they are compared. */
const ORDER: readonly Channel[] = [
  'source_voltage',
  'battery_voltage',
  'load_voltage',
  'source_current',
  'battery_current',
  'load_current',
  'soc',
  'battery_temperature',
  'ambient_temperature',
];

export const LANES: readonly LaneKind[] = [
  {
    id: 'volts',
    title: 'Voltage',
    unit: 'V',
    height: 180,
    ink: '--ink-volts',
    usual: true,
    has: oneOf('source_voltage', 'battery_voltage', 'load_voltage'),
  },
  {
    id: 'amps',
    title: 'Current',
    unit: 'A',
    height: 150,
    ink: '--ink-amps',
    usual: true,
    has: oneOf('source_current', 'battery_current', 'load_current'),
  },
  { id: 'soc', title: 'Charge', unit: '%', height: 76, ink: '--ink-soc', usual: true, has: oneOf('soc') },
  {
    id: 'celsius',
    title: 'Temp.',
    unit: '°C',
    height: 70,
    ink: '--ink-celsius',
    usual: true,
    has: oneOf('battery_temperature', 'ambient_temperature'),
  },
  {
    id: 'cells',
    title: 'Cells',
    unit: 'V',
    height: 120,
    ink: '--ink-volts',
    usual: false,
    has: (channel) => cellNumber(channel) !== null,
  },
  { id: 'watts', title: 'Power', unit: 'W', height: 110, ink: '--ink-amps', usual: false, has: nothing },
  { id: 'difference', title: 'Diff.', unit: '', height: 110, ink: '--ink-volts', usual: false, has: nothing },
];

const DASHES = [[], [7, 3], [2, 3], [9, 3, 2, 3]];

/** What the technician wants to see, kept for each job. */
export interface LaneWishes {
  /** Lanes in their order; those that are not named follow. */
  order: LaneId[];
  shown: Partial<Record<LaneId, boolean>>;
  /** Of the usual height. */
  sizes: Partial<Record<LaneId, number>>;
  /** Each trace in a strip and on a scale of its own. */
  apart: Partial<Record<LaneId, boolean>>;
  /** Two channels whose difference is drawn, as `recording/channel`. */
  difference: { of: string; less: string } | null;
}

export const NO_WISHES: LaneWishes = { order: [], shown: {}, sizes: {}, apart: {}, difference: null };
export const SIZES = [0.6, 1, 1.6, 2.4] as const;

/** Named in an address or a list. */
export const nameOfChannel = ({ recording, channel }: ChannelOf): string => `${recording.id}/${channel}`;

/** Every channel that can be drawn. */
export const channelsOf = (recordings: readonly RecordingInfo[]): ChannelOf[] =>
  recordings.flatMap((recording) =>
    recording.channels
      .filter((channel) => LANES.some((lane) => lane.has(channel)))
      .map((channel) => ({ recording, channel })),
  );

export function labelOfChannel(system: System, { recording: { device }, channel }: ChannelOf): string {
  return `${channelInfo(channel).label}, ${deviceName(system, device)}`;
}

/** Lanes that these recordings can fill, wanted or not. */
export function possibleLanes(recordings: readonly RecordingInfo[]): LaneKind[] {
  const all = channelsOf(recordings);
  return LANES.filter(({ id, has }) =>
    id === 'watts'
      ? powerOf(all) !== null
      : id === 'difference'
        ? all.length > 1
        : all.some((one) => has(one.channel)),
  );
}

export const isShown = ({ id, usual }: LaneKind, { shown }: LaneWishes): boolean => shown[id] ?? usual;

export function lanesOf(
  system: System,
  recordings: readonly RecordingInfo[],
  wishes: LaneWishes = NO_WISHES,
): Lane[] {
  const all = channelsOf(recordings);
  const place = (id: LaneId) => {
    const at = wishes.order.indexOf(id);
    return at < 0 ? wishes.order.length + LANES.findIndex((one) => one.id === id) : at;
  };
  return possibleLanes(recordings)
    .filter((one) => isShown(one, wishes))
    .sort((a, b) => place(a.id) - place(b.id))
    .map((kind): Lane => {
      const traces =
        kind.id === 'watts'
          ? powerTraces(system, all, kind)
          : kind.id === 'difference'
            ? differenceTraces(system, all, kind, wishes)
            : ownTraces(system, all, kind);
      const first = traces[0];
      return {
        id: kind.id,
        key: kind.id,
        title: kind.title,
        unit: kind.unit || (first ? channelInfo(first.channel).unit : ''),
        height: Math.round(kind.height * (wishes.sizes[kind.id] ?? 1)),
        digits: kind.id === 'watts' ? 0 : first ? channelInfo(first.channel).digits : 1,
        traces,
      };
    })
    .filter((lane) => lane.traces.length > 0)
    .flatMap((lane) => (wishes.apart[lane.id] && canStandApart(lane) ? setTracesApart(lane) : lane));
}

/** Several traces, and few enough to be told apart: cells are compared on one scale. */
const canStandApart = ({ id, traces }: Lane): boolean => id !== 'cells' && traces.length > 1;

/** Traces apart are lower than together, but never too low to be read, px. */
const LEAST_HEIGHT = 64;

const setTracesApart = (lane: Lane): Lane[] =>
  lane.traces.map((trace) => ({
    ...lane,
    key: `${lane.id} ${nameOfChannel(trace)}`,
    height: Math.max(LEAST_HEIGHT, Math.round((1.4 * lane.height) / lane.traces.length)),
    name: trace.label,
    traces: [trace],
  }));

const orderOf = (channel: Channel): number => {
  const at = ORDER.indexOf(channel);
  return at < 0 ? ORDER.length : at;
};

const traceOf = (system: System, one: ChannelOf, ink: string, nth: number): Trace => ({
  ...one,
  label: labelOfChannel(system, one),
  ink,
  dash: DASHES[nth % DASHES.length]!,
  gapMs: gapLimit((one.recording.to - one.recording.from) / Math.max(1, one.recording.sampleCount - 1)),
});

function ownTraces(system: System, all: readonly ChannelOf[], { id, ink, has }: LaneKind): Trace[] {
  const own = all.filter((one) => has(one.channel));
  const sorted = [...own].sort((a, b) => orderOf(a.channel) - orderOf(b.channel));
  // Sixteen dashes nobody tells apart: cells share one, and the read-out names the ends.
  return sorted.map((one, nth) => traceOf(system, one, ink, id === 'cells' ? 0 : nth));
}

/** Voltage and current of the battery in one log; the power is their product. */
function powerOf(all: readonly ChannelOf[]): { volts: ChannelOf; amps: ChannelOf } | null {
  for (const amps of all.filter((one) => one.channel === 'battery_current')) {
    const volts = all.find(
      (one) => one.channel === 'battery_voltage' && one.recording.id === amps.recording.id,
    );
    if (volts) return { volts, amps };
  }
  return null;
}

function powerTraces(system: System, all: readonly ChannelOf[], { ink }: LaneKind): Trace[] {
  const found = powerOf(all);
  if (!found) return [];
  const trace = traceOf(system, found.amps, ink, 0);
  return [
    {
      ...trace,
      label: trace.label.replace(/^[^,]*/, 'Power into the battery'),
      with: { ...found.volts, by: 'times' },
    },
  ];
}

function differenceTraces(
  system: System,
  all: readonly ChannelOf[],
  { ink }: LaneKind,
  { difference }: LaneWishes,
): Trace[] {
  const of = all.find((one) => nameOfChannel(one) === difference?.of);
  const less = all.find((one) => nameOfChannel(one) === difference?.less);
  if (!of || !less) return [];
  const trace = traceOf(system, of, ink, 0);
  return [
    { ...trace, label: `${trace.label} less ${labelOfChannel(system, less)}`, with: { ...less, by: 'less' } },
  ];
}

/** So many channels one request may name. */
const MOST_TOGETHER = 40;

/** Channels of a recording that are fetched with one of it: its cells together, and all others that lanes draw. */
export function fetchedWith({ channels }: Pick<RecordingInfo, 'channels'>, channel: Channel): Channel[] {
  const isCell = cellNumber(channel) !== null;
  const together = channels.filter((one) =>
    LANES.some((lane) => lane.has(one) && (lane.id === 'cells') === isCell),
  );
  const from = Math.floor(together.indexOf(channel) / MOST_TOGETHER) * MOST_TOGETHER;
  return together.slice(from, from + MOST_TOGETHER);
}
