/** Lead charged on at a current that stays. Drawn, so that the answer is known. */

import { agm, lithium, stage } from '../../../tests/support/drawnCharges';
import { drawnView } from '../../../tests/support/drawnView';
import { HOUR, MINUTE } from '../quantity/span';
import { gassedFull } from './gassing';
import type { Stage } from './types';

const HOURS = 8;
/** For three hours it rises to a voltage, and stands there. */
const risesTo =
  (top: number, creeps = 0) =>
  (minute: number) =>
    minute < 180 ? 13 + ((top - 13) * minute) / 180 : top + (creeps * (minute - 180)) / 60;
const full = (
  volts: (minute: number) => number,
  amps: (minute: number) => number = () => 8,
  part: Partial<Stage> = {},
  bank: typeof agm | typeof lithium = agm,
) =>
  gassedFull(
    [stage({ stage: 'bulk', from: 0, to: HOURS * HOUR, blocked: false, ...part })],
    bank,
    drawnView({ minutes: 60 * HOURS, volts, amps, battery: amps }),
  );

test('full from where a voltage above gassing no longer rises, to the end of the stage', () => {
  const [span, ...others] = full(risesTo(15.5));
  expect(others).toEqual([]);
  expect(span!.from / MINUTE).toBeGreaterThanOrEqual(160);
  expect(span!.from / MINUTE).toBeLessThanOrEqual(200);
  expect(span!.to).toBe(HOURS * HOUR);
});

test('also with loads that come and go on it', () => {
  const load = (minute: number) => minute % 90 < 25;
  const volts = risesTo(15.5);
  expect(
    full(
      (minute) => volts(minute) - (load(minute) ? 0.04 : 0),
      (minute) => (load(minute) ? 7 : 8),
    ),
  ).toHaveLength(1);
});

test('not while it rises, under gassing, at a current that falls, behind a BMS, in lithium, or in an absorption', () => {
  expect(full(risesTo(15.5, 0.1))).toEqual([]);
  expect(full(risesTo(14.8))).toEqual([]);
  expect(full(risesTo(15.5), (minute) => (minute < 180 ? 8 : 8 * Math.exp((180 - minute) / 90)))).toEqual([]);
  expect(full(risesTo(15.5), undefined, { blocked: true })).toEqual([]);
  expect(full(risesTo(15.5), undefined, { stage: 'absorption' })).toEqual([]);
  expect(full(risesTo(15.5), undefined, {}, lithium)).toEqual([]);
});
