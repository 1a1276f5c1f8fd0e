/** What the strips are made of, without a browser: lanes, tiles and reading a value off them. */

import { MINUTE } from '@/core/quantity/span';
import type { RecordingInfo } from '@/core/log/recording';
import { sliceExtent } from '@/core/log/pyramid';
import { TILE_BUCKETS, tileSpan } from '@/core/log/tiles';
import { demoSite } from '@/core/simulate/demo';
import { extentOf, valueAt } from './draw';
import { drawnChannels, lanesOf } from './lanes';
import { tileSource } from './tileSource';

const { system } = demoSite('tide-gauge');
const START = Date.UTC(2026, 0, 5);
const COUNT = 3000;
const TIME = Float64Array.from({ length: COUNT }, (_, i) => START + i * MINUTE);
const VOLTS = Float32Array.from({ length: COUNT }, (_, i) => 12 + Math.sin(i / 200));

const recording = (id: string, device: string, channels: RecordingInfo['channels']): RecordingInfo => ({
  id,
  device,
  fileName: `${id}.csv`,
  rowCount: COUNT,
  problemCount: 0,
  problems: [],
  zoned: false,
  clock: { timeZone: 'UTC', offsetSeconds: 0, secondsPerDay: 0 },
  clockVersion: 1,
  replaces: [],
  unweighed: null,
  sampleCount: COUNT,
  from: TIME[0]!,
  to: TIME[COUNT - 1]!,
  channels,
});
const charger = recording('c', 'solar', [
  'source_voltage',
  'source_current',
  'battery_temperature',
  'source_input_voltage',
]);
const monitor = recording('m', 'monitor', ['battery_voltage', 'battery_current', 'soc']);

describe('lanes', () => {
  test('follow from the channels that were recorded, in reading order', () => {
    expect(lanesOf(system, [charger, monitor]).map((lane) => lane.id)).toEqual([
      'volts',
      'amps',
      'soc',
      'celsius',
    ]);
    expect(lanesOf(system, [charger]).map((lane) => lane.id)).toEqual(['volts', 'amps', 'celsius']);
    expect(lanesOf(system, [])).toEqual([]);
  });
  test('name the device, and tell traces of a lane apart by their dashes', () => {
    const [volts] = lanesOf(system, [charger, monitor]);
    expect(volts!.traces.map((trace) => trace.label)).toEqual([
      'Source voltage, Solar controller',
      'Battery voltage, Monitor',
    ]);
    expect(new Set(volts!.traces.map((trace) => trace.dash.join())).size).toBe(2);
    expect(volts!.traces[0]!.gapMs).toBe(3 * MINUTE);
  });
  test('only drawn channels are fetched', () => {
    expect(drawnChannels(charger)).toEqual(['source_voltage', 'source_current', 'battery_temperature']);
  });
});

/** A server of tiles over VOLTS for every channel. */
function serve(answer: { fail?: boolean } = {}): string[] {
  const asked: string[] = [];
  globalThis.fetch = (async (url: string) => {
    asked.push(url);
    if (answer.fail) return new Response('', { status: 503 });
    const query = new URL(url, 'http://here').searchParams;
    const { from, to } = tileSpan(Number(query.get('level')), Number(query.get('index')));
    const { min, max } = sliceExtent(TIME, { min: VOLTS, max: VOLTS }, from, to, TILE_BUCKETS);
    const channels = query.get('channels')!.split(',');
    const out = new Float32Array(channels.length * 2 * TILE_BUCKETS);
    channels.forEach((_, i) => {
      out.set(min, 2 * i * TILE_BUCKETS);
      out.set(max, (2 * i + 1) * TILE_BUCKETS);
    });
    return new Response(out.buffer);
  }) as typeof fetch;
  return asked;
}
const settle = () => new Promise((done) => setTimeout(done, 20));

describe('tiles', () => {
  const [lane] = lanesOf(system, [monitor]);
  const view = { from: START, to: TIME[COUNT - 1]! };

  test('a tile is asked for once, with all channels of its recording', async () => {
    const asked = serve();
    let arrivals = 0;
    const source = tileSource(
      () => arrivals++,
      () => undefined,
    );
    for (let i = 0; i < 3; i++) expect(extentOf(lane!, source, view, 600)).toBeNull();
    await settle();
    expect(new Set(asked).size).toBe(asked.length);
    expect(asked.every((url) => url.includes('channels=battery_voltage,battery_current,soc'))).toBe(true);
    expect(arrivals).toBe(asked.length);
    const [low, high] = extentOf(lane!, source, view, 600)!;
    expect(low).toBeCloseTo(11, 2);
    expect(high).toBeCloseTo(13, 2);
  });

  test('until a finer tile comes, a coarser one is drawn', async () => {
    serve();
    const source = tileSource(
      () => undefined,
      () => undefined,
    );
    extentOf(lane!, source, view, 600);
    await settle();
    serve({ fail: true });
    const near = { from: START + 500 * MINUTE, to: START + 560 * MINUTE };
    const found = extentOf(lane!, source, near, 600)!;
    expect(Math.abs(found[0] - VOLTS[530]!)).toBeLessThan(0.4);
  });

  test('a failure is told, and the tile asked for again', async () => {
    const asked = serve({ fail: true });
    let failures = 0;
    const source = tileSource(
      () => undefined,
      () => failures++,
    );
    extentOf(lane!, source, view, 600);
    await settle();
    const first = asked.length;
    expect(failures).toBe(first);
    extentOf(lane!, source, view, 600);
    await settle();
    expect(asked.length).toBe(2 * first);
  });

  test('the value under the cursor is that of the log; in a gap there is none', async () => {
    serve();
    const source = tileSource(
      () => undefined,
      () => undefined,
    );
    const trace = lane!.traces[0]!;
    const near = { from: START + 1000 * MINUTE, to: START + 1600 * MINUTE };
    extentOf(lane!, source, near, 600);
    await settle();
    for (const minute of [1010, 1234, 1500]) {
      valueAt(trace, source, near, 600, START + minute * MINUTE);
      await settle();
      expect(
        Math.abs(valueAt(trace, source, near, 600, START + minute * MINUTE) - VOLTS[minute]!),
      ).toBeLessThan(0.02);
    }
    expect(valueAt(trace, source, near, 600, START - 10 * 3_600_000)).toBeNaN();
  });
});
