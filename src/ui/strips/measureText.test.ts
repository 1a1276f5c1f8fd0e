/** What the caliper shows of a span. */

import type { Measured } from '@/core/log/measure';
import { HOUR } from '@/core/quantity/span';
import { demoSystem } from '@/core/simulate/demo';
import { measureRows } from './measureText';

const { system } = demoSystem('fog-horn');
const FROM = Date.UTC(2026, 8, 21);
const span: Measured = {
  from: FROM,
  to: FROM + 10 * HOUR,
  battery: {
    ampHoursIn: 5,
    ampHoursOut: 105,
    wattHoursIn: 260,
    wattHoursOut: 5040,
    meanAmps: -10,
    peakAmps: -70,
    hours: 10,
  },
  volts: { from: 51.2, to: 48.1 },
  percents: [{ device: 'monitor', from: 98, to: 45.5 }],
  sources: [{ device: system.sources[0]!.id, ampHours: 5 }],
  spread: null,
};
const rows = (some: Partial<Measured> = {}) =>
  Object.fromEntries(measureRows({ ...span, ...some }, system).map(({ name, value }) => [name, value]));

test('charge, energy, current and what changed, each with its unit and sign', () => {
  expect(rows()).toMatchObject({
    Time: '10 h',
    'Into the battery': '5.0 Ah, 260 Wh',
    'Out of it': '105 Ah, 5.04 kWh',
    Net: '−100 Ah',
    'Mean current': '−10.0 A',
    'Battery voltage': '51.20 V to 48.10 V (−3.10 V)',
    'Percentage, Monitor': '98.0 to 45.5 % (−52.5)',
    [`Given, ${system.sources[0]!.name}`]: '5.0 Ah',
  });
});

test('what was not logged is left out or a dash, never nothing at all', () => {
  const without = rows({ battery: null, volts: { from: NaN, to: 48.1 }, percents: [], sources: [] });
  expect(Object.keys(without)).toEqual(['Time', 'Battery voltage']);
  expect(without['Battery voltage']).toBe('– to 48.10 V (–)');
  expect(rows({ battery: { ...span.battery!, wattHoursOut: NaN } })['Out of it']).toBe('105 Ah, –');
});

test('silence in the log is said, and the cells are in millivolts', () => {
  expect(Object.keys(rows())).not.toContain('Not counted, the log is silent');
  expect(rows({ battery: { ...span.battery!, hours: 8 } })['Not counted, the log is silent']).toBe('2 h');
  expect(rows({ spread: { from: 0.0124, to: 0.08 } })['Cells apart']).toBe('12 to 80 mV');
});
