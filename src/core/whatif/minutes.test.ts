import { DAY, MINUTE } from '../quantity/span';
import { timelineOf } from '../log/timeline';
import { knownSystem } from '../system/known';
import { systemSchema } from '../system/schema';
import { minutesOf, MOST_DAYS, packMinutes, unpackMinutes } from './minutes';

const system = knownSystem(
  systemSchema.parse({
    name: 'Tide gauge',
    timeZone: 'Europe/Rome',
    bank: { chemistry: 'agm', cellsInSeries: 6, capacityAh: 100 },
    sources: [{ id: 'sun', name: 'Sun', kind: 'solar' }],
    monitor: {},
    loads: [],
  }),
)!;

const START = Date.UTC(2026, 4, 4);

function log(days: number, every = 2 * MINUTE) {
  const count = Math.round((days * DAY) / every);
  const time = Float64Array.from({ length: count }, (_, i) => START + i * every);
  const flat = (value: number) => new Float32Array(count).fill(value);
  return timelineOf([
    {
      device: 'monitor',
      time,
      channels: { battery_voltage: flat(13), battery_current: flat(4), battery_temperature: flat(18) },
    },
    { device: 'sun', time, channels: { source_voltage: flat(13.1), source_current: flat(6) } },
  ]);
}

const joined = (pieces: Uint8Array[]): ArrayBuffer => {
  const all = new Uint8Array(pieces.reduce((sum, one) => sum + one.length, 0));
  let at = 0;
  for (const one of pieces) {
    all.set(one, at);
    at += one.length;
  }
  return all.buffer;
};

describe('the logs on one grid', () => {
  test('battery, temperature and each source side by side', () => {
    const minutes = minutesOf(system, log(3), null)!;
    expect(minutes.stepMs).toBe(2 * MINUTE);
    expect([minutes.volts[5], minutes.amps[5], minutes.celsius![5]]).toEqual([13, 4, 18]);
    expect(minutes.sources.map((one) => [one.id, one.amps[5]])).toEqual([['sun', 6]]);
  });

  test('of a long log only its last days, in cells that a day divides into', () => {
    const minutes = minutesOf(system, log(90, 7 * MINUTE), null)!;
    expect(DAY % minutes.stepMs).toBe(0);
    expect(minutes.stepMs).toBeGreaterThanOrEqual(7 * MINUTE);
    expect((minutes.count * minutes.stepMs) / DAY).toBeLessThanOrEqual(MOST_DAYS);
    expect((minutes.count * minutes.stepMs) / DAY).toBeGreaterThan(MOST_DAYS - 0.1);
  });

  test('without the battery’s current there is nothing to replay', () => {
    const timeline = log(1);
    delete timeline.series[0]!.channels.battery_current;
    expect(minutesOf(system, timeline, null)).toBeNull();
  });

  test('as bytes and back', () => {
    const minutes = minutesOf(system, log(1), null)!;
    expect(unpackMinutes(joined(packMinutes(minutes)))).toEqual(minutes);
    const none = { ...minutes, celsius: null, sources: [] };
    expect(unpackMinutes(joined(packMinutes(none)))).toEqual(none);
  });

  test('other bytes are refused', () => {
    const bytes = joined(packMinutes(minutesOf(system, log(1), null)!));
    for (const bad of [new ArrayBuffer(4), bytes.slice(0, 200), bytes.slice(4), new ArrayBuffer(64)])
      expect(() => unpackMinutes(bad)).toThrow('load the page anew');
  });
});
