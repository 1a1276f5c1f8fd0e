/** What the strips are made of, without a browser: lanes, tiles and reading a value off them. */

import { HOUR, MINUTE } from '@/core/quantity/span';
import type { RecordingInfo } from '@/core/log/recording';
import { sliceExtent } from '@/core/log/pyramid';
import { TILE_BUCKETS, tileSpan } from '@/core/log/tiles';
import { demoSite } from '@/core/simulate/demo';
import { extentOf, valueAt } from './draw';
import { diagnose } from '@/core/diagnosis/diagnose';
import { fitting } from '@/ui/commands/Commands';
import { eventsAt, eventsOf, nextEvent } from './events';
import { fetchedWith, type LaneWishes, lanesOf, NO_WISHES, possibleLanes } from './lanes';
import { keyActions, movedMark, type StripTools } from './stripKeys';
import { eventRows, traceRows } from './tableRows';
import { addressOfSpan, spanOfAddress } from './viewAddress';
import { spanOfZoom } from './zooms';
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
    expect(fetchedWith(charger, 'source_voltage')).toEqual([
      'source_voltage',
      'source_current',
      'battery_temperature',
    ]);
  });
});

/** A server of tiles over VOLTS for every channel. */
function serve(answer: { fail?: boolean; lower?: number } = {}): string[] {
  const asked: string[] = [];
  globalThis.fetch = (async (url: string) => {
    asked.push(url);
    if (answer.fail) return new Response('', { status: 503 });
    const query = new URL(url, 'http://here').searchParams;
    const { from, to } = tileSpan(Number(query.get('level')), Number(query.get('index')));
    const values = VOLTS.map((one) => one - (answer.lower ?? 0));
    const { min, max } = sliceExtent(TIME, { min: values, max: values }, from, to, TILE_BUCKETS);
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

describe('what the technician wants to see', () => {
  const bms = recording('b', 'bms', [
    'battery_current',
    'battery_voltage',
    'cell_01_voltage',
    'cell_02_voltage',
  ]);
  const shown = (wishes: Partial<LaneWishes>) =>
    lanesOf(system, [charger, monitor, bms], { ...NO_WISHES, ...wishes });
  test('cells, power and a difference are there to be asked for', () => {
    expect(possibleLanes([charger, monitor, bms]).map((one) => one.id)).toEqual([
      'volts',
      'amps',
      'soc',
      'celsius',
      'cells',
      'watts',
      'difference',
    ]);
    expect(possibleLanes([charger]).map((one) => one.id)).not.toContain('watts');
    const lanes = shown({ shown: { cells: true, watts: true, soc: false } });
    expect(lanes.map((one) => one.id)).toEqual(['volts', 'amps', 'celsius', 'cells', 'watts']);
    expect(lanes.find((one) => one.id === 'cells')!.traces).toHaveLength(2);
    expect(lanes.find((one) => one.id === 'watts')!.traces[0]).toMatchObject({
      channel: 'battery_current',
      with: { channel: 'battery_voltage', by: 'times' },
    });
  });
  test('order and height are as wished; what is not named follows', () => {
    const lanes = shown({ order: ['soc', 'amps'], sizes: { soc: 2.4 } });
    expect(lanes.map((one) => one.id)).toEqual(['soc', 'amps', 'volts', 'celsius']);
    expect(lanes[0]!.height).toBe(Math.round(2.4 * 76));
  });
  test('traces apart have a strip and a scale each; cells stay together', () => {
    const lanes = shown({ apart: { volts: true, cells: true, soc: true }, shown: { cells: true } });
    const volts = lanes.filter((one) => one.id === 'volts');
    expect(volts.map((one) => one.name)).toEqual(
      lanesOf(system, [charger, monitor, bms])[0]!.traces.map((one) => one.label),
    );
    expect(volts.length).toBeGreaterThan(1);
    expect(volts.every((one) => one.traces.length === 1 && one.height >= 64)).toBe(true);
    expect(new Set(lanes.map((one) => one.key)).size).toBe(lanes.length);
    expect(lanes.find((one) => one.id === 'cells')!.traces).toHaveLength(2);
    expect(lanes.find((one) => one.id === 'soc')!.name).toBeUndefined();
  });
  test('a difference of two channels is named by both; of a channel that is gone there is none', () => {
    const difference = { of: 'c/source_voltage', less: 'm/battery_voltage' };
    const [lane] = shown({ order: ['difference'], shown: { difference: true }, difference });
    expect(lane!.traces[0]!.label).toBe('Source voltage, Solar controller less Battery voltage, Monitor');
    expect(lane!.unit).toBe('V');
    const gone = shown({ shown: { difference: true }, difference: { ...difference, less: 'x/soc' } });
    expect(gone.map((one) => one.id)).not.toContain('difference');
  });
  test('power and difference are drawn from the tiles of both', async () => {
    serve();
    const source = tileSource(
      () => undefined,
      () => undefined,
    );
    const near = { from: START + 1000 * MINUTE, to: START + 1600 * MINUTE };
    const [watts] = shown({ order: ['watts'], shown: { watts: true } });
    const [apart] = shown({
      order: ['difference'],
      shown: { difference: true },
      difference: { of: 'c/source_voltage', less: 'm/battery_voltage' },
    });
    for (let i = 0; i < 2; i++) {
      for (const lane of [watts, apart]) extentOf(lane!, source, near, 600);
      await settle();
    }
    const value = VOLTS[1234]!;
    const at = START + 1234 * MINUTE;
    for (const lane of [watts, apart]) valueAt(lane!.traces[0]!, source, near, 600, at);
    await settle();
    // Every channel of this server is the same: power is its square, the difference nothing.
    expect(valueAt(watts!.traces[0]!, source, near, 600, at)).toBeCloseTo(value * value, 0);
    expect(valueAt(apart!.traces[0]!, source, near, 600, at)).toBeCloseTo(0, 1);
  });
});

describe('the address of a view', () => {
  const full = { from: Date.UTC(2026, 8, 1), to: Date.UTC(2026, 9, 1) };
  const view = { from: Date.UTC(2026, 8, 10, 6), to: Date.UTC(2026, 8, 10, 18) };
  test('goes out and comes back, whatever else the address has', () => {
    const address = addressOfSpan('http://here/jobs/1/charging?view=strips', view);
    expect(address).toBe('/jobs/1/charging?view=strips&from=2026-09-10T06%3A00Z&to=2026-09-10T18%3A00Z');
    expect(spanOfAddress(address.replace(/^[^?]*/, ''), full)).toEqual(view);
  });
  test('what is no span of this log is none', () => {
    expect(spanOfAddress('', full)).toBeNull();
    expect(spanOfAddress('?from=2026-09-10T06:00Z', full)).toBeNull();
    expect(spanOfAddress('?from=never&to=2026-09-10T06:00Z', full)).toBeNull();
    expect(spanOfAddress('?from=2027-09-10T06:00Z&to=2027-09-11T06:00Z', full)).toBeNull();
    expect(spanOfAddress('?from=2025-09-10T06:00Z&to=2026-09-11T06:00Z', full)!.from).toBe(full.from);
  });
});

describe('events', () => {
  const { job } = demoSite('tide-gauge');
  const pins = [
    {
      id: '00000000-0000-4000-8000-000000000001',
      from: '2026-09-22T08:00:00Z',
      to: '2026-09-22T09:00:00Z',
      note: 'A cloud',
    },
  ];
  const diagnosis = diagnose({ job, system, series: [] });
  const events = eventsOf({ ...diagnosis, cutoffs: [], syncs: [], charges: [] }, system, {
    pins,
    changes: [{ on: '2026-09-20', label: 'Monitor: Charged voltage' }],
  });
  test('stand in order of time, and are gone through both ways, by kind', () => {
    expect(events.map((one) => one.kind)).toEqual(['change', 'pin']);
    const [change, pin] = events;
    expect(nextEvent(events, change!.from, 'next', '')).toBe(pin);
    expect(nextEvent(events, pin!.from, 'previous', '')).toBe(change);
    expect(nextEvent(events, 0, 'next', 'pin')).toBe(pin);
    expect(nextEvent(events, pin!.from, 'next', '')).toBeNull();
    expect(eventsAt(events, pin!.from)).toEqual([]);
  });
});

describe('how much is in view', () => {
  const full = { from: START, to: START + 40 * 1440 * MINUTE };
  const middle = START + 10 * 1440 * MINUTE;
  const charge = (day: number) => ({
    from: new Date(START + day * 1440 * MINUTE).toISOString(),
    to: new Date(START + (day + 0.5) * 1440 * MINUTE).toISOString(),
  });
  const from = { full, middle, charges: [charge(2), charge(9), charge(30)] as never[], events: [] };
  test('a day, a week, all, and the nearest charge with a margin', () => {
    expect(spanOfZoom('all', from)).toBe(full);
    expect(spanOfZoom('day', from)).toEqual({ from: middle - 720 * MINUTE, to: middle + 720 * MINUTE });
    const near = spanOfZoom('charge', from)!;
    expect((near.from - START) / (1440 * MINUTE)).toBeCloseTo(9 - 0.05, 1);
    expect((near.to - START) / (1440 * MINUTE)).toBeCloseTo(9.5 + 0.05, 1);
  });
  test('without a stage there is nowhere to go', () => {
    expect(spanOfZoom('stage', from)).toBeNull();
  });
});

test('a command is found by the beginnings of its words, in any order', () => {
  const commands = ['Caliper: measure between two moments', 'Cut-offs', 'Battery voltage, Monitor'].map(
    (name) => ({
      name,
      group: 'Strips',
      run: () => undefined,
    }),
  );
  const found = (typed: string) => fitting(commands, typed).map((one) => one.name);
  expect(found('meas cal')).toEqual(['Caliper: measure between two moments']);
  expect(found('volt')).toEqual(['Battery voltage, Monitor']);
  expect(found('str')).toHaveLength(3);
  expect(found('nothing')).toEqual([]);
});

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

  test('a winter below freezing and a night of discharge have their range too', async () => {
    serve({ lower: 40 });
    const source = tileSource(
      () => undefined,
      () => undefined,
    );
    extentOf(lane!, source, view, 600);
    await settle();
    const [low, high] = extentOf(lane!, source, view, 600)!;
    expect(low).toBeCloseTo(-29, 2);
    expect(high).toBeCloseTo(-27, 2);
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

describe('the strips as tables', () => {
  test('lowest and highest with their times, the start and the end of what is in view', async () => {
    serve();
    const source = tileSource(
      () => undefined,
      () => undefined,
    );
    const [volts] = lanesOf(system, [monitor]);
    const view = { from: START, to: START + 1500 * MINUTE };
    traceRows(volts!, source, view, 'UTC');
    await settle();
    const [row] = traceRows(volts!, source, view, 'UTC');
    expect(row!.name).toBe('Battery voltage, Monitor');
    expect(row!.start).toMatch(/^12\.0\d V$/);
    // The sine is at its top after 314 minutes, at its bottom after 942.
    expect(row!.highest).toMatch(/^13\.00 V, Mon 5 Jan 2026 05:\d\d$/);
    expect(row!.lowest).toMatch(/^11\.00 V, Mon 5 Jan 2026 15:\d\d$/);
    const [away] = traceRows(volts!, source, { from: 0, to: HOUR }, 'UTC');
    expect(away!.start).toBe('no sample in view');
  });
  test('events in view, in words', () => {
    const events = [
      { kind: 'stage' as const, text: 'bulk', from: START, to: START + HOUR },
      { kind: 'sync' as const, text: 'set to full, too soon', from: START + 3 * HOUR, to: START + 3 * HOUR },
    ];
    expect(eventRows(events, { from: START, to: START + 2 * HOUR }, 'UTC')).toEqual([
      { what: 'Stage', text: 'bulk', from: 'Mon 5 Jan 2026 00:00', to: 'Mon 5 Jan 2026 01:00' },
    ]);
    expect(eventRows(events, { from: START + 2 * HOUR, to: START + 4 * HOUR }, 'UTC')[0]!.to).toBe('–');
  });
});

describe('the keys', () => {
  const tools = (some: Partial<StripTools> = {}) => {
    const done: string[] = [];
    const note =
      (name: string) =>
      (...given: unknown[]) =>
        void done.push([name, ...given.map((one) => JSON.stringify(one))].join(' '));
    const all: StripTools = {
      view: { from: 1000, to: 2000 },
      full: { from: 0, to: 9000 },
      marks: null,
      isMeasuring: false,
      show: note('show'),
      go: note('go'),
      zoomTo: note('zoom'),
      step: note('step'),
      measure: note('measure'),
      onMarks: note('marks'),
      onPanel: note('panel'),
      ...some,
    };
    return { all, done };
  };
  test('move, zoom, go and open', () => {
    const { all, done } = tools();
    for (const key of ['ArrowRight', 'End', '0', 'n', '<', 'd', 'o']) keyActions(all)[key]!();
    expect(done).toEqual([
      'show {"from":1200,"to":2200}',
      'show {"from":8000,"to":9000}',
      'show {"from":0,"to":9000}',
      'step "next"',
      'go -1',
      'zoom "day"',
      'panel "compare"',
    ]);
  });
  test('the caliper opens with marks at the thirds, and keeps those that are there', () => {
    const first = tools();
    keyActions(first.all).c!();
    expect(first.done).toEqual(['measure true', expect.stringMatching(/^marks {"a":1333\.3.*"b":1666\.6/)]);
    const again = tools({ marks: { a: 1100, b: 1900 } });
    keyActions(again.all).c!();
    expect(again.done).toEqual(['measure true']);
    expect(movedMark(again.all, 'b', 1)).toEqual({ a: 1100, b: 1910 });
    expect(movedMark(again.all, 'a', -1)).toEqual({ a: 1090, b: 1900 });
  });
});
