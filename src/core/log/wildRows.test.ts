/** Logs drawn by hand: what no battery can have made is left out, and what has happened stays. The limits are common practice. */

import { MINUTE } from '../quantity/span';
import { type Channel, type Series } from './channels';
import { withoutWildRows } from './wildRows';

type Row = Partial<Record<Channel, number>>;

/** So many rows of a battery at rest, with other values in the rows named. */
function log(steady: Row, changed: Record<number, Row>, stepMs = MINUTE, count = 200): Series {
  const channels = Object.fromEntries(
    Object.entries(steady).map(([channel, value]) => [
      channel,
      Float32Array.from([...Array(count).keys()], (i) => Number(changed[i]?.[channel as Channel] ?? value)),
    ]),
  );
  return { device: 'monitor', time: Float64Array.from({ length: count }, (_, i) => i * stepMs), channels };
}
const bank = { battery_voltage: 25.2, battery_current: -8, soc: 71, battery_temperature: 14 };
const NOTHING = { battery_voltage: 0, battery_current: 0, soc: 0, battery_temperature: 0 };
/** 24 V, 200 Ah. */
const POSSIBLE = { capacityAh: 200, ohms: 0.005, ratedA: 30 };
const left = (series: Series): number => 200 - withoutWildRows(series, POSSIBLE).series.time.length;

test.each<[string, Record<number, Row>, number]>([
  ['nothing', {}, 0],
  ['a voltage of nothing while the current goes on', { 40: { battery_voltage: 0 } }, 1],
  ['a voltage three times itself', { 40: { battery_voltage: 75.6 } }, 1],
  [
    'a voltage of −99 V as a load is switched off',
    { 40: { battery_voltage: -99, battery_current: -0.2 } },
    1,
  ],
  ['a row of zeros', { 40: NOTHING }, 1],
  ['two rows of zeros', { 40: NOTHING, 41: NOTHING }, 2],
  ['rows of zeros here and there', { 40: NOTHING, 90: NOTHING, 91: NOTHING, 150: NOTHING }, 4],
  ['a percentage that leaps to 100 and back', { 40: { soc: 100 } }, 1],
  ['a temperature of 85 °C for a row', { 40: { battery_temperature: 85 } }, 1],
  ['a current of 6553.5 A at 200 Ah', { 40: { battery_current: 6553.5 } }, 1],
])('left out: %s', (_, changed, count) => {
  expect(left(log(bank, changed))).toBe(count);
});

test.each<[string, Series]>([
  [
    'a battery that is off for three rows',
    log(bank, {
      40: { battery_voltage: 0, battery_current: 0 },
      41: { battery_voltage: 0, battery_current: 0 },
      42: { battery_voltage: 0, battery_current: 0 },
    }),
  ],
  [
    'a protection that trips under a start, and is back within two minutes',
    log(bank, { 39: { battery_current: -310 }, 40: { battery_voltage: 0, battery_current: 0 } }),
  ],
  [
    'a pack that is cut off when empty, back within two minutes without its load',
    log(
      bank,
      Object.fromEntries(
        Array.from({ length: 160 }, (_, k) => [
          k + 40,
          { battery_voltage: k === 0 ? 0 : 25.6, battery_current: k === 0 ? -0.1 : 0 },
        ]),
      ),
    ),
  ],
  [
    'the dead bus that a charger sees which gives nothing',
    log(
      { source_voltage: 25, source_current: 0 },
      {
        40: { source_voltage: 0 },
        ...Object.fromEntries([100, 101, 102].map((i) => [i, { source_current: 20 }])),
      },
    ),
  ],
  [
    'a battery that is off for a row of ten minutes',
    log(bank, { 40: { battery_voltage: 0, battery_current: 0 } }, 10 * MINUTE),
  ],
  [
    'a battery cut off when empty, whose voltage comes back without load',
    log(
      bank,
      Object.fromEntries(
        Array.from({ length: 41 }, (_, i) => [
          i,
          i === 40 ? { battery_voltage: 0, battery_current: 0 } : { battery_voltage: 21.2 },
        ]),
      ),
    ),
  ],
  ['a load that sags the voltage to a half for a row', log(bank, { 40: { battery_voltage: 13 } })],
  [
    'an inrush of ten times the capacity',
    log(bank, { 40: { battery_current: -2000, battery_voltage: 15.4 } }),
  ],
  [
    'a load that is cut for a row',
    log({ load_voltage: 25, load_current: 4 }, { 40: { load_voltage: 0, load_current: 0 } }),
  ],
  [
    'a reading set to 100 %',
    log(bank, Object.fromEntries(Array.from({ length: 160 }, (_, i) => [i + 40, { soc: 100 }]))),
  ],
])('stays: %s', (_, series) => {
  const { series: sane, wild } = withoutWildRows(series, POSSIBLE);
  expect(wild).toBeNull();
  expect(sane.time).toBe(series.time);
});

test('a voltage of nothing for a row is no trip where the current only trembles about nothing', () => {
  // At rest behind 8 A by night: the meter's zero goes from -0.06 A to nothing, which takes no load along.
  const resting = { battery_voltage: 25.2, battery_current: -0.06 };
  const byNight = Object.fromEntries(Array.from({ length: 80 }, (_, i) => [i, { battery_current: -8 }]));
  const zero = { 140: { battery_voltage: 0, battery_current: 0.01 }, 141: { battery_current: 0 } };
  expect(left(log(resting, { ...byNight, ...zero }))).toBe(1);
  const trips = { 139: { battery_current: -8 }, ...zero };
  expect(left(log(resting, { ...byNight, ...trips }))).toBe(0);
});

test('a temperature sensor that is broken for weeks is missing, and its rows stay', () => {
  const broken = log({ ...bank, battery_temperature: -127 }, {});
  const { series, wild } = withoutWildRows(broken, POSSIBLE);
  expect(wild).toBeNull();
  expect(series.time).toHaveLength(200);
  expect(series.channels.battery_temperature!.every(Number.isNaN)).toBe(true);
  expect(series.channels.battery_voltage).toBe(broken.channels.battery_voltage);
});

test('a voltage of −99 V for hours is missing, and its rows stay', () => {
  const hours = Object.fromEntries(Array.from({ length: 120 }, (_, i) => [i + 40, { battery_voltage: -99 }]));
  const { series } = withoutWildRows(log(bank, hours), POSSIBLE);
  expect(series.time).toHaveLength(200);
  expect(series.channels.battery_voltage!.filter(Number.isNaN)).toHaveLength(120);
  expect(series.channels.battery_current![100]).toBeLessThan(0);
});

test('currents in the wrong unit are no wild rows: all of them would go', () => {
  expect(left(log({ ...bank, battery_current: -8000 }, {}))).toBe(0);
});

test('the spans go from the row before to the row after, and the recording is not touched', () => {
  const series = log(bank, { 40: NOTHING });
  const { wild } = withoutWildRows(series, POSSIBLE);
  expect(wild).toEqual({
    device: 'monitor',
    count: 1,
    spans: [{ from: 39 * MINUTE, to: 41 * MINUTE }],
  });
  expect(series.time).toHaveLength(200);
  expect(series.channels.battery_voltage![40]).toBe(0);
});

test('where polls fail all the time, the spans of an hour are one', () => {
  const failed = Object.fromEntries(Array.from({ length: 900 }, (_, k) => [5 * k + 4, NOTHING]));
  const { count, spans } = withoutWildRows(log(bank, failed, MINUTE, 4500), POSSIBLE).wild!;
  expect(count).toBeGreaterThan(890);
  expect(spans).toHaveLength(1);
});
