import type { Series } from '../log/channels';
import { timelineOf } from '../log/timeline';
import { cellEnds } from './cellEnds';

const lithium = { chemistry: 'lfp' } as const;
const MINUTE = 60_000;
const DAY = 1440;

/** Days by the minute of four cells: high about noon, low about midnight. */
function cells(days: number, of: (cell: number) => { high: number; low: number }): Series {
  const time = Float64Array.from({ length: days * DAY }, (_, i) => i * MINUTE);
  const volts = (cell: number) =>
    Float32Array.from(time, (_, i) => {
      const minute = i % DAY;
      return minute > 700 && minute < 740 ? of(cell).high : minute < 30 ? of(cell).low : 3.3;
    });
  return {
    device: 'bms',
    time,
    channels: {
      cell_01_voltage: volts(1),
      cell_02_voltage: volts(2),
      cell_03_voltage: volts(3),
      cell_04_voltage: volts(4),
    },
  };
}

test('a cell that is first at both ends', () => {
  const found = cellEnds(
    lithium,
    timelineOf([cells(5, (k) => (k === 3 ? { high: 3.6, low: 2.6 } : { high: 3.46, low: 2.95 }))]),
  )!;
  expect(found.low).toMatchObject({ cell: '3', times: 5, of: 5 });
  expect(found.high).toMatchObject({ cell: '3', times: 5, of: 5 });
  expect(found.low!.under).toBeCloseTo(0.75 * 0.35, 2);
  expect(found.high!.over).toBeCloseTo(0.75 * 0.14, 2);
});

test('a cell that is first low, another first high', () => {
  const found = cellEnds(
    lithium,
    timelineOf([cells(4, (k) => ({ high: k === 1 ? 3.55 : 3.44, low: k === 2 ? 2.7 : 3.1 }))]),
  )!;
  expect(found.low!.cell).toBe('2');
  expect(found.high!.cell).toBe('1');
});

test('cells that never come to an end', () => {
  expect(cellEnds(lithium, timelineOf([cells(3, () => ({ high: 3.35, low: 3.2 }))]))).toEqual({
    cells: 4,
    low: null,
    high: null,
  });
});

test('no cells logged', () => {
  expect(
    cellEnds(lithium, timelineOf([{ device: 'bms', time: Float64Array.of(0, 1), channels: {} }])),
  ).toBeNull();
});

test('cells of lead have no such ends', () => {
  expect(
    cellEnds({ chemistry: 'flooded' }, timelineOf([cells(3, () => ({ high: 2.4, low: 1.9 }))])),
  ).toBeNull();
});
