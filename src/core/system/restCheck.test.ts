/** Widths of the bands are common practice with no source; the tables' own points are checked in tests/reference. */

import { demoSystem } from '../simulate/demo';
import { checkRest } from './restCheck';

const flooded = { chemistry: 'flooded', cellsInSeries: 6 } as const;
const agm = { chemistry: 'agm', cellsInSeries: 6 } as const;
const lithium = { chemistry: 'lfp', cellsInSeries: 4 } as const;
const rested = { hoursAtRest: 12, celsius: 25 };

test('in step: a rested flooded battery within the band of its reading', () => {
  const check = checkRest(flooded, { ...rested, volts: 12.45, displayedPercent: 78 });
  expect(check.verdict).toBe('in-step');
  expect(check.percent).toBeCloseTo(75, 6);
  expect(check.low!).toBeGreaterThan(60);
  expect(check.high!).toBeLessThan(90);
  expect(check.sentence).toBe(
    'The monitor shows 78 %, and 12.45 V at rest stands for about 75 % (67 % to 83 %): the two agree.',
  );
});

test('out of step: full on the display, empty at rest, and the reverse', () => {
  expect(checkRest(agm, { ...rested, volts: 11.95, displayedPercent: 100 })).toMatchObject({
    verdict: 'out-of-step',
    sentence: expect.stringMatching(/The reading is too high/),
  });
  expect(checkRest(agm, { ...rested, volts: 12.8, displayedPercent: 30 })).toMatchObject({
    verdict: 'out-of-step',
    sentence: expect.stringMatching(/The battery is better than the reading/),
  });
});

test('surface charge widens the band downwards, recovery upwards, and rest narrows both', () => {
  const at = (hoursAtRest: number, after?: 'charge' | 'discharge') =>
    checkRest(flooded, { volts: 12.5, celsius: 25, hoursAtRest, ...(after ? { after } : {}) });
  const width = (check: ReturnType<typeof at>) => check.high! - check.low!;
  expect(at(0.5, 'charge').low!).toBeLessThan(at(12, 'charge').low! - 20);
  expect(at(0.5, 'discharge').high!).toBeGreaterThan(at(12, 'discharge').high!);
  expect(at(0.5, 'discharge').low!).toBeCloseTo(at(12, 'discharge').low!, 6);
  expect(width(at(0.5))).toBeGreaterThan(width(at(4)));
  expect(width(at(4))).toBeGreaterThan(width(at(24)));
  expect(at(0.5, 'charge').reasons.join(' ')).toMatch(/surface charge may still lift/);
  expect(at(0.5, 'charge')).toMatchObject({ verdict: 'cannot-tell' });
});

test('lithium: wide in the flat part, sharp near the ends', () => {
  const flat = checkRest(lithium, { ...rested, volts: 13.15, displayedPercent: 75 });
  expect(flat.verdict).toBe('cannot-tell');
  expect(flat.high! - flat.low!).toBeGreaterThan(45);
  expect(flat.reasons.join(' ')).toMatch(/curve of lithium is flat/);
  expect(checkRest(lithium, { ...rested, volts: 12.4, displayedPercent: 60 }).verdict).toBe('out-of-step');
  expect(checkRest(lithium, { ...rested, volts: 13.55, displayedPercent: 97 }).verdict).toBe('in-step');
  expect(checkRest(lithium, { ...rested, volts: 13.5, displayedPercent: 21 }).verdict).toBe('out-of-step');
});

test('volts scale with the cells', () => {
  const one = checkRest(flooded, { ...rested, volts: 12.3 });
  const four = checkRest({ ...flooded, cellsInSeries: 24 }, { ...rested, volts: 49.2 });
  expect(four.low).toBeCloseTo(one.low!, 9);
  expect(four.high).toBeCloseTo(one.high!, 9);
});

test.each([
  [{}, { volts: 12.5 }, /chemistry of the battery is not known/],
  [{ chemistry: 'agm' as const }, { volts: 12.5 }, /number of cells/],
  [flooded, {}, /rest voltage was not measured/],
  [flooded, { volts: 13.9 }, /13\.90 V is a charging voltage/],
  [flooded, { volts: 6.1 }, /too low for 6 cells/],
])('not enough to tell: %p %p', (bank, reading, sentence) => {
  const check = checkRest(bank, { ...reading, displayedPercent: 50 });
  expect(check).toMatchObject({ verdict: 'cannot-tell', percent: null });
  expect(check.sentence).toMatch(sentence);
});

test('the demo’s first readings say what their stories say', () => {
  const verdict = (slug: string) => {
    const { system, job } = demoSystem(slug);
    return checkRest(system.bank, job.reading!).verdict;
  };
  expect(verdict('vaccine-cold-room')).toBe('out-of-step');
  expect(verdict('ferry-lamps')).toBe('out-of-step');
});
