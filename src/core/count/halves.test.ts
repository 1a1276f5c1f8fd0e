/** The halves of a bank beside each other: drawn logs of a 24 V bank. */

import { timelineOf } from '../log/timeline';
import { MINUTE } from '../quantity/span';
import type { KnownSystem } from '../system/known';
import { halvesOf } from './halves';

const time = Float64Array.from({ length: 3 * 1440 }, (_, i) => i * MINUTE);
const column = (of: (minute: number) => number) => Float32Array.from(time, (_, i) => of(i % 1440));
const system = {
  bank: { chemistry: 'agm', cellsInSeries: 12, capacityAh: 100 },
  sources: [
    { id: 'low', across: 'lower' },
    { id: 'high', across: 'upper' },
  ],
} as unknown as KnownSystem;
/** Charges from ten to two, and rests then. */
const gives = (minute: number) => (minute >= 600 && minute < 840 ? 8 : 0);
const charger = (device: string, rest: number, held: number) => ({
  device,
  time,
  channels: { source_voltage: column((m) => (gives(m) > 0 ? held : rest)), source_current: column(gives) },
});

test('by the voltage between them, all the while', () => {
  const monitor = {
    device: 'monitor',
    time,
    channels: { battery_voltage: column(() => 25), midpoint_voltage: column(() => 12.4) },
  };
  const found = halvesOf(system, timelineOf([monitor]))!;
  expect(found.by).toBe('midpoint');
  expect(found.apartVolts).toBeCloseTo(0.2, 4);
});

test('by the meters of their chargers at rest, less what two meters may differ by', () => {
  // While they charge they hold 0.6 V apart: that says nothing of the halves.
  const found = halvesOf(system, timelineOf([charger('low', 12.7, 14.4), charger('high', 12.4, 13.8)]))!;
  expect(found.by).toBe('chargers');
  expect(found.apartVolts).toBeCloseTo(0.25, 4);
  expect(found.mostVolts).toBeCloseTo(0.25, 4);
  // Of the twenty hours without a charge three go by until what it held has sunk; nothing is known of what was before the log.
  expect(found.hours).toBeCloseTo(48, 0);
});

test('a half that its charger keeps on float, though it takes next to nothing, does not rest', () => {
  const kept = (amps: number) => {
    const float = charger('high', 13.8, 14.4);
    return { ...float, channels: { ...float.channels, source_current: column(() => amps) } };
  };
  for (const amps of [0.3, 0.6])
    expect(halvesOf(system, timelineOf([charger('low', 12.7, 14.4), kept(amps)]))).toBeNull();
});

test('alike within their meters; and nothing where one has no log', () => {
  const alike = halvesOf(system, timelineOf([charger('low', 12.7, 14.4), charger('high', 12.66, 14.4)]))!;
  expect(alike.mostVolts).toBe(0);
  expect(halvesOf(system, timelineOf([charger('low', 12.7, 14.4)]))).toBeNull();
});
