/** What single cells say, and logs whose cells carry their units. */

import fc from 'fast-check';
import { isMissing, isNumber, numberOf, unitIn, valueWithUnit } from './cells';
import { takeInLog } from './takeIn';

test.each<[string, '.' | ',', number]>([
  ['12.4', '.', 12.4],
  ['12,4', ',', 12.4],
  ['+.5', '.', 0.5],
  ['-1.24e1', '.', -12.4],
  ['\u22122.5', '.', -2.5],
  ["'-2.5", '.', -2.5],
  ['12.4 V', '.', 12.4],
  ['12,4V', ',', 12.4],
  ['-900 mA', '.', -900],
  ['80\u00a0%', '.', 80],
  ['18.5ºC', '.', 18.5],
])('%j is %s %d', (cell, decimalChar, value) => {
  expect(isNumber(cell, decimalChar)).toBe(true);
  expect(numberOf(cell, decimalChar)).toBe(value);
});

test.each(['', '12.4.1', '12,4', '3 h', '12 bar', 'V', '1.2 V 3', '0x1f', '--2', '1 A/h'])(
  '%j is no number where the point is the decimal sign',
  (cell) => {
    expect(isNumber(cell, '.')).toBe(false);
    expect(numberOf(cell, '.')).toBeNaN();
    expect(unitIn(cell, '.')).toBe('');
  },
);

test('a plain number is what JavaScript takes it for, and carries no unit', () => {
  fc.assert(
    fc.property(fc.double({ noNaN: true, noDefaultInfinity: true }), (value) => {
      expect(numberOf(String(value), '.')).toBe(value === 0 ? 0 : value);
      expect(valueWithUnit(String(value), '.')).toBeNull();
    }),
  );
});

test.each([
  ['12400 mV', 12.4],
  ['12.4 V', 12.4],
  ['-900mA', -0.9],
  ['1.2 kW', 1200],
  ['68 °F', 20],
  ['80%', 80],
])('%s with its unit is %d', (cell, value) => {
  expect(valueWithUnit(cell, '.')).toBeCloseTo(value, 9);
});

test('no reading, with and without a unit', () => {
  for (const cell of ['', '-', '---', 'n/a', '-- V', '---%']) expect(isMissing(cell)).toBe(true);
  for (const cell of ['0', '-1', '-1 V', 'off', '-fine']) expect(isMissing(cell)).toBe(false);
});

describe('a log whose cells carry their units', () => {
  const channelsOf = (text: string) =>
    takeInLog(new TextEncoder().encode(text), 'monitor', { device: 'monitor' }, 'UTC').series.channels;
  const rows = (write: (i: number) => string) =>
    Array.from({ length: 40 }, (_, i) => `2026-09-21 06:${String(10 + i)}:00;${write(i)}\n`).join('');

  test('is read, and a heading need not say what the unit says', () => {
    const channels = channelsOf(
      `time;Battery;Flow;Charge\n${rows((i) => `12,${40 + i} V;${(i % 3) - 1} A;81 %`)}`,
    );
    expect(channels.battery_voltage![1]).toBeCloseTo(12.41, 5);
    expect([...channels.battery_current!.slice(0, 3)]).toEqual([-1, 0, 1]);
    expect(channels.soc![0]).toBe(81);
  });

  test('a unit in the cell goes before the one above it, and may change from cell to cell', () => {
    const channels = channelsOf(
      `time;Battery voltage (mV);Battery current\n${rows((i) => `12.4 V;${i % 2 ? '-900 mA' : '-1.2 A'}`)}`,
    );
    expect(channels.battery_voltage![0]).toBeCloseTo(12.4, 5);
    expect(channels.battery_current![0]).toBeCloseTo(-1.2, 5);
    expect(channels.battery_current![1]).toBeCloseTo(-0.9, 5);
  });

  test('charge and discharge apart, of which only the cells say that they are currents', () => {
    const channels = channelsOf(
      `time;Battery voltage;Charge;Discharge\n${rows((i) => `12.4 V;${i % 2 ? 3 : 0} A;${i % 2 ? 0 : 2} A`)}`,
    );
    expect([...channels.battery_current!.slice(0, 2)]).toEqual([-2, 3]);
  });
});
