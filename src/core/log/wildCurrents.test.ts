/** Logs drawn by hand, 24 V and 200 Ah with a charger of 30 A: currents that cannot have flowed, and those that can. Limits: common practice. */

import { MINUTE } from '../quantity/span';
import type { Series } from './channels';
import { markCurrents } from './wildCurrents';

const ROWS = 400;
const AT = 200;
/** Of two blocks of 200 Ah, Ω: 1.5 mΩ and more are usual. */
const OHMS = 0.004;

type Channels = Record<string, (i: number) => number>;

const wildIn = (channels: Channels, possible = {}): number[] => {
  const series: Series = {
    device: 'any',
    time: Float64Array.from({ length: ROWS }, (_, i) => i * MINUTE),
    channels: Object.fromEntries(
      Object.entries(channels).map(([name, of]) => [
        name,
        Float32Array.from({ length: ROWS }, (_, i) => of(i)),
      ]),
    ),
  };
  const isWild = new Uint8Array(ROWS);
  markCurrents(series, isWild, { capacityAh: 200, ohms: 0.005, ratedA: 30, ...possible });
  return [...isWild.keys()].filter((i) => isWild[i]);
};

/** Steps of 10 mV up and down, as a meter trembles. */
const trembling = (i: number): number => 25.2 + 0.01 * (i % 2);
/** Loads of 40 A for an hour at a time, and a current of its own in one row. */
const drawn = (i: number, leap = NaN): number => (i === AT ? leap : Math.floor(i / 60) % 2 ? -42 : -2);
const battery = (volts: (i: number, amps: number) => number, leap = NaN): Channels => ({
  battery_current: (i) => (leap === leap ? drawn(i, leap) : drawn(i, drawn(AT - 1))),
  battery_voltage: (i) => volts(i, drawn(i, leap === leap ? leap : drawn(AT - 1))),
});
/** The voltage goes with the current, but not in the one row. */
const silent = (i: number, amps: number) => trembling(i) + OHMS * (i === AT ? drawn(AT - 1) : amps);
const sagging = (i: number, amps: number) => trembling(i) + OHMS * amps;

test.each<[string, Channels, number[]]>([
  ['nothing', battery(sagging), []],
  ['99 A drawn for a row, and the voltage stands', battery(silent, -99), [AT]],
  ['the same with the voltage going down', battery(sagging, -99), []],
  ['80 A charged for a row, and the voltage stands', battery(silent, 80), [AT]],
  ['99 A drawn where the voltage never shows what is drawn', battery(trembling, -99), []],
  ['80 A charged there', battery(trembling, 80), []],
  [
    '99 A drawn where the voltage shows none of the starts at which it was written, once in six',
    {
      ...battery(trembling, -99),
      battery_voltage: (i) => (i % 60 === 0 && i !== 60 ? NaN : trembling(i)),
    },
    [],
  ],
  [
    '99 A drawn for a row where the voltage shows one of the two starts at which it was written: so few say nothing',
    {
      ...battery(silent, -99),
      battery_voltage: (i) =>
        i % 60 === 0 && i > 120 ? NaN : silent(i, i >= 120 && i < 180 ? -42 : drawn(i, -99)),
    },
    [AT],
  ],
  ['a leap too small for the voltage to show', battery(silent, -12), []],
  [
    'a voltage in tenths that stands under 30 A',
    {
      battery_current: (i) => (i === AT ? 30 : 1),
      battery_voltage: (i) => (i % 50 < 25 ? 25.2 : 25.3),
    },
    [],
  ],
  ['a step that stays', { battery_current: (i) => (i < AT ? -2 : -60), battery_voltage: trembling }, []],
  [
    'a charger of 30 A that gives 99 for a row',
    { source_current: (i) => (i === AT ? 99 : 20), source_voltage: (i) => 27 + 0.3 * (i % 2) },
    [AT],
  ],
  [
    'a charger that takes 99 A for a row',
    { source_current: (i) => (i === AT ? -99 : 20), source_voltage: (i) => 27 + 0.3 * (i % 2) },
    [AT],
  ],
  [
    'a charger that gives twice its rating for an hour',
    { source_current: (i) => (i > AT && i < AT + 60 ? 60 : 0), source_voltage: () => 27 },
    [],
  ],
  [
    'a charger that drops out for a row',
    { source_current: (i) => (i === AT ? 0 : 28), source_voltage: (i) => (i === AT ? 26.6 : 27) },
    [],
  ],
  [
    'a load that gives back for a row',
    { load_current: (i) => (i === AT ? -99 : 12), load_voltage: () => 25 },
    [AT],
  ],
  [
    'a start of a load that pulls its voltage down',
    { load_current: (i) => (i === AT ? 90 : 12), load_voltage: (i) => (i === AT ? 24.1 : 25) },
    [],
  ],
  ['a load that is gone for a row', { load_current: (i) => (i === AT ? 0 : 60), load_voltage: () => 25 }, []],
  ['a current of nothing for a row, and the voltage stands', battery(silent, 0), [AT]],
  ['the same with the voltage going up', battery(sagging, 0), []],
  [
    'leaps in one row of twenty: so the log is written',
    { battery_current: (i) => (i % 20 === 10 ? 80 : 2), battery_voltage: trembling },
    [],
  ],
])('%s', (_, channels, rows) => {
  expect(wildIn(channels)).toEqual(rows);
});

test('without a rating, or the number of cells, only what the voltage tells', () => {
  const charger: Channels = { source_current: (i) => (i === AT ? 99 : 20), source_voltage: () => 27 };
  expect(wildIn(charger, { ratedA: null })).toEqual([AT]);
  expect(wildIn(charger, { ratedA: null, ohms: null })).toEqual([]);
});

test('a voltage in tenths tells of a lead battery, which moves by more than lithium of its size', () => {
  const tenths: Channels = {
    battery_current: (i) => (i === AT ? -99 : -2),
    battery_voltage: (i) => (i % 50 < 25 ? 25.2 : 25.3),
  };
  expect(wildIn(tenths, { ohms: 0.01 })).toEqual([AT]);
  expect(wildIn(tenths, { ohms: 0.005 })).toEqual([]);
});
