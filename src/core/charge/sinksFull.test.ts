/** Lithium after its charger has let go: what sinks slowly from the top was full. Drawn views. */

import { drawnView } from '../../../tests/support/drawnView';
import { agm, lithium, stage } from '../../../tests/support/drawnCharges';
import { HOUR, MINUTE } from '../quantity/span';
import type { Stage } from './types';
import { sinksFull } from './sinksFull';

/** Twenty minutes at 60 A, and then the loads draw 1.6 A. */
const view = (after: (minutes: number) => number, drawn = -1.6) =>
  drawnView({
    minutes: 120,
    volts: (m) => (m < 20 ? 13.5 + (0.9 * m) / 20 : after(m - 20)),
    amps: (m) => (m < 20 ? 60 : 0),
    battery: (m) => (m < 20 ? 60 : drawn),
  });
const stages = (part: Partial<Stage> = {}): Stage[] => [
  stage({ stage: 'bulk', from: 0, to: 20 * MINUTE, blocked: false }),
  stage({ stage: 'off', from: 20 * MINUTE, to: 2 * HOUR, blocked: false, ...part }),
];
const full = (minutes: number): number => 14.45 - 0.01 * minutes;

test('half an hour from 14.4 down to 14.1 V while the loads draw: it was full, soon after it was let go', () => {
  const found = sinksFull(stages(), lithium, view(full));
  expect(found).toHaveLength(1);
  expect(found[0]!.from).toBeGreaterThanOrEqual(24 * MINUTE);
  expect(found[0]!.from).toBeLessThan(35 * MINUTE);
});

test('back on the flat part within minutes it was not', () => {
  expect(
    sinksFull(
      stages(),
      lithium,
      view((m) => 13.4 + Math.exp(-m / 3)),
    ),
  ).toEqual([]);
});

test('a voltage that stands still, or rises, is held by somebody', () => {
  expect(
    sinksFull(
      stages(),
      lithium,
      view(() => 14.2),
    ),
  ).toEqual([]);
  expect(
    sinksFull(
      stages(),
      lithium,
      view((m) => 14 + 0.003 * m),
    ),
  ).toEqual([]);
});

test('not while it is still charged, while its BMS keeps the charger out, and not of lead', () => {
  expect(sinksFull(stages(), lithium, view(full, 5))).toEqual([]);
  expect(sinksFull(stages({ blocked: true }), lithium, view(full))).toEqual([]);
  expect(sinksFull(stages(), agm, view(full))).toEqual([]);
});

test('a time at which it was seen to be full otherwise is no second one', () => {
  expect(sinksFull(stages(), lithium, view(full), [{ from: 18 * MINUTE, to: 18 * MINUTE }])).toEqual([]);
});
