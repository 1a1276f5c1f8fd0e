/** Which lanes the strips have, from the channels that were recorded. */

import { type Channel, channelInfo } from '@/core/log/channels';
import { gapLimit } from '@/core/log/grid';
import type { System } from '@/core/system/schema';
import type { RecordingInfo } from '@/core/log/recording';

/** Room for the names and figures of a lane, left of its plot, px. */
export const GUTTER = 52;

export interface Trace {
  recording: RecordingInfo;
  channel: Channel;
  label: string;
  /** CSS variable of its ink, and its dashes: traces of one lane differ by these. */
  ink: string;
  dash: number[];
  /** Silence longer than this breaks the trace, ms. */
  gapMs: number;
}

export interface Lane {
  id: 'volts' | 'amps' | 'soc' | 'celsius';
  title: string;
  unit: string;
  digits: number;
  height: number;
  traces: Trace[];
}

const LANES: {
  id: Lane['id'];
  title: string;
  unit: string;
  height: number;
  ink: string;
  channels: Channel[];
}[] = [
  {
    id: 'volts',
    title: 'Voltage',
    unit: 'V',
    height: 180,
    ink: '--ink-volts',
    channels: ['source_voltage', 'battery_voltage', 'load_voltage'],
  },
  {
    id: 'amps',
    title: 'Current',
    unit: 'A',
    height: 150,
    ink: '--ink-amps',
    channels: ['source_current', 'battery_current', 'load_current'],
  },
  { id: 'soc', title: 'Charge', unit: '%', height: 76, ink: '--ink-soc', channels: ['soc'] },
  {
    id: 'celsius',
    title: 'Temp.',
    unit: '°C',
    height: 70,
    ink: '--ink-celsius',
    channels: ['battery_temperature', 'ambient_temperature'],
  },
];

const DASHES = [[], [7, 3], [2, 3], [9, 3, 2, 3]];

export function lanesOf(system: System, recordings: readonly RecordingInfo[]): Lane[] {
  const nameOf = (device: string) =>
    system.sources.find((one) => one.id === device)?.name ??
    system.loads.find((one) => one.id === device)?.name ??
    system.batteries?.find((one) => one.id === device)?.name ??
    (device === 'bms' ? 'BMS' : 'Monitor');
  return LANES.map((lane) => {
    const traces: Trace[] = [];
    for (const channel of lane.channels)
      for (const recording of recordings)
        if (recording.channels.includes(channel))
          traces.push({
            recording,
            channel,
            label: `${channelInfo(channel).label}, ${nameOf(recording.device)}`,
            ink: lane.ink,
            dash: DASHES[traces.length % DASHES.length]!,
            gapMs: gapLimit((recording.to - recording.from) / Math.max(1, recording.sampleCount - 1)),
          });
    return { ...lane, digits: traces[0] ? channelInfo(traces[0].channel).digits : 1, traces };
  }).filter((lane) => lane.traces.length > 0);
}

/** All channels of a recording that any lane draws: they are fetched together. */
export const drawnChannels = (recording: RecordingInfo): Channel[] =>
  LANES.flatMap((lane) => lane.channels).filter((channel) => recording.channels.includes(channel));
