/** From recognition to a plan: what the sender says goes first, what nobody says is asked for by name. */

import { recognise } from './recognise';
import { NotALog } from './sniff';
import { type LogDescription, planReading, takeInLog } from './takeIn';

const LOG =
  'Logged at,Output V,Output A,Board temperature,Note\n' +
  Array.from({ length: 6 }, (_, i) => `2026-09-21 06:3${i},${(27 + i / 10).toFixed(1)},${10 - i},41,ok`).join(
    '\n',
  ) +
  '\n';
const bytes = new TextEncoder().encode(LOG);
const reading = recognise(bytes, 'source');
const plan = (description: Partial<LogDescription> = {}) =>
  planReading(reading, { device: 'mains', ...description }, 'Europe/Rome');

test('recognised columns are read, the device’s own temperature and notes are left out', () => {
  expect(plan().columns.map((one) => [one.heading, one.channel])).toEqual([
    ['Output V', 'source_voltage'],
    ['Output A', 'source_current'],
  ]);
  expect(plan()).toMatchObject({
    device: 'mains',
    timeColumn: 0,
    timeZone: 'Europe/Rome',
  });
});

test('told columns replace recognition: only they are read, with their scale and sign', () => {
  const { series } = takeInLog(
    bytes,
    'source',
    {
      device: 'mains',
      timeZone: 'UTC',
      clockOffsetSeconds: -90,
      columns: {
        'Output A': { channel: 'battery_current', scale: 2, invert: true },
        'Board temperature': { channel: 'ambient_temperature', offset: 1 },
      },
    },
    'Europe/Rome',
  );
  expect(Object.keys(series.channels).sort()).toEqual(['ambient_temperature', 'battery_current']);
  expect(series.channels.battery_current![0]).toBe(-20);
  expect(series.channels.ambient_temperature![0]).toBe(40);
  expect(series.time[0]).toBe(Date.UTC(2026, 8, 21, 6, 28, 30));
});

test('local times are read in the log’s zone, else the system’s', () => {
  const first = (timeZone?: string) =>
    takeInLog(bytes, 'source', { device: 'mains', timeZone }, 'Europe/Rome').series.time[0];
  expect(first()).toBe(Date.UTC(2026, 8, 21, 4, 30));
  expect(first('UTC')).toBe(Date.UTC(2026, 8, 21, 6, 30));
});

describe('what cannot be is refused with a sentence that names the column', () => {
  test.each<[string, Partial<LogDescription>, RegExp]>([
    [
      'a column that is not there',
      { columns: { 'Output W': { channel: 'source_current' } } },
      /no column "Output W"\. Its columns are: "Logged at", "Output V"/,
    ],
    [
      'a channel that is none',
      { columns: { 'Output V': { channel: 'volts' } } },
      /Column "Output V" is said to be "volts", which is not a channel/,
    ],
    [
      'one channel twice',
      { columns: { 'Output V': { channel: 'source_voltage' }, 'Output A': { channel: 'source_voltage' } } },
      /Two columns are said to be source voltage/,
    ],
    [
      'nothing to read',
      { columns: { 'Logged at': { channel: 'time' } } },
      /no column that is a voltage, a current or a temperature/,
    ],
  ])('%s', (_, description, sentence) => {
    expect(() => plan(description)).toThrow(NotALog);
    expect(() => plan(description)).toThrow(sentence);
  });

  test('a column that is asked about and not told', () => {
    const text = 'time,Voltage,Temperature\n2026-09-21T06:30:00Z,27.1,18\n2026-09-21T06:31:00Z,27.1,18\n';
    const asked = recognise(new TextEncoder().encode(text), 'source');
    expect(() => planReading(asked, { device: 'mains' }, 'UTC')).toThrow(
      /Is "Temperature" the battery's temperature, or the device's own\?/,
    );
    const told = { Voltage: { channel: 'source_voltage' }, Temperature: { channel: 'battery_temperature' } };
    expect(planReading(asked, { device: 'mains', columns: told }, 'UTC').columns).toHaveLength(2);
  });

  test('a log without times', () => {
    const text = 'Voltage,Current\n27.1,3\n27.2,4\n27.3,5\n';
    expect(() => takeInLog(new TextEncoder().encode(text), 'source', { device: 'mains' }, 'UTC')).toThrow(
      /No column with times was recognised/,
    );
  });

  test('a log of one reading', () => {
    const text = 'time,voltage\n2026-09-21T06:30:00Z,27.1\n';
    expect(() => takeInLog(new TextEncoder().encode(text), 'source', { device: 'mains' }, 'UTC')).toThrow(
      /Only 1 of 1 rows could be read/,
    );
  });
});
