/** What ended an absorption, over all charges of a source: stages set down by hand. */

import { charge, source, stage } from '../../../tests/support/drawnCharges';
import { drawnView } from '../../../tests/support/drawnView';
import { demoSite } from '../simulate/demo';
import { HOUR, MINUTE } from '../quantity/span';
import type { Source } from '../system/schema';
import type { Charge, Stage } from './types';
import { whatEnded } from './ended';

const { system } = demoSite('tide-gauge');
const bare = { ...source, profile: {} };

interface Day {
  minutes: number;
  own: number;
  battery?: number;
  /** Minutes of it that the charger calls absorption, the last ones; it calls nothing anything where this is not given. */
  called?: number;
}

/** Charges with an absorption of so many minutes that ends at such a current of the source's own, and what follows it. */
function ended(
  days: Day[],
  next: Stage['stage'] = 'float',
  step = MINUTE,
  by: Source = bare,
): Stage['endedBy'][] {
  const charges: Charge[] = days.map(({ minutes, own, battery = own }, i) => {
    const from = (24 * i + 2) * HOUR;
    const to = from + minutes * MINUTE;
    const part = { cutOff: false, blocked: false, dips: 0, endAmpsAreBattery: true };
    return {
      ...charge([
        stage({ ...part, stage: 'bulk', from: from - HOUR, to: from }),
        stage({
          ...part,
          stage: 'absorption',
          from,
          to,
          heldMs: to - from,
          endAmps: battery,
          endSourceAmps: own,
          leastEndAmps: own,
        }),
        stage({ ...part, stage: next, from: to, to: to + 4 * HOUR }),
      ]),
      from: from - HOUR,
      to: to + 4 * HOUR,
    };
  });
  const held = (minute: number) => {
    const day = days[Math.floor(minute / 1440)];
    return day && (minute % 1440) - 120 >= 0 && (minute % 1440) - 120 < day.minutes ? day : null;
  };
  const view = drawnView({
    minutes: days.length * 1440,
    volts: (minute) => (held(minute) ? 14.4 : 13),
    amps: () => 1,
    step,
    reported: days.some(({ called }) => called)
      ? (minute) => {
          const day = held(minute);
          return day && (minute % 1440) - 120 >= day.minutes - (day.called ?? 0) ? 'absorption' : 'bulk';
        }
      : undefined,
  });
  const absorption = { volts: 14.4, width: 0.02, hours: 3, days: 6, called: null };
  whatEnded(charges, view, by, system, { absorption, voltsPerC: 0 });
  return charges.map(({ stages }) => stages[1]!.endedBy);
}

const CURRENTS = [8, 5, 7, 4, 6, 9];

test('the same time again at differing currents is a clock, also where others go on holding the voltage', () => {
  const days = CURRENTS.map((own) => ({ minutes: 30, own, battery: 12 + own / 2 }));
  expect(new Set(ended(days))).toEqual(new Set(['timer']));
  expect(new Set(ended(days, 'hold'))).toEqual(new Set(['timer']));
});

test('a charger that others push off within minutes has ended nothing itself', () => {
  const days = CURRENTS.map((own) => ({ minutes: 5, own }));
  expect(ended(days, 'hold')).not.toContain('timer');
});

test('the same current again after differing times is a threshold', () => {
  const days = [30, 55, 41, 80, 36, 62].map((minutes) => ({ minutes, own: 6 }));
  expect(new Set(ended(days))).toEqual(new Set(['tail']));
});

test('of times that are nearly alike and currents that are quite alike, the currents tell', () => {
  const days = [56, 50, 49, 56, 54, 51].map((minutes) => ({ minutes, own: 22.5 }));
  expect(new Set(ended(days))).toEqual(new Set(['tail']));
});

test('where both repeat as sharply, nine minutes are no clock', () => {
  const days = CURRENTS.map(() => ({ minutes: 9, own: 10 }));
  expect(new Set(ended(days))).toEqual(new Set(['tail']));
});

test('what repeats after seven minutes at differing currents is no clock; after twelve it may be', () => {
  const days = (minutes: number) => CURRENTS.map((own) => ({ minutes, own, battery: 12 + own / 2 }));
  expect(ended(days(7))).not.toContain('timer');
  expect(new Set(ended(days(12)))).toEqual(new Set(['timer']));
});

test('a log of ten-minute cells shows no clock of ten minutes', () => {
  const days = CURRENTS.map((own) => ({ minutes: 10, own }));
  expect(ended(days, 'float', 10 * MINUTE)).not.toContain('timer');
  const long = CURRENTS.map((own) => ({ minutes: 120, own }));
  expect(new Set(ended(long, 'float', 10 * MINUTE))).toEqual(new Set(['timer']));
});

test('a clock that is set and that the log agrees with has ended it, though days that are alike end at like currents', () => {
  const days = CURRENTS.map((_, i) => ({ minutes: 20 + (i % 2) * 5, own: 6 + 0.1 * i }));
  const set = (profile: object) => ended(days, 'float', 5 * MINUTE, { ...bare, profile });
  expect(new Set(set({ absorptionMinutes: 20 }))).toEqual(new Set(['timer']));
  expect(new Set(set({}))).toEqual(new Set(['unknown']));
  expect(new Set(set({ absorptionMinutes: 20, tailA: 6.2 }))).not.toContain('timer');
});

test('what repeats is the time that the charger itself called absorption: a clock that it started late', () => {
  const days = [21, 34, 25, 29, 19, 23].map((minutes) => ({ minutes, own: 15 }));
  const set = { ...bare, profile: { absorptionMinutes: 15 } };
  expect(new Set(ended(days, 'float', MINUTE, set))).toEqual(new Set(['tail']));
  const called = days.map((day) => ({ ...day, called: 15 }));
  expect(new Set(ended(called, 'float', MINUTE, set))).toEqual(new Set(['timer']));
});
