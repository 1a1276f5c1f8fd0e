/** Days by the clock of the site: pieces cut at midnight, on days on which clocks change too. */

import { daysOf } from './days';
import type { DiagnosisCharge } from './result';

const ZONE = 'Europe/Rome';
const day = (date: string) => ({
  date,
  ampHoursIn: 10,
  ampHoursOut: 8,
  hours: 24,
  reached: 'float' as const,
});
const charge = (stage: 'bulk' | 'float' | 'off', from: string, to: string, full = false) =>
  ({ from, to, full, stages: [{ stage, from, to }] }) as unknown as DiagnosisCharge;

test('a float over midnight has a piece on both days, by the clock of the site', () => {
  const [first, second] = daysOf(
    [day('2026-09-21'), day('2026-09-22')],
    [charge('float', '2026-09-21T12:10:00Z', '2026-09-22T04:00:00Z', true)],
    ZONE,
  );
  expect(first!.pieces).toEqual([{ stage: 'float', from: 14 * 60 + 10, to: 1440, clock: '14:10' }]);
  expect(second!.pieces).toEqual([{ stage: 'float', from: 0, to: 6 * 60, clock: '00:00' }]);
  expect([first!.full, second!.full]).toEqual([false, true]);
});

test('on the day on which clocks go back, ten past two is ten past two', () => {
  const [autumn] = daysOf(
    [day('2026-10-25')],
    [charge('bulk', '2026-10-25T12:10:00Z', '2026-10-25T13:10:00Z')],
    ZONE,
  );
  expect(autumn!.span.to - autumn!.span.from).toBe(25 * 3_600_000);
  expect(autumn!.pieces).toEqual([{ stage: 'bulk', from: 13 * 60 + 10, to: 14 * 60 + 10, clock: '13:10' }]);
});

test('nights are no pieces, and a stage of seconds still has a width', () => {
  const [one] = daysOf(
    [day('2026-09-21')],
    [
      charge('off', '2026-09-21T18:00:00Z', '2026-09-21T21:00:00Z'),
      charge('bulk', '2026-09-21T06:00:10Z', '2026-09-21T06:00:50Z'),
    ],
    ZONE,
  );
  expect(one!.pieces).toEqual([{ stage: 'bulk', from: 480, to: 481, clock: '08:00' }]);
});
