/** Clock or threshold, and who else may have ended absorption: charges set down by hand. */

import { HOUR, MINUTE } from '../quantity/span';
import type { Charge, SourceCharging, Stage } from '../charge/types';
import {
  agm,
  charge,
  lithium,
  profile,
  seen,
  source,
  stage,
  sumOf,
} from '../../../tests/support/drawnCharges';
import { absorptionTooShort } from './absorption-too-short';
import { fakeFull } from './fake-full';
import { loadThroughAbsorption } from './load-through-absorption';
import { prematureFloat } from './premature-float';
import { tailThresholdHigh } from './tail-threshold-high';

// 100 Ah: a full battery takes 2 A or less.
const absorbed = (minutes: number, endAmps: number, part: Partial<Stage> = {}): Stage =>
  stage({
    stage: 'absorption',
    volts: 14.4,
    celsius: 25,
    heldMs: minutes * MINUTE,
    endAmps,
    settledAmps: endAmps,
    endSourceAmps: endAmps,
    leastEndAmps: endAmps,
    endAmpsAreBattery: true,
    endedBy: 'unknown',
    clockMs: NaN,
    cutOff: false,
    blocked: false,
    ...part,
  });
const float = stage({ stage: 'float', volts: 13.7, usualSourceAmps: 1 });
const of = (charges: Charge[], part: Partial<SourceCharging> = {}): SourceCharging =>
  ({
    source,
    bank: agm,
    charges,
    cellMs: MINUTE,
    missing: null,
    leftEarly: null,
    yielded: { hours: 0, days: 0, batteryAmps: NaN },
    setpoints: { absorption: null, celsius: null },
    logged: { span: { from: 0, to: 5 * 24 * HOUR }, gaps: [] },
    knowsBatteryAmps: true,
    knowsOwnAmps: true,
    ...part,
  }) as unknown as SourceCharging;
const times = (count: number, stages: Stage[]) => Array.from({ length: count }, () => charge(stages));
const set = (part: object) => ({ ...source, profile: { ...profile, ...part } });

test('a clock that is set far longer did not end it: a threshold did', () => {
  const one = of(times(6, [absorbed(34, 6), float]), { source: set({ absorptionMinutes: 360 }) });
  expect(sumOf(tailThresholdHigh.weigh!(seen([one])))).toBeGreaterThan(
    sumOf(absorptionTooShort.weigh!(seen([one]))) + 10,
  );
  const unset = of(times(6, [absorbed(34, 6), float]));
  expect(sumOf(absorptionTooShort.weigh!(seen([unset])))).toBeGreaterThan(
    sumOf(tailThresholdHigh.weigh!(seen([unset]))),
  );
});

test('chargers that are all set to one clock, with only the battery logged, were not stopped by it either', () => {
  const alike = of(times(6, [absorbed(34, 6), float]), {
    source: null,
    setAlike: { absorptionMinutes: 360 },
  });
  const by = tailThresholdHigh.weigh!(seen([alike]));
  expect(sumOf(by)).toBeGreaterThan(sumOf(absorptionTooShort.weigh!(seen([alike]))) + 10);
  expect(by.map((one) => one.text)).toContain(
    'Each charger is set to 360 min of absorption and ended it after 34 min: that clock did not.',
  );
});

test('a log of ten-minute cells shows no clock to be longer than it is, where two of them are half of it', () => {
  const slow = (cellMs: number) =>
    tailThresholdHigh.weigh!(
      seen([of(times(6, [absorbed(10, 6), float]), { source: set({ absorptionMinutes: 40 }), cellMs })]),
    );
  expect(slow(2 * MINUTE).some(({ text }) => text.includes('that clock did not'))).toBe(true);
  expect(slow(10 * MINUTE).some(({ text }) => text.includes('that clock did not'))).toBe(false);
});

test('in the cold the battery takes its charge slowly: hours of absorption are not too short, half an hour is', () => {
  const short = (minutes: number, celsius: number) =>
    sumOf(
      absorptionTooShort.weigh!(
        seen([of(times(6, [absorbed(minutes, 6, { endedBy: 'timer', celsius }), float]))]),
      ),
    );
  expect(short(240, -5)).toBeLessThan(short(240, 20) - 10);
  expect(short(120, -5)).toBeLessThan(short(120, 20) - 5);
  expect(short(180, -5)).toBeLessThan(short(180, 20) - 8);
  expect(short(30, -5)).toBe(short(30, 20));
});

test('near the tail it matters little that a clock ended it, and that little is missing', () => {
  const missing = (ampHours: number) =>
    ({ minutes: 90, minutesBand: { min: 60, max: 120 }, ampHours, charges: 6 }) as SourceCharging['missing'];
  const weighed = (endAmps: number, ampHours: number) =>
    sumOf(
      absorptionTooShort.weigh!(
        seen([
          of(times(6, [absorbed(240, endAmps, { endedBy: 'timer', clockMs: 240 * MINUTE }), float]), {
            source: set({ absorptionMinutes: 240 }),
            missing: missing(ampHours),
          }),
        ]),
      ),
    );
  // With the prior of five against it the first is no more than possible.
  expect(weighed(3.3, 2.9)).toBeLessThan(15);
  expect(weighed(3.3, 8)).toBeGreaterThan(weighed(3.3, 2.9) + 2);
  expect(weighed(4.5, 2.9)).toBeGreaterThan(20);
});

test('near the tail a clock of three quarters of an hour counts for more than one of hours', () => {
  const weighed = (minutes: number, endAmps = 3.9) =>
    sumOf(
      absorptionTooShort.weigh!(
        seen([
          of(times(8, [absorbed(minutes, endAmps, { endedBy: 'timer', clockMs: minutes * MINUTE }), float]), {
            source: set({ absorptionMinutes: minutes }),
          }),
        ]),
      ),
    );
  expect(weighed(45)).toBeGreaterThan(weighed(240) + 5);
  expect(weighed(45)).toBeGreaterThan(weighed(45, 3.1) + 3);
});

test('hours of absorption that leave few tails are long enough for most batteries; they are not where many are left', () => {
  const weighed = (minutes: number, endAmps: number) =>
    sumOf(
      absorptionTooShort.weigh!(
        seen([
          of(times(8, [absorbed(minutes, endAmps, { endedBy: 'timer', clockMs: minutes * MINUTE }), float])),
        ]),
      ),
      'long',
    );
  expect(weighed(300, 5.4)).toBeLessThan(-3);
  expect(weighed(300, 9)).toBe(0);
  expect(weighed(120, 5.4)).toBe(0);
});

test('a threshold that no battery asks for is too high, whatever the loads draw', () => {
  const ended = (ownAmps: number) =>
    absorbed(12, 3.9, { endedBy: 'tail', endSourceAmps: ownAmps, leastEndAmps: ownAmps });
  const weighed = (ownAmps: number) =>
    sumOf(tailThresholdHigh.weigh!(seen([of(times(6, [ended(ownAmps), float]))])), 'clock');
  expect(weighed(8)).toBeGreaterThan(weighed(5) + 5);
});

test('clouds that cut most plateaus short do not make a clock a threshold', () => {
  const charges = [2, 3, 2, 17, 17].map((minutes) => charge([absorbed(minutes, 6), float]));
  expect(sumOf(tailThresholdHigh.weigh!(seen([of(charges)])), 'clock')).toBeLessThanOrEqual(0);
  const short = [2, 3, 2, 3, 2].map((minutes) => charge([absorbed(minutes, 6), float]));
  expect(sumOf(tailThresholdHigh.weigh!(seen([of(short)])), 'clock')).toBeGreaterThan(5);
  // In a log of ten-minute cells they may have been longer.
  const coarse = of(short, { cellMs: 10 * MINUTE });
  expect(sumOf(tailThresholdHigh.weigh!(seen([coarse])), 'clock')).toBeLessThanOrEqual(0);
});

test('loads of the evening, when absorption ends, are not those of the night: they show soon after', () => {
  const own = absorbed(180, 6.5, { endAmpsAreBattery: false, endedBy: 'timer', clockMs: 180 * MINUTE });
  const after = (soonSourceAmps: number) =>
    sumOf(absorptionTooShort.weigh!(seen([of(times(9, [own, { ...float, soonSourceAmps }]))])), 'current');
  expect(after(1)).toBeGreaterThan(6);
  expect(after(5)).toBeLessThan(0);
});

test('bulk that goes to float at once, far above the tail, is a threshold; a float that only dipped is none', () => {
  const bulk = (endSourceAmps: number) =>
    stage({
      stage: 'bulk',
      topVolts: 14.4,
      endAmps: endSourceAmps - 1,
      endSourceAmps,
      endAmpsAreBattery: true,
      cutOff: false,
    });
  const at = (amps: number) => seen([of(times(5, [bulk(amps), float]))]);
  expect(sumOf(tailThresholdHigh.weigh!(at(8)))).toBeGreaterThan(15);
  expect(tailThresholdHigh.weigh!(at(1.5))).toEqual([]);
});

describe('a charger that others push off', () => {
  const left = { ended: 5, ownAmps: 1, batteryAmps: 6, othersAmps: 5 };
  const pushed = of(times(5, [absorbed(30, 6)]), {
    leftEarly: { ...left, stages: times(5, [absorbed(30, 6)]).map((one) => one.stages[0]!) },
  });
  const leader = (endedBy: Stage['endedBy'], endAmps: number) =>
    of(times(5, [absorbed(40, endAmps, { endedBy }), float]), {
      source: { ...source, id: 'sun', name: 'Solar controller', kind: 'solar' },
      leftEarly: { ...left, stages: [] },
    });
  const sum = (...charging: SourceCharging[]) => sumOf(prematureFloat.weigh!(seen(charging)));
  test('is the fault where the one that goes on cannot finish', () => {
    expect(sum(pushed, leader('source-lost', 4))).toBeGreaterThan(12);
  });
  test('and is not, where the leader itself ends early by its clock', () => {
    expect(sum(pushed, leader('timer', 5))).toBeLessThan(sum(pushed, leader('source-lost', 5)) - 8);
    // The days on which it goes on to the tail count by their share.
    const onSome = { ...leader('tail', 1.5), charges: [...leader('tail', 1.5).charges] };
    onSome.charges = [...onSome.charges, ...leader('source-lost', 4).charges].map((one, day) => ({
      ...one,
      from: day * 24 * HOUR,
      to: (day * 24 + 8) * HOUR,
    }));
    expect(sum(pushed, onSome)).toBeGreaterThan(sum(pushed, leader('tail', 1.5)));
    // One that goes on to the tail leaves nothing short.
    expect(sum(pushed, leader('tail', 1.5))).toBeLessThan(sum(pushed, leader('source-lost', 4)) - 6);
  });
});

describe('a battery that has shrunk', () => {
  // 12.24 V is about half of a rested lead battery (Battery Council International, from memory).
  const began = { volts: 12.24, amps: -0.5 };
  const sourceOf = (ampHours: number, last: Stage, full: boolean) =>
    of(Array.from({ length: 5 }, () => ({ ...charge([last], began), ampHours, full })));
  const sum = (ampHours: number, last: Stage, full = false, sources = 1) =>
    sumOf(fakeFull.weigh!(seen(Array.from({ length: sources }, () => sourceOf(ampHours, last, full)))));
  test('is nearly full after hours of absorption, though it gasses above its tail', () => {
    expect(sum(15, absorbed(240, 3))).toBeGreaterThan(15);
    expect(sum(50, absorbed(240, 3))).toBeLessThan(0);
  });
  test('is not spoken against by a figure that only its doubts lift so high', () => {
    // 12.42 V is about 75 % by the same table: 20 points missing, or 15 with the doubt.
    const implied = (ampHours: number) =>
      sumOf(
        fakeFull.weigh!(
          seen([
            of(
              Array.from({ length: 5 }, () => ({
                ...charge([absorbed(240, 1)], { volts: 12.42, amps: -0.5 }),
                ampHours,
                full: true,
              })),
            ),
          ]),
        ),
      );
    expect(implied(18)).toBe(0);
    expect(implied(30)).toBeLessThan(-5);
  });
  test('is not judged by what loads draw once it is full while the charger goes on', () => {
    const drawn = stage({ stage: 'bulk', ampHours: -35 });
    const after = (ampHours: number) => {
      const one = { ...charge([absorbed(240, 1), float, drawn], began), ampHours, full: true };
      return sumOf(fakeFull.weigh!(seen([of(Array(5).fill(one))])));
    };
    expect(after(15)).toBe(sum(50, absorbed(240, 1), true));
    expect(after(-20)).toBe(sum(15, absorbed(240, 1), true));
  });
  test('is told by its charges once, though two sources see them', () => {
    expect(sum(15, absorbed(240, 3), false, 2)).toBe(sum(15, absorbed(240, 3)));
  });
  test('is not judged by a current that falls at too low a voltage, or that still stands high', () => {
    expect(sum(15, absorbed(240, 3, { volts: 13.9 }))).toBe(0);
    expect(sum(15, absorbed(240, 6))).toBe(0);
    expect(sum(15, absorbed(60, 3))).toBe(0);
  });
});

test('loads that hide the tail on every second charge count by how long it then goes on', () => {
  const past = (hours: number) =>
    charge([absorbed(300, 0.5, { pastTailMs: hours * HOUR, endSourceAmps: 5 })]);
  const sum = (hours: number[]) => sumOf(loadThroughAbsorption.weigh!(seen([of(hours.map(past))])));
  expect(sum([4, 0.1, 4, 0.1, 4])).toBeGreaterThan(12);
  expect(sum([0.1, 0.1, 4, 0.1, 0.1])).toBeLessThan(0);
  // On every charge an hour and three quarters are enough; an hour and a quarter stay open.
  expect(sum([1.8, 1.8, 1.7, 1.8, 1.9, 1.8])).toBeGreaterThan(13);
  expect(sum([1.2, 1.3, 1.2, 1.3, 1.2, 1.2])).toBeLessThan(13);
});

test('a charger that came down to the tail itself saw it', () => {
  const past = (endSourceAmps: number) =>
    charge([absorbed(300, 0.5, { pastTailMs: 4 * HOUR, endSourceAmps })]);
  const sum = (endSourceAmps: number) =>
    sumOf(loadThroughAbsorption.weigh!(seen([of(times(5, past(endSourceAmps).stages))])));
  expect(sum(5)).toBeGreaterThan(12);
  expect(sum(0.6)).toBeLessThan(0);
});

test('a charger whose clock ends absorption after the usual hours is kept by no loads, though the battery was at its tail before', () => {
  const sum = (minutes: number, bank: typeof agm | typeof lithium = agm) => {
    const one = charge([absorbed(minutes, 1.9, { pastTailMs: 3.2 * HOUR, endSourceAmps: 4.6 })]);
    return loadThroughAbsorption.weigh!(seen([of(Array(6).fill(one), { bank })]));
  };
  expect(sumOf(sum(540))).toBeGreaterThan(13);
  expect(sumOf(sum(240))).toBeLessThan(0);
  expect(sum(240)[0]!.text).toBe('Absorption was over after 4 h, which is usual, whatever the loads took.');
  // Lithium needs an hour or two.
  expect(sumOf(sum(240, lithium))).toBeGreaterThan(0);
});

test('an hour past the tail is enough where absorption goes on for most of the day, time after time', () => {
  const sum = (hours: number) => {
    const one = charge([absorbed(60 * hours, 0.5, { pastTailMs: HOUR, endSourceAmps: 5 })]);
    return sumOf(loadThroughAbsorption.weigh!(seen([of(Array(8).fill(one))])));
  };
  expect(sum(9)).toBeGreaterThanOrEqual(sum(5) + 4);
  expect(sum(8)).toBeGreaterThan(14);
});

test('a threshold that the loads hide counts from where the battery is down to it, though that is under its tail', () => {
  const hidden = (pastSettingMs: number) =>
    charge([absorbed(480, 0.7, { pastTailMs: 0.4 * HOUR, pastSettingMs, endSourceAmps: 2.4 })]);
  const sum = (hours: number) =>
    sumOf(loadThroughAbsorption.weigh!(seen([of(times(6, hidden(hours * HOUR).stages))])));
  expect(sum(2.8)).toBeGreaterThan(13);
  expect(sum(0.3)).toBeLessThan(0);
  expect(sum(NaN)).toBeLessThan(0);
});

test('absorptions of eight days on a charger that is never off are eight, and each only a little long', () => {
  const day = (k: number, pastHours: number) =>
    absorbed(300, 0.5, {
      from: 24 * k * HOUR,
      to: (24 * k + 5) * HOUR,
      pastTailMs: pastHours * HOUR,
      endSourceAmps: 5,
    });
  const sum = (pastHours: number) => {
    const stages = Array.from({ length: 8 }, (_, k) => day(k, pastHours));
    return sumOf(loadThroughAbsorption.weigh!(seen([of([charge(stages)])])));
  };
  expect(sum(0.8)).toBeLessThan(0);
  expect(sum(4)).toBeGreaterThan(12);
});

test('a clock of a quarter of an hour is one, however little of it a slow log shows', () => {
  const short = (cellMs: number) => of(times(5, [absorbed(5, 6), float]), { cellMs });
  const says = (cellMs: number) =>
    absorptionTooShort.weigh!(seen([short(cellMs)])).some((one) =>
      one.text.includes('no clock is set so short'),
    );
  expect(says(MINUTE)).toBe(true);
  expect(says(5 * MINUTE)).toBe(false);
});
