/** Days that are too short for a charge, set down by hand: 100 Ah, a charger of 20 A, eight days. */

import { DAY, HOUR, MINUTE } from '../quantity/span';
import type { SourceCharging, Stage } from '../charge/types';
import { agm, charge, lithium, seen, source, stage, sumOf } from '../../../tests/support/drawnCharges';
import type { DayBalance, Judged } from './cause';
import { sourceTooSmall } from './source-too-small';

const DAYS = 8;
const judged = (minutes: number, part: Partial<Stage> = {}, bank: object = agm, then: Stage[] = []) => {
  const days = Array.from({ length: DAYS }, (_, i) => i * DAY);
  const charging = {
    source,
    charges: days.map((from) =>
      charge([
        stage({ stage: 'bulk', from: from + 8 * HOUR, to: from + 14 * HOUR }),
        stage({
          stage: 'absorption',
          from: from + 14 * HOUR,
          to: from + 14 * HOUR + minutes * MINUTE,
          heldMs: minutes * MINUTE,
          endAmps: 5,
          endedBy: 'source-lost',
          cutOff: false,
          blocked: false,
          ...part,
        }),
        ...then.map((one) => ({ ...one, from: from + 16 * HOUR, to: from + 18 * HOUR })),
      ]),
    ),
    bulkAmps: 19,
    knowsOwnAmps: true,
    setpoints: {},
  } as unknown as SourceCharging;
  return sourceTooSmall.weigh!({
    ...seen([charging], bank),
    days: days.map(
      (from) =>
        ({
          from,
          to: from + DAY,
          date: '',
          hours: 24,
          ampHoursIn: NaN,
          ampHoursOut: NaN,
          reached: 'absorption',
        }) as DayBalance,
    ),
  });
};

test('absorption that loses its supply after half an hour, day after day, was not long enough', () => {
  const evidence = judged(30);
  expect(sumOf(evidence, 'days')).toBeGreaterThan(8);
  expect(sumOf(evidence, 'rating')).toBeGreaterThan(0);
  expect(evidence[0]!.text).toBe(
    'On all 8 days the supply went before absorption had lasted 60 min, while the battery still took more than 3.5 % of its capacity.',
  );
});

test('neither a long absorption, nor a small current, nor a float behind it, nor a charger that ended it', () => {
  for (const evidence of [
    judged(90),
    judged(30, { endAmps: 2 }),
    judged(30, {}, agm, [stage({ stage: 'float' })]),
    judged(30, { endedBy: 'tail' }),
    judged(30, { cutOff: true }),
  ]) {
    expect(evidence[0]!.text).toBe('Charging got past bulk on all 8 days.');
    expect(sumOf(evidence)).toBeLessThan(-9);
  }
});

test('lithium is as good as full at the voltage', () => {
  expect(sumOf(judged(30, {}, lithium))).toBeLessThan(-9);
});

test('a battery whose best of the day sinks from day to day gets less than it gives', () => {
  const best = (tops: number[], reached: DayBalance['reached'] = 'bulk') => {
    const reference = Float32Array.from({ length: 24 * tops.length }, (_, k) =>
      k % 24 === 15 ? tops[Math.floor(k / 24)]! : 40,
    );
    const days = tops.map((_, i) => ({
      from: i * DAY,
      to: (i + 1) * DAY,
      date: '',
      hours: 24,
      ampHoursIn: NaN,
      ampHoursOut: NaN,
      reached,
    }));
    const counting = { hourly: { from: 0, stepMs: HOUR, reference } };
    return sumOf(sourceTooSmall.weigh!({ ...seen([]), days, counting } as unknown as Judged), 'sinks');
  };
  expect(best([95, 93, 91, 89, 86, 83, 80])).toBeGreaterThan(5);
  // A steady one, one that goes up and down, and one that got past bulk every day.
  expect(best([90, 90, 90, 90, 90, 90, 90])).toBe(0);
  expect(best([95, 85, 93, 84, 92, 83, 80])).toBe(0);
  expect(best([95, 93, 91, 89, 86, 83, 80], 'absorption')).toBe(0);
});
