/** Days without a full charge: what was not logged, and what was held full, do not count. */

import { DAY, HOUR } from '../quantity/span';
import type { Judged } from './cause';
import { fullTooRarely } from './full-too-rarely';

const DAYS = 30;

/** Thirty logged days, as far as they are. */
function seen({
  logged = (_day: number) => true,
  fulls = [] as number[],
  held = null as [number, number] | null,
}): Judged {
  const stage = (name: string, from: number, to: number) => ({ stage: name, from: from * DAY, to: to * DAY });
  return {
    system: { monitor: {}, sources: [], loads: [], bank: { chemistry: 'agm' } },
    bank: { chemistry: 'agm', capacityAh: 100 },
    days: Array.from({ length: DAYS }, (_, day) => ({
      from: day * DAY,
      to: (day + 1) * DAY,
      hours: logged(day) ? 24 : 0,
    })),
    charging: held
      ? [
          {
            charges: [
              {
                from: held[0] * DAY,
                to: held[1] * DAY,
                full: true,
                stages: [
                  stage('bulk', held[0], held[0] + 0.2),
                  stage('absorption', held[0] + 0.2, held[0] + 0.4),
                  stage('float', held[0] + 0.4, held[1]),
                ],
              },
            ],
          },
        ]
      : [],
    counting: {
      hasReading: true,
      settings: {},
      logged: { from: 0, to: DAYS * DAY },
      fulls: fulls.map((day) => ({ from: day * DAY - HOUR, to: day * DAY })),
      syncs: [],
      missed: [],
      intervals: [],
      wrong: { gain: 1, unseen: [] },
    },
  } as unknown as Judged;
}

const daysOf = (judged: Judged) => fullTooRarely.weigh!(judged).find((one) => one.group === 'days');

test('a month without a full charge is far too long for a school of a week', () => {
  const days = daysOf(seen({}))!;
  expect(days.text).toMatch(/^For 30 days no charge filled/);
  expect(days.decibans).toBeGreaterThan(8);
});

test('a full charge each week is often enough', () => {
  expect(daysOf(seen({ fulls: [5, 11, 17, 23, 28] }))!.decibans).toBeLessThan(0);
});

test('weeks in which nobody logged are not weeks without a full charge', () => {
  const days = daysOf(seen({ logged: (day) => day < 6 || day > 24, fulls: [3, 27] }))!;
  expect(days.decibans).toBeLessThan(0);
});

test('a battery that stands at float for weeks is full all the while', () => {
  expect(daysOf(seen({ held: [1, 29] }))!.decibans).toBeLessThan(0);
});

test('before and after that it is asked for as usual', () => {
  expect(daysOf(seen({ held: [16, 29] }))!.text).toMatch(/^For 16 days/);
});
